import type { Primitive } from '@gltf-transform/core'
import { mergedTriangles } from '../../item/measure.ts'
import { countPrimitiveTriangles, type Part } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { bothMeasures, measureFacing, measureFacingFromEyes, type SeenItem } from '../../geometry/surface/facing.ts'
import {
  flipTriangles,
  MOST_SAMPLES_OF_ALL,
  orientOutward,
  windPieces,
  type Orientation,
} from '../../geometry/mesh/orient.ts'
import { outsideViews } from '../../geometry/surface/outside-views.ts'
import { rememberByValue } from '../../support/remember.ts'
import { createRayCaster } from '../../geometry/surface/ray-caster.ts'

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

/** Rays go through the triangles of one item for several questions, mostly one after another. */
const casterOf = rememberByValue(createRayCaster, 2)

/** Asked again at each check, though few edits change a shape. */
const lookAllRound = rememberByValue(
  (item: SeenItem) => ({
    measure: measureFacing(item, casterOf(item.positions, item.indices)),
    views: outsideViews(item),
  }),
  16,
)
const lookFromEyes = rememberByValue(
  (item: SeenItem, eyeHeight: number) => measureFacingFromEyes(item, eyeHeight, casterOf(item.positions, item.indices)),
  16,
)

/**
 * Looks at the item from all round and from a figure's eyes, and finds the parts whose backs show.
 * @param parts what there is to see; those that are not of the thing's outside are left out by who asks
 *
 * @example const { parts } = measurePartFacing(listViewParts(document))
 */
export function measurePartFacing(parts: readonly Part[], eyeHeight: number | null = null): PartFacing {
  return facingOf(seenItem(parts), parts, eyeHeight)
}

function facingOf(item: SeenItem, parts: readonly Part[], eyeHeight: number | null): PartFacing {
  const { measure: allRound, views } = lookAllRound(item)
  const measure = eyeHeight === null ? allRound : bothMeasures(allRound, lookFromEyes(item, eyeHeight))
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

/**
 * Parts run together as they are drawn, with which triangles show both sides.
 * @example const { positions, partOfTriangle } = seenItem(listViewParts(document))
 */
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

/**
 * The parts that make out most of the backs to be seen: what the others show is tolerated, even together.
 * @example const [worst] = worstBacks(measurePartFacing(listViewParts(document)))
 */
export function worstBacks({ parts }: PartFacing): PartFacing['parts'] {
  let left = parts.reduce((sum, { share }) => sum + share, 0)
  return parts.filter(({ share }) => {
    const isWorst = share > TOLERATED_BACKS_SHARE / 4 || left > TOLERATED_BACKS_SHARE / 2
    left -= share
    return isWorst
  })
}

/**
 * Which of the named parts have faces that turning outward would turn.
 * @example const turned = partsToTurn(listViewParts(document), ['lid'])
 */
export function partsToTurn(parts: readonly Part[], names: readonly string[]): Set<string> {
  const orientationOf = orientationsAsDrawn(parts)
  const turned = (part: Part): boolean =>
    part.mesh.listPrimitives().some((primitive) => orientationOf(part, primitive).flip.some((flip) => flip === 1))
  return new Set(parts.filter((part) => names.includes(part.name) && turned(part)).map((part) => part.name))
}

/**
 * What would be seen of backs if turning outward had turned the named parts.
 * @example const { share } = facingIfTurned(parts, ['lid'], eyeHeight)
 */
export function facingIfTurned(
  parts: readonly Part[],
  names: readonly string[],
  eyeHeight: number | null = null,
): PartFacing {
  const item = seenItem(parts)
  const orientationOf = orientationsAsDrawn(parts)
  const flip = new Uint8Array(item.indices.length / 3)
  let first = 0
  for (const part of parts)
    for (const primitive of part.mesh.listPrimitives()) {
      const orientation = orientationOf(part, primitive)
      if (names.includes(part.name)) flip.set(orientation.flip, first)
      first += orientation.flip.length
    }
  return facingOf({ ...item, indices: flipTriangles(item.indices, flip) }, parts, eyeHeight)
}

/** Judges a surface of an item, cut out of its triangles, when it is first asked about. */
type JudgeSurface = (surface: Surface) => Orientation

/** Where the corners and triangles of one surface stand among those of the whole item. */
interface Surface {
  firstCorner: number
  corners: number
  firstTriangle: number
  triangles: number
}

/** What is asked to propose turning is asked again by the turning itself. */
const judgeOf = rememberByValue((positions: Float32Array, indices: Uint32Array): JudgeSurface => {
  const caster = casterOf(positions, indices)
  const judged = new Map<number, Orientation>()
  return ({ firstCorner, corners, firstTriangle, triangles }) => {
    const known = judged.get(firstTriangle)
    if (known) return known
    const orientation = orientOutward(
      positions.subarray(firstCorner * 3, (firstCorner + corners) * 3),
      indices.slice(firstTriangle * 3, (firstTriangle + triangles) * 3).map((corner) => corner - firstCorner),
      caster,
      Math.ceil((MOST_SAMPLES_OF_ALL * triangles * 3) / Math.max(1, indices.length)),
    )
    judged.set(firstTriangle, orientation)
    return orientation
  }
}, 2)

/**
 * Says of each surface of some parts which of its triangles have to be turned, judged where and as it is drawn among
 * the others. The answer is shared, and must not be changed.
 * @param parts all that is seen; each surface asked about is one of theirs
 * @example orientationsAsDrawn(parts)(part, primitive).flip // 1 for each triangle to be turned
 */
export function orientationsAsDrawn(parts: readonly Part[]): (part: Part, primitive: Primitive) => Orientation {
  const { positions, indices } = mergedTriangles(parts)
  const judge = judgeOf(positions, indices)
  const surfaces = new Map<Part, Map<Primitive, Surface>>()
  let [firstCorner, firstTriangle] = [0, 0]
  for (const part of parts) {
    const own = new Map<Primitive, Surface>()
    for (const primitive of part.mesh.listPrimitives()) {
      const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
      const triangles = corners > 0 ? countPrimitiveTriangles(primitive) : 0
      own.set(primitive, { firstCorner, corners, firstTriangle, triangles })
      firstCorner += corners
      firstTriangle += triangles
    }
    surfaces.set(part, own)
  }
  return (part, primitive) => judge(surfaces.get(part)?.get(primitive) ?? NO_SURFACE)
}

const NO_SURFACE: Surface = { firstCorner: 0, corners: 0, firstTriangle: -1, triangles: 0 }

/**
 * Parts, seen from one side only, that have a piece without an outside, such as a twisted band.
 * @example const bands = partsWithoutOutside(listViewParts(document))
 */
export function partsWithoutOutside(parts: readonly Part[]): Part[] {
  const oneSided = (primitive: Primitive): boolean => primitive.getMaterial()?.getDoubleSided() !== true
  return parts.filter((part) =>
    part.mesh.listPrimitives().some((primitive) => {
      const { positions, indices } = readPrimitive(primitive)
      return oneSided(primitive) && windPieces(positions, indices).some((piece) => !piece.twoSides)
    }),
  )
}
