import { meetEdges, NO_TWIN } from './edges.ts'
import { mixHash, tableSize } from './position-groups.ts'
import { triangleAreas } from './sample-surface.ts'
import { nextEdge, placeMesh, smallestAngleOf } from './triangle-mesh.ts'

/** What is wrong with a mesh as a surface. Triangles are given by number, edges by their half-edge. */
export interface MeshFaults {
  /** Triangles that stand in the same three places as an earlier one and face the same way. */
  doubles: Uint32Array
  /** Triangles without area. */
  withoutArea: Uint32Array
  /** Triangles with an angle under the limit that still have area. */
  slivers: Uint32Array
  /** Rings of places round each hole or open border, in the order in which its edges run. */
  openLoops: Uint32Array[]
  /** Half-edges where more than two triangles meet, one for each such edge. */
  nonManifoldEdges: Uint32Array
  /** Corners that no triangle uses. */
  unusedCorners: number
}

/** Triangles with a smaller angle than this are slivers: they shade badly and hit nothing. */
export const SLIVER_DEGREES = 1

/**
 * Looks for doubles, slivers, holes and edges where more than two triangles meet.
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 */
export function findMeshFaults(positions: Float32Array, indices: Uint32Array, sliverDegrees = SLIVER_DEGREES): MeshFaults {
  const mesh = placeMesh(positions, indices)
  const { places, placeOfIndex } = mesh
  const areas = triangleAreas(positions, indices)
  const isKnown = tripleSet(areas.length)
  const doubles: number[] = []
  const withoutArea: number[] = []
  const slivers: number[] = []
  for (let triangle = 0; triangle < areas.length; triangle++) {
    const corners = [placeOfIndex[triangle * 3], placeOfIndex[triangle * 3 + 1], placeOfIndex[triangle * 3 + 2]]
    // A triangle seen from behind is another one: back faces are no doubles.
    const least = corners.indexOf(Math.min(...corners))
    const repeated = isKnown(corners[least], corners[(least + 1) % 3], corners[(least + 2) % 3])
    if (areas[triangle] === 0 || corners[0] === corners[1] || corners[1] === corners[2] || corners[2] === corners[0]) withoutArea.push(triangle)
    else if (repeated) doubles.push(triangle)
    else if (smallestAngleOf(places, corners[0], corners[1], corners[2]) < sliverDegrees) slivers.push(triangle)
  }
  const used = new Uint8Array(positions.length / 3)
  for (const corner of indices) used[corner] = 1
  return {
    doubles: Uint32Array.from(doubles),
    withoutArea: Uint32Array.from(withoutArea),
    slivers: Uint32Array.from(slivers),
    openLoops: openLoops(placeOfIndex, mesh.twin),
    nonManifoldEdges: crowdedEdges(placeOfIndex),
    unusedCorners: used.reduce((sum, each) => sum + 1 - each, 0),
  }
}

/** A set of number triples: tells whether one was put in before, and puts it in. */
function tripleSet(most: number): (a: number, b: number, c: number) => boolean {
  const mask = tableSize(most) - 1
  const table = new Int32Array(mask + 1).fill(-1)
  const triples = new Uint32Array(most * 3)
  let count = 0
  return (a, b, c) => {
    let slot = mixHash(a, b, c) & mask
    for (; table[slot] >= 0; slot = (slot + 1) & mask) {
      const at = table[slot] * 3
      if (triples[at] === a && triples[at + 1] === b && triples[at + 2] === c) return true
    }
    triples.set([a, b, c], count * 3)
    table[slot] = count++
    return false
  }
}

/** One half-edge of each edge where more than two triangles meet. */
function crowdedEdges(placeOfIndex: Uint32Array): Uint32Array {
  const { twin, borderEdges } = meetEdges(placeOfIndex)
  const counts = new Map<string, { edge: number; count: number }>()
  if (twin.every((each) => each !== NO_TWIN) || borderEdges === twin.length) return new Uint32Array(0)
  for (let edge = 0; edge < placeOfIndex.length; edge++) {
    if (twin[edge] !== NO_TWIN) continue
    const ends = [placeOfIndex[edge], placeOfIndex[nextEdge(edge)]].sort((a, b) => a - b).join(' ')
    const known = counts.get(ends)
    if (known) known.count++
    else counts.set(ends, { edge, count: 1 })
  }
  return Uint32Array.from([...counts.values()].filter(({ count }) => count > 2).map(({ edge }) => edge))
}

/** Rings of border edges; a ring that branches ends where it first comes back to a place. */
function openLoops(placeOfIndex: Uint32Array, twin: Uint32Array): Uint32Array[] {
  const crowded = new Set<string>()
  const seen = new Set<string>()
  const key = (a: number, b: number): string => `${a} ${b}`
  for (let edge = 0; edge < placeOfIndex.length; edge++) {
    if (twin[edge] !== NO_TWIN) continue
    const name = key(Math.min(placeOfIndex[edge], placeOfIndex[nextEdge(edge)]), Math.max(placeOfIndex[edge], placeOfIndex[nextEdge(edge)]))
    if (seen.has(name)) crowded.add(name)
    seen.add(name)
  }
  const outgoing = new Map<number, number[]>()
  for (let edge = 0; edge < placeOfIndex.length; edge++) {
    if (twin[edge] !== NO_TWIN) continue
    const [from, to] = [placeOfIndex[edge], placeOfIndex[nextEdge(edge)]]
    if (from === to || crowded.has(key(Math.min(from, to), Math.max(from, to)))) continue
    outgoing.set(from, [...(outgoing.get(from) ?? []), to])
  }
  const loops: Uint32Array[] = []
  for (const start of [...outgoing.keys()]) {
    while ((outgoing.get(start)?.length ?? 0) > 0) {
      const loop = [start]
      let at = start
      for (let step = 0; step <= placeOfIndex.length; step++) {
        const next = outgoing.get(at)?.pop()
        if (next === undefined || next === start) break
        loop.push(next)
        at = next
      }
      if (loop.length >= 3) loops.push(Uint32Array.from(loop))
    }
  }
  return loops
}
