import { lengthOfXyz } from '../../maths/vectors.ts'
import { NO_TWIN } from './edges.ts'
import { mixHash, tableSize } from './position-groups.ts'
import { nextEdge, placeMesh, type PlaceMesh } from './triangle-mesh.ts'

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
 *
 * @example const { openLoops, slivers } = findMeshFaults(positions, indices)
 */
export function findMeshFaults(
  positions: Float32Array,
  indices: Uint32Array,
  sliverDegrees = SLIVER_DEGREES,
): MeshFaults {
  const used = new Uint8Array(positions.length / 3)
  for (const corner of indices) used[corner] = 1
  return {
    ...faultsOf(placeMesh(positions, indices), sliverDegrees),
    unusedCorners: used.reduce((sum, each) => sum + 1 - each, 0),
  }
}

/**
 * The same for a mesh that is already known by its places; which of its corners are used is not looked at.
 * @example const { openLoops } = faultsOf(placeMesh(positions, indices))
 */
export function faultsOf(
  { places, placeOfIndex, twin }: PlaceMesh,
  sliverDegrees = SLIVER_DEGREES,
): Omit<MeshFaults, 'unusedCorners'> {
  const triangleCount = placeOfIndex.length / 3
  const isKnown = tripleSet(triangleCount)
  const sine = Math.sin((sliverDegrees * Math.PI) / 180)
  const doubles: number[] = []
  const withoutArea: number[] = []
  const slivers: number[] = []
  for (let triangle = 0; triangle < triangleCount; triangle++) {
    const [a, b, c] = [placeOfIndex[triangle * 3], placeOfIndex[triangle * 3 + 1], placeOfIndex[triangle * 3 + 2]]
    const height = leastSine(places, a, b, c)
    if (height === 0) withoutArea.push(triangle)
    else if (a < b ? (a < c ? isKnown(a, b, c) : isKnown(c, a, b)) : b < c ? isKnown(b, c, a) : isKnown(c, a, b))
      doubles.push(triangle)
    else if (height < sine) slivers.push(triangle)
  }
  return {
    doubles: Uint32Array.from(doubles),
    withoutArea: Uint32Array.from(withoutArea),
    slivers: Uint32Array.from(slivers),
    openLoops: openLoops(placeOfIndex, twin),
    nonManifoldEdges: crowdedEdges(placeOfIndex, twin),
  }
}

/** Sine of a triangle's smallest angle, between its two longest sides; 0 when it has no area. */
function leastSine(places: Float32Array, a: number, b: number, c: number): number {
  if (a === b || b === c || c === a) return 0
  const [ux, uy, uz] = [
    places[b * 3] - places[a * 3],
    places[b * 3 + 1] - places[a * 3 + 1],
    places[b * 3 + 2] - places[a * 3 + 2],
  ]
  const [vx, vy, vz] = [
    places[c * 3] - places[a * 3],
    places[c * 3 + 1] - places[a * 3 + 1],
    places[c * 3 + 2] - places[a * 3 + 2],
  ]
  const doubleArea = lengthOfXyz(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx)
  const [ab, ac] = [lengthOfXyz(ux, uy, uz), lengthOfXyz(vx, vy, vz)]
  const bc = lengthOfXyz(ux - vx, uy - vy, uz - vz)
  const shortest = Math.min(ab, ac, bc)
  return doubleArea === 0 ? 0 : (doubleArea * shortest) / (ab * ac * bc)
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
function crowdedEdges(placeOfIndex: Uint32Array, twin: Uint32Array): Uint32Array {
  const counts = new Map<string, { edge: number; count: number }>()
  for (let edge = 0; edge < placeOfIndex.length; edge++) {
    if (twin[edge] !== NO_TWIN) continue
    const [a, b] = [placeOfIndex[edge], placeOfIndex[nextEdge(edge)]]
    const ends = a < b ? `${a} ${b}` : `${b} ${a}`
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
    const name = key(
      Math.min(placeOfIndex[edge], placeOfIndex[nextEdge(edge)]),
      Math.max(placeOfIndex[edge], placeOfIndex[nextEdge(edge)]),
    )
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
