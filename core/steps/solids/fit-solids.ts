import { z } from 'zod'
import { boxMesh, enclosedVolume } from '../../geometry/shapes/box-mesh.ts'
import { chosenHull, type TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { fitBox } from '../../geometry/shapes/box.ts'
import type { PlacedShape } from '../../geometry/shapes/placed-shape.ts'
import { emptyBounds, growBounds, partBounds } from '../../item/measure.ts'
import { countTriangles, listViewParts, type Part } from '../../item/parts.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { massesOf, putSolid, surfaceOfPart } from '../../operations/solids/put-solid.ts'
import { groupedSolids, looseLayers } from '../../operations/solids/propose-solids.ts'
import { solidGroups } from '../../operations/solids/solid-groups.ts'
import { aboutMiddle, solidGround, type SolidShape } from '../../operations/solids/solid-shape.ts'
import { formatCount, plural } from '../../support/wording.ts'
import { defineStep } from '../step.ts'
import { shapeRefusal } from './add-solid.ts'

const parameters = z.object({
  most: z.number().int().min(1).max(1000),
  /** For hulls: the most corners of each. */
  points: z.number().int().min(4).max(1024),
  layers: z.array(z.string().max(64)).max(16),
})
type Parameters = z.infer<typeof parameters>

/** A group that fills its box this far gets a box: as good as a hull, and cheaper. */
const BOXY_SHARE = 0.9
const BOX_TRIANGLES = 12

/** Solids for the whole item at once, each for parts that lie and move together. */
export const fitSolids = defineStep<Parameters>({
  id: 'fit-solids',
  version: 1,
  stage: 'solids',
  title: 'Solids for groups of parts',
  purpose:
    'Gives the whole item something to bump into: parts that lie and move together share one box or convex ' +
    'hull, within the number, the points and the triangles that the game takes.',
  parameters,
  fields: ({ rulebook }) => [
    {
      type: 'number',
      key: 'most',
      label: 'Up to',
      unit: `solids (≤ ${rulebook.solids.mostPerItem})`,
      least: 1,
      most: rulebook.solids.mostPerItem,
      step: 1,
      slider: true,
    },
    {
      type: 'number',
      key: 'points',
      label: 'Each up to',
      unit: `points (≤ ${rulebook.solids.hullPoints})`,
      least: 4,
      most: rulebook.solids.hullPoints,
      step: 1,
    },
    {
      type: 'layers',
      key: 'layers',
      label: 'Layers',
      options: rulebook.solids.layers.map((layer) => ({ value: layer.name, label: layer.meaning })),
    },
  ],
  defaults: ({ rulebook, kind }) => ({
    most: rulebook.solids.mostPerItem,
    points: rulebook.solids.hullPoints,
    layers: kind.solids?.massKilograms ? looseLayers(rulebook) : rulebook.solids.defaultLayers,
  }),
  propose(context) {
    const grouped = groupedSolids(context)
    return grouped === null
      ? []
      : [
          {
            parameters: { ...(this.defaults(context) as Parameters), most: grouped.most },
            reason: grouped.reason,
          },
        ]
  },
  async run({ document, parameters: { most, points, layers }, rulebook, kind, progress }) {
    const parts = listViewParts(document)
    const allowance = allowanceFor(countTriangles(parts), most, kind)
    const groups = solidGroups(document, parts, allowance.solids)
    const made: { part: Part; shape: SolidShape; placed: PlacedShape; surface: string }[] = []
    for (const [index, group] of groups.entries()) {
      const part = largest(group)
      await progress((index / groups.length) * 0.9, part.name)
      const ground = solidGround(document, part, { of: 'parts', parts: group.map(({ name }) => name), faces: [] })
      const fitted = fitSimplest(ground, Math.min(points, allowance.points), rulebook, kind)
      if (fitted)
        made.push({
          ...fitted,
          part,
          surface: surfaceOfPart(part, document, rulebook) ?? rulebook.materials.surfaces[0].name,
        })
    }
    const masses = weigh(made, rulebook, kind)
    made.forEach(({ part, shape, placed, surface }, index) =>
      putSolid(document, part, placed, { shape, surface, layers }, rulebook, masses?.[index] ?? null),
    )
    const triangles = made.reduce((sum, { placed }) => sum + placed.mesh.indices.length / 3, 0)
    const boxes = made.filter(({ shape }) => shape === 'box').length
    return {
      headline: plural(made.length, 'solid'),
      details: [
        `${plural(parts.length, 'part')} ${parts.length === 1 ? 'has' : 'share'} ` +
          `${plural(boxes, 'box', 'boxes')} and ${plural(made.length - boxes, 'hull')} of ` +
          `${formatCount(triangles)} triangles together, each for parts that lie and move together.`,
      ],
      changed: made.length > 0,
    }
  },
})

/** How many solids there may be, and how many points each, so that item and solids stay within their triangles. */
function allowanceFor(triangles: number, most: number, kind: Kind): { solids: number; points: number } {
  const room = Math.max(BOX_TRIANGLES, (kind.mesh?.withSolids ?? Infinity) - triangles)
  const solids = Math.max(1, Math.min(most, Math.floor(room / BOX_TRIANGLES)))
  // A closed hull of n points has at most 2n − 4 triangles (Euler).
  return { solids, points: room === Infinity ? Infinity : Math.max(4, Math.floor((room / solids + 4) / 2)) }
}

const largest = (group: readonly Part[]): Part =>
  group.reduce((best, part) => (extentOf(part) > extentOf(best) ? part : best))

function extentOf(part: Part): number {
  const { min, max } = partBounds(part)
  return Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2])
}

/**
 * A box where the group is nearly one or where a hull cannot be made; else a hull; null where the kind takes neither.
 */
function fitSimplest(
  ground: TriangleSoup,
  points: number,
  rulebook: Rulebook,
  kind: Kind,
): { shape: SolidShape; placed: PlacedShape } | null {
  const takes = (shape: SolidShape): boolean => shapeRefusal(shape, rulebook, kind) === null
  const bounds = emptyBounds()
  growBounds(bounds, ground.positions, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])
  const hull = chosenHull(ground.positions, points, 0)
  const boxy = hull === null || enclosedVolume(hull.mesh) >= BOXY_SHARE * enclosedVolume(boxMesh(bounds))
  if (takes('box') && (boxy || points < 6 || !takes('hull'))) return { shape: 'box', placed: fitBox(ground.positions) }
  return takes('hull') && hull !== null ? { shape: 'hull', placed: aboutMiddle(hull.mesh) } : null
}

/** Kilograms of each by volume and what it is made of, all of them within what the kind may weigh. */
function weigh(
  made: readonly { placed: PlacedShape; surface: string }[],
  rulebook: Rulebook,
  kind: Kind,
): number[] | null {
  if (!kind.solids?.massKilograms) return null
  const surface = made[0]?.surface ?? ''
  return massesOf(
    made.map(({ placed }) => placed),
    { weighing: 'volume', massKilograms: 0, surface },
    rulebook,
    kind,
  )
}
