import type { Document } from '@gltf-transform/core'
import { materialTag } from '../../game/material-tag.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { surfaceArea } from '../../geometry/surface/sample-surface.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { listSceneNodes, listViewParts, restMatrix } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { transformedPoints } from '../../maths/matrices.ts'

export type Donor = Rulebook['stock']['donors'][number]

/** What an item is made of, as it is tagged and as it is bumped into. */
export interface MadeOf {
  /** Surfaces of its materials with their share of the area, the largest first. */
  shown: { surface: string; share: number }[]
  /** Surfaces of its solids. */
  solid: string[]
  /** What its parts, what they hang under and its clips are called, in one line. */
  called: string
}

/** Where a donor and an item do not agree. */
export interface Disagreement {
  about: 'sound' | 'solids' | 'remains'
  has: string
  wants: string
}

/**
 * Surfaces by area; of equal ones, the one that was met first.
 * @example const donors = donorsFor(rulebook, kind, madeOf(document, rulebook))
 */
export function madeOf(document: Document, rulebook: Rulebook): MadeOf {
  const areas = new Map<string, number>()
  for (const { node, mesh } of listViewParts(document)) {
    const place = restMatrix(node)
    for (const primitive of mesh.listPrimitives()) {
      const material = primitive.getMaterial()
      const surface = material ? materialTag(material, rulebook).surface : null
      if (!surface) continue
      const { positions, indices } = readPrimitive(primitive)
      areas.set(surface, (areas.get(surface) ?? 0) + surfaceArea(transformedPoints(positions, place), indices))
    }
  }
  const whole = [...areas.values()].reduce((sum, area) => sum + area, 0) || 1
  return {
    shown: [...areas].map(([surface, area]) => ({ surface, share: area / whole })).sort((a, b) => b.share - a.share),
    called: [
      ...listSceneNodes(document).map((node) => node.getName()),
      ...document
        .getRoot()
        .listAnimations()
        .map((clip) => clip.getName()),
    ]
      .join(' ')
      .toLowerCase(),
    solid: [...new Set(listSolids(document).flatMap(({ extras }) => extras.solid?.surface ?? []))],
  }
}

/**
 * Whether a donor suits what an item looks like: it sounds like what most of the item is tagged as, solids are of that
 * too, and what is left of it is of something that the item has.
 *
 * @example const [disagreement] = disagreements(donor, madeOf(document, rulebook))
 */
export function disagreements(donor: Donor, { shown, solid }: MadeOf): Disagreement[] {
  const [most] = shown
  const remains = donor.remainsSurface
  return [
    ...(most && most.surface !== donor.surface
      ? [{ about: 'sound' as const, has: most.surface, wants: donor.surface }]
      : []),
    ...(solid.length > 0 && !solid.includes(donor.surface)
      ? [{ about: 'solids' as const, has: solid.join(', '), wants: donor.surface }]
      : []),
    ...(remains !== null && shown.length > 0 && !shown.some(({ surface }) => surface === remains)
      ? [{ about: 'remains' as const, has: shown.map(({ surface }) => surface).join(', '), wants: remains }]
      : []),
  ]
}

/**
 * How many words of a donor's title are in what the item's things are called.
 * @example const likeness = wordsShared(donor, madeOf(document, rulebook))
 */
export const wordsShared = ({ title }: Donor, { called }: MadeOf): number =>
  title
    .toLowerCase()
    .split(/[^\p{L}]+/u)
    .filter((word) => word.length >= 4 && called.includes(word)).length

/**
 * Donors that a kind may be like.
 * @example const titles = donorsOf(rulebook, kind).map(({ title }) => title)
 */
export const donorsOf = ({ stock }: Rulebook, kind: Pick<Kind, 'id'>): Donor[] =>
  stock.donors.filter(({ kinds }) => kinds === null || kinds.includes(kind.id))

/**
 * Donors that a kind may be like: those that suit what the item is made of first, then those that are called alike.
 * @example const [likeliest] = donorsFor(rulebook, kind, madeOf(document, rulebook))
 */
export const donorsFor = (rulebook: Rulebook, kind: Pick<Kind, 'id'>, made: MadeOf): Donor[] =>
  donorsOf(rulebook, kind)
    .map((donor) => ({ donor, against: disagreements(donor, made).length, alike: wordsShared(donor, made) }))
    .sort((a, b) => a.against - b.against || b.alike - a.alike)
    .map(({ donor }) => donor)
