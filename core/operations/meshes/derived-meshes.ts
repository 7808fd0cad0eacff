import type { Document, Mesh, Node } from '@gltf-transform/core'
import { setNodeExtras, type NodeExtras } from '../../item/extras.ts'
import { countMeshTriangles, type Part } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { solidName } from '../../game/names.ts'
import type { Rulebook } from '../../game/schema.ts'
import { writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import { compactCorners, reduceTriangles } from '../../geometry/mesh/reduce.ts'
import { errorCurve, MOST_CURVE_SAMPLES, shareBudget, type ErrorCurve } from '../../geometry/mesh/share-budget.ts'
import { triangleAreas } from '../../geometry/surface/sample-surface.ts'
import { sampleShares } from '../../geometry/surface/sample-shares.ts'
import { placeMesh } from '../../geometry/mesh/triangle-mesh.ts'
import { dropCollapsed } from '../../geometry/mesh/weld.ts'
import type { TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { readMesh, writeMesh, type MeshArrays } from './mesh-arrays.ts'

/**
 * Puts a mesh made from a part below it, so that it goes where the part goes.
 * @example addDerivedNode(document, part, 'gate_L1', mesh, { role: 'level', level: 1 })
 */
export function addDerivedNode(document: Document, part: Part, name: string, mesh: Mesh, extras: NodeExtras): Node {
  const node = document.createNode(name).setMesh(mesh)
  // What bones hold has to be held by the same bones from afar, and in its shadow.
  if (mesh.listPrimitives().every((primitive) => primitive.getAttribute('JOINTS_0'))) node.setSkin(part.node.getSkin())
  setNodeExtras(node, extras)
  part.node.addChild(node)
  return node
}

/**
 * A part's mesh with at most `targetTriangles`, materials and attributes kept: a level of detail. A material that would
 * lose all its triangles keeps its largest, since games look for the same materials in each level.
 * @param kept numbers of triangles that stay beside them, whatever is reduced
 *
 * @example const mesh = await reducedCopy(document, part, 'gate_L1', 1200)
 */
export async function reducedCopy(
  document: Document,
  part: Part,
  name: string,
  targetTriangles: number,
  kept: readonly number[] = [],
): Promise<Mesh> {
  const mesh = document.createMesh(name)
  for (const primitive of part.mesh.listPrimitives()) mesh.addPrimitive(primitive.clone())
  const arrays = readMesh(mesh)
  const reduction = await reduceTriangles({ ...arrays, targetTriangles, holdSeams: true, holdBorders: false })
  if (reduction.indices !== arrays.indices)
    writeMesh(document, mesh, arrays, {
      ...reduction,
      indices: withTriangles(withEverySurface(arrays, reduction.indices), arrays.indices, kept),
    })
  return mesh
}

function withTriangles(some: Uint32Array, all: Uint32Array, added: readonly number[]): Uint32Array {
  if (added.length === 0) return some
  return Uint32Array.from([...some, ...[...new Set(added)].flatMap((at) => [...all.subarray(at * 3, at * 3 + 3)])])
}

/** Triangles with the largest of each surface that has none left. */
function withEverySurface({ positions, indices, firstCorner }: MeshArrays, kept: Uint32Array): Uint32Array {
  const surfaceOf = (corner: number): number => firstCorner.findLastIndex((first) => first <= corner)
  const present = new Set<number>()
  for (let at = 0; at < kept.length; at += 3) present.add(surfaceOf(kept[at]))
  if (present.size === firstCorner.length - 1) return kept
  const largest = new Map<number, { area: number; at: number }>()
  const areas = triangleAreas(positions, indices)
  for (let at = 0; at < indices.length; at += 3) {
    const surface = surfaceOf(indices[at])
    const area = areas[at / 3]
    if (!present.has(surface) && area > (largest.get(surface)?.area ?? -1)) largest.set(surface, { area, at })
  }
  if (largest.size === 0) return kept
  return withTriangles(
    kept,
    indices,
    [...largest.values()].map(({ at }) => at / 3),
  )
}

/**
 * The shape of a part that bones hold, reduced: places and what holds them alone.
 * @example const mesh = await reducedHeldShape(document, part, 'gate_shadow', 300)
 */
export async function reducedHeldShape(
  document: Document,
  part: Part,
  name: string,
  targetTriangles: number,
): Promise<Mesh> {
  const mesh = await reducedCopy(document, part, name, targetTriangles)
  for (const primitive of mesh.listPrimitives()) {
    primitive.setMaterial(null).setExtras({})
    for (const semantic of primitive.listSemantics())
      if (!/^(POSITION|JOINTS_\d|WEIGHTS_\d)$/.test(semantic)) primitive.setAttribute(semantic, null)
  }
  return mesh
}

/**
 * Only the shape of a part, reduced: for a shadow mesh or a solid. Positions in the part's own space.
 * @example const soup = await reducedShape(part, 300)
 */
export const reducedShape = (part: Part, targetTriangles: number): Promise<TriangleSoup> =>
  reducedSoup(plainShape(part), targetTriangles)

/**
 * A mesh of positions alone with at most so many triangles.
 * @example const soup = await reducedSoup(plainShape(part), 300)
 */
export async function reducedSoup(shape: TriangleSoup, targetTriangles: number): Promise<TriangleSoup> {
  const reduction = await reduceTriangles({
    ...shape,
    attributes: new Map(),
    targetTriangles,
    holdSeams: false,
    holdBorders: false,
  })
  const compact = compactCorners(reduction.indices, shape.positions.length / 3)
  const kept = new Float32Array(compact.oldCorner.length * 3)
  compact.oldCorner.forEach((from, to) => kept.set(reduction.positions.subarray(from * 3, from * 3 + 3), to * 3))
  return { positions: kept, indices: compact.indices }
}

/**
 * The shape of a part with one corner a place, triangles without extent left out. Positions in the part's own space.
 *
 * @example const { positions, indices } = plainShape(part)
 */
export function plainShape(part: Part): TriangleSoup {
  const { positions, indices } = readMesh(part.mesh)
  const { places, placeOfIndex } = placeMesh(positions, indices)
  return {
    positions: places,
    indices: dropCollapsed(
      placeOfIndex,
      Uint32Array.from({ length: places.length / 3 }, (_, place) => place),
    ),
  }
}

/**
 * A name for one more solid of an item, after the highest number there is: no two are ever called the same.
 *
 * @example const name = nextSolidName(document, rulebook, 'box')
 */
export function nextSolidName(document: Document, rulebook: Rulebook, shape: string): string {
  const highest = listSolids(document).reduce(
    (most, { name }) => Math.max(most, Number(/(\d+)\D*$/.exec(name)?.[1] ?? 0)),
    0,
  )
  return solidName(rulebook, shape, highest + 1)
}

/**
 * A mesh with positions alone.
 *
 * @example node.setMesh(soupMesh(document, 'shadow', soup))
 */
export function soupMesh(document: Document, name: string, soup: TriangleSoup): Mesh {
  const primitive = document.createPrimitive()
  writeAttribute(document, primitive, 'POSITION', soup.positions, 3)
  writeIndices(document, primitive, soup.indices, soup.positions.length / 3)
  return document.createMesh(name).addPrimitive(primitive)
}

/**
 * How far each part has to move for how many triangles, in scene units: what levels are shared out by.
 * @example const curves = await errorCurvesOf(parts, () => Promise.resolve())
 */
export async function errorCurvesOf(
  parts: readonly Part[],
  progress: (fraction: number, doing: string) => Promise<void>,
): Promise<ErrorCurve[]> {
  // With nobody to share with there is nothing to measure.
  if (parts.length === 1) return [{ triangles: [countMeshTriangles(parts[0].mesh)], shifts: [0] }]
  const known = new Map<Mesh, ErrorCurve>()
  const samples = sampleShares(
    parts.map(({ mesh }) => countMeshTriangles(mesh)),
    MOST_CURVE_SAMPLES,
  )
  const curves: ErrorCurve[] = []
  for (const [number, part] of parts.entries()) {
    await progress(number / parts.length, `detail of ${part.name}`)
    const curve =
      known.get(part.mesh) ?? (await errorCurve({ ...plainShape(part), attributes: new Map() }, samples[number]))
    known.set(part.mesh, curve)
    const scale = Math.max(...part.node.getWorldScale().map(Math.abs))
    curves.push({ triangles: curve.triangles, shifts: curve.shifts.map((shift) => shift * scale) })
  }
  return curves
}

/**
 * Shares a number of triangles among parts so that each moves by the same amount, at least one each. Where some cannot
 * do with less than they have, and all together are too many, each gives in proportion.
 *
 * @example const targets = sharesByShift(parts, await errorCurvesOf(parts, progress), 4000)
 */
export function sharesByShift(parts: readonly Part[], curves: readonly ErrorCurve[], total: number): number[] {
  const shares = shareBudget(
    curves.map((curve) => ({ curve, instances: 1, weight: 1 })),
    Math.floor(total),
  )
  const sum = shares.reduce((all, share) => all + share, 0)
  if (sum <= total) return shares
  const counts = parts.map((part) => countMeshTriangles(part.mesh))
  const all = counts.reduce((each, count) => each + count, 0) || 1
  return counts.map((count) => Math.max(1, Math.floor((count / all) * total)))
}
