import type { Manifold, ManifoldToplevel } from 'manifold-3d'
import type { Rulebook } from '../game/schema.ts'
import { enclosed } from './check-bodies.ts'
import { inScene } from './check-mesh.ts'
import { isLevelGeometry, surfacesAsSolids } from './level-geometry.ts'
import type { LoadedItem } from './load-item.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import type { LoadedPrimitive } from './loaders/mesh/read-primitive.ts'
import { bodyWord } from './sorted-nodes.ts'

const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

let starting: Promise<ManifoldToplevel> | null = null

/** Loads the library that cuts bodies once, where something is cut. */
function startCutting(): Promise<ManifoldToplevel> {
  starting ??= import('manifold-3d').then(async ({ default: start }) => {
    const library = await start()
    library.setup()
    return library
  })
  return starting
}

/**
 * Level geometry as one walks through it: each hollow cut out of the solids that it lies in, whose walls show what the
 * hollow shows. A body that is not closed is left as it stands, which the log has told.
 * @returns the item itself where nothing is cut
 *
 * @example const walked = await cutHollows(item, rulebook)
 */
export async function cutHollows(item: LoadedItem, rulebook: Rulebook): Promise<LoadedItem> {
  const kind = rulebook.kinds.find(({ id }) => id === item.kind)
  if (!kind || !isLevelGeometry(kind)) return item
  const hollows = item.view.filter(({ name }) => bodyWord(name, rulebook, kind) === 'hollow')
  if (hollows.length === 0) return item
  const { Manifold, Mesh } = await startCutting()
  const made: Manifold[] = []
  const keep = (body: Manifold): Manifold => {
    made.push(body)
    return body
  }
  const materialOf = new Map<number, string | null>()
  const bodyOf = (node: LoadedNode): Manifold | null => {
    const volume = enclosed(node)
    if (volume === null || volume === 0) return null
    const runs = node.primitives.map((primitive) => {
      const id = Manifold.reserveIDs(1)
      materialOf.set(id, primitive.material)
      return { id, positions: inScene(node, primitive.positions), indices: primitive.indices }
    })
    try {
      return keep(new Manifold(new Mesh(joined(runs, volume < 0))))
    } catch {
      return null
    }
  }
  try {
    const rooms = hollows.flatMap((node) => bodyOf(node) ?? [])
    if (rooms.length === 0) return item
    const room = keep(Manifold.union(rooms))
    const view = item.view.flatMap((node) => {
      const word = bodyWord(node.name, rulebook, kind)
      if (word === 'hollow') return []
      const body = word === 'solid' ? bodyOf(node) : null
      if (!body) return [node]
      const cut = keep(body.subtract(room))
      return cut.isEmpty() ? [] : [{ ...node, world: identity, primitives: surfacesOf(cut, materialOf) }]
    })
    const standing = view.filter(({ name }) => bodyWord(name, rulebook, kind) === 'solid')
    const surface = (material: string): string => item.materials.get(material)?.surface ?? ''
    return { ...item, view, solids: surfacesAsSolids(standing, surface, rulebook) }
  } finally {
    for (const body of made) body.delete()
  }
}

/** Surfaces of a body run together, each with its number, corners of one place joined. */
function joined(runs: { id: number; positions: Float32Array; indices: Uint32Array }[], turned: boolean) {
  const places = new Map<string, number>()
  const vertProperties: number[] = []
  const triVerts: number[] = []
  const runIndex = [0]
  for (const { positions, indices } of runs) {
    const placeOf = (corner: number): number => {
      const at = [0, 1, 2].map((axis) => positions[corner * 3 + axis] + 0)
      const key = at.join(' ')
      const known = places.get(key)
      if (known !== undefined) return known
      places.set(key, places.size)
      vertProperties.push(...at)
      return places.size - 1
    }
    for (let at = 0; at < indices.length; at += 3) {
      const [a, b, c] = [indices[at], indices[at + 1], indices[at + 2]].map(placeOf)
      if (a === b || b === c || a === c) continue
      triVerts.push(a, ...(turned ? [c, b] : [b, c]))
    }
    runIndex.push(triVerts.length)
  }
  return {
    numProp: 3,
    vertProperties: Float32Array.from(vertProperties),
    triVerts: Uint32Array.from(triVerts),
    runIndex: Uint32Array.from(runIndex),
    runOriginalID: Uint32Array.from(runs, ({ id }) => id),
  }
}

/** What a cut body shows, a surface for each material, every triangle with its own flat normal. */
function surfacesOf(body: Manifold, materialOf: ReadonlyMap<number, string | null>): LoadedPrimitive[] {
  const { numProp, vertProperties, triVerts, runIndex, runOriginalID } = body.getMesh()
  const byMaterial = new Map<string | null, number[]>()
  for (const [run, id] of runOriginalID.entries()) {
    if (runIndex[run] === runIndex[run + 1]) continue
    const material = materialOf.get(id) ?? null
    const corners = byMaterial.get(material) ?? []
    for (let at = runIndex[run]; at < runIndex[run + 1]; at++) corners.push(triVerts[at])
    byMaterial.set(material, corners)
  }
  return [...byMaterial].map(([material, corners], places) => {
    const positions = Float32Array.from(
      corners.flatMap((corner) => [0, 1, 2].map((axis) => vertProperties[corner * numProp + axis])),
    )
    return {
      positions,
      places,
      indices: Uint32Array.from(corners, (_corner, at) => at),
      normals: flatNormals(positions),
      tangents: null,
      uvs: null,
      influences: [],
      morphs: 0,
      material,
    }
  })
}

/** Nine numbers a triangle: its normal at each of its corners. */
function flatNormals(positions: Float32Array): Float32Array {
  const normals = new Float32Array(positions.length)
  for (let at = 0; at < positions.length; at += 9) {
    const [u, v] = [3, 6].map((corner) => [0, 1, 2].map((axis) => positions[at + corner + axis] - positions[at + axis]))
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
    const length = Math.hypot(...n) || 1
    for (let each = 0; each < 9; each++) normals[at + each] = n[each % 3] / length
  }
  return normals
}
