import type { Primitive } from '@gltf-transform/core'
import { transformedPoints } from '../../maths/matrices.ts'
import { isMirroring, mergedTriangles } from '../../item/measure.ts'
import { countPrimitiveTriangles, restMatrix, type Part } from '../../item/parts.ts'
import { readPrimitive, reversedWinding } from '../../item/primitive-arrays.ts'
import { measureFacing, type SeenItem } from '../../geometry/surface/facing.ts'
import { orientOutward, windPieces, type Orientation } from '../../geometry/mesh/orient.ts'
import { outsideViews } from '../../geometry/surface/outside-views.ts'
import { rememberByValue } from '../../support/remember.ts'
import { createRayCaster, type RayCaster } from '../../geometry/surface/ray-caster.ts'

/** Up to this share of backs may be seen: edges of leaves and cloth do no harm. */
export const TOLERATED_BACKS_SHARE = 0.01

export interface PartFacing {
  /**
   * Share of what is seen from outside that is the back of a face: from all round, from eyes or along the axes,
   * whatever shows most.
   */
  share: number
  /** The same along the axes alone, as the loader looks. */
  shareAlongAxes: number
  /** Parts with backs to be seen, the worst first, with their share of the whole and some places. */
  parts: { name: string; share: number; spots: [number, number, number][] }[]
}

/** Asked again at each check, though few edits change a shape. */
const lookAt = rememberByValue(
  (item: SeenItem, eyeHeight: number | null) => ({
    measure: measureFacing(item, eyeHeight),
    views: outsideViews(item),
  }),
  16,
)

/**
 * Looks at the item from all round and from a figure's eyes, and finds the parts whose backs show.
 * @param parts what there is to see; those that are not of the thing's outside are left out by who asks
 */
export function measurePartFacing(parts: readonly Part[], eyeHeight: number | null = null): PartFacing {
  const item = seenItem(parts)
  const { measure, views } = lookAt(item, eyeHeight)
  const worst = [...measure.inwardByPart]
    .map(([number, rays]) => ({
      name: parts[number].name,
      share: rays / measure.rays,
      spots: measure.spots.filter((spot) => spot.part === number).map((spot) => spot.point),
    }))
    .sort((a, b) => b.share - a.share)
  // What only the views along the axes show is told as well, at the share that they see.
  const backs = [...views.backsOfPart.values()].reduce((sum, each) => sum + each, 0)
  const missed = [...views.backsOfPart]
    .filter(([number]) => !measure.inwardByPart.has(number))
    .map(([number, count]) => ({ name: parts[number].name, share: (views.share * count) / backs, spots: [] }))
  return {
    share: Math.max(measure.inwardShare, views.share),
    shareAlongAxes: views.share,
    parts: [...worst, ...missed].sort((a, b) => b.share - a.share),
  }
}

/** Parts run together as they are drawn, with which triangles show both sides. */
export function seenItem(parts: readonly Part[]): SeenItem {
  const merged = mergedTriangles(parts)
  const twoSided = new Uint8Array(merged.partOfTriangle.length)
  let at = 0
  for (const part of parts) {
    for (const primitive of part.mesh.listPrimitives()) {
      const count = countPrimitiveTriangles(primitive)
      const material = primitive.getMaterial()
      if (material?.getDoubleSided()) twoSided.fill(1, at, at + count)
      at += count
    }
  }
  return { ...merged, twoSided }
}

/** The parts that make out most of the backs to be seen. */
export const worstBacks = (facing: PartFacing): PartFacing['parts'] =>
  facing.parts.filter((part) => part.share > TOLERATED_BACKS_SHARE / 4)

/** Which of the named parts have faces that turning outward would turn. */
export function partsToTurn(parts: readonly Part[], names: readonly string[]): Set<string> {
  const item = mergedTriangles(parts)
  const caster = createRayCaster(item.positions, item.indices)
  const found = new Set<string>()
  for (const part of parts.filter((each) => names.includes(each.name))) {
    for (const primitive of part.mesh.listPrimitives())
      if (orientInScene(part, primitive, caster).flip.some((flip) => flip === 1)) found.add(part.name)
  }
  return found
}

/** Which triangles of a surface have to be turned, judged where and as it is drawn. */
export function orientInScene(part: Part, primitive: Primitive, item: RayCaster): Orientation {
  const { positions, indices } = readPrimitive(primitive)
  const matrix = restMatrix(part.node)
  return orientOutward(
    transformedPoints(positions, matrix),
    isMirroring(matrix) ? reversedWinding(indices) : indices,
    item,
  )
}

/** Parts, seen from one side only, that have a piece without an outside, such as a twisted band. */
export function partsWithoutOutside(parts: readonly Part[]): Part[] {
  const oneSided = (primitive: Primitive): boolean => primitive.getMaterial()?.getDoubleSided() !== true
  return parts.filter((part) =>
    part.mesh.listPrimitives().some((primitive) => {
      const { positions, indices } = readPrimitive(primitive)
      return oneSided(primitive) && windPieces(positions, indices).some((piece) => !piece.twoSides)
    }),
  )
}
