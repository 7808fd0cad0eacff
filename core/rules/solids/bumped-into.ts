import { mergedTriangles, partBounds } from '../../item/measure.ts'
import { listViewParts, type Part } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { createSurfaceFinder } from '../../geometry/surface/surface-distance.ts'
import type { TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { standOut } from '../../geometry/shapes/stand-out.ts'
import { closedStraightWay } from '../../geometry/walk/straight-ways.ts'
import { findOpenings } from '../../geometry/walk/openings.ts'
import type { Rulebook } from '../../game/schema.ts'
import { rememberByValue } from '../../support/remember.ts'
import { formatLength } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import type { Finding, Place, RuleContext, RuleFamily, Severity } from '../rule.ts'
import { isRead } from './solids.ts'

/** Asked again at each check, though few edits change what one sees or bumps into. */
const openingsOf = rememberByValue(findOpenings, 16)
const straightWayOf = rememberByValue(closedStraightWay, 16)
const standOutsOf = rememberByValue(
  (view: TriangleSoup, shapes: readonly { shape: TriangleSoup; fineness: number }[]) => {
    const finder = createSurfaceFinder(view)
    return shapes.map(({ shape, fineness }) => {
      const { outside, outsideAt } = standOut(view, shape, fineness, finder)
      return { outside, outsideAt }
    })
  },
  16,
)

/** Whether what one bumps into is what one sees: computed, so that nobody has to walk up to it first. */
export const fitRules: RuleFamily = {
  id: 'fit',
  ofMeshes: true,
  check: (context) =>
    context.kind.solids && listSolids(context.document).length > 0
      ? [...closedOpenings(context), ...standingOut(context)]
      : [],
}

/**
 * The game's figure as it walks.
 * @example const openings = findOpenings(view, solids, walkerOf(rulebook))
 */
export const walkerOf = ({ space: { figure } }: Rulebook): { width: number; height: number; step: number } => ({
  width: figure.width,
  height: figure.height,
  step: figure.stepHeight,
})

function closedOpenings(context: RuleContext): Finding[] {
  const { document, rulebook, kind } = context
  // What is loose or worn is not walked through.
  if (!kind.solids?.fixed) return []
  const solids = listSolids(document)
  const view = mergedTriangles(listViewParts(document))
  const openings = openingsOf(view, [mergedTriangles(solids)], walkerOf(rulebook))
  // The loader sends its figure straight across; a way round corners is a note.
  const read = solids.filter((solid) => isRead(solid, kind))
  const straight = read.length === 0 ? null : straightWayOf(view, mergedTriangles(read), walkerOf(rulebook))
  const severity = straight ? 'risky' : 'note'
  const { plural } = rulebook.space.unit
  const closed = openings.filter((opening) => !opening.passes)
  if (straight && closed.length === 0)
    return [
      closedWay(
        'straight across',
        'One sees a way straight through; the solids close it to the figure',
        severity,
        straight,
        context,
      ),
    ]
  return closed.map((opening) => {
    const size =
      `${formatLength(opening.width)}${opening.height === null ? ' wide' : ` × ${formatLength(opening.height)}`} ` +
      `${plural}`
    return closedWay(
      size,
      `One sees a way through of ${size}; the solids close it to the figure`,
      severity,
      opening.middle,
      context,
    )
  })
}

const closedWay = (
  where: string,
  message: string,
  severity: Severity,
  middle: [number, number, number],
  { rulebook, kind }: RuleContext,
): Finding => ({
  rule: 'opening-closed',
  severity,
  stage: 'solids',
  title: 'An opening is closed',
  where,
  place: spotAt(middle, rulebook),
  value: 'closed',
  limit: 'open',
  message,
  why: 'A box or hull also fills what is hollow in it.',
  mend: {
    step: 'add-solid',
    label: 'Fit a mesh',
    parameters: { shape: kind.solids?.shapes.includes('mesh') ? 'mesh' : 'hull' },
  },
})

function standingOut({ document, rulebook }: RuleContext): Finding[] {
  const view = mergedTriangles(listViewParts(document))
  const { noticedGap } = rulebook.solids
  const { plural } = rulebook.space.unit
  const solids = listSolids(document)
  const shapes = solids.map((solid) => ({ shape: mergedTriangles([solid]), fineness: finenessOf(solid) }))
  const far = standOutsOf(view, shapes)
  return solids.flatMap((solid, number): Finding[] => {
    const { outside, outsideAt } = far[number]
    if (outside <= noticedGap) return []
    return [
      {
        rule: 'solid-stands-out',
        severity: 'note',
        stage: 'solids',
        title: 'Stands out',
        where: solid.name,
        place: { ...placeOfParts([solid]), spots: [outsideAt] },
        value: `${formatLength(outside)} ${plural}`,
        limit: `${noticedGap} ${plural}`,
        message: `${solid.name} stands ${formatLength(outside)} ${plural} outside what one sees`,
        why: 'One bumps into nothing.',
        mend: null,
      },
    ]
  })
}

/**
 * How finely a solid is looked at: a tenth of its longest side.
 * @example standOut(view, shape, finenessOf(solid))
 */
export function finenessOf(solid: Part): number {
  const { min, max } = partBounds(solid)
  return Math.max(1e-3, ...max.map((value, axis) => (value - min[axis]) / 10))
}

function spotAt(spot: [number, number, number], { space }: Rulebook): Place {
  const reach = space.doorway.height
  return {
    parts: [],
    bounds: {
      min: spot.map((value) => value - reach) as [number, number, number],
      max: spot.map((value) => value + reach) as [number, number, number],
    },
    spots: [spot],
    texture: null,
  }
}
