import { createRayCaster } from '../surface/ray-caster.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import type { Walker } from './standing.ts'

/** Lines that a figure is sent along, at most, in each of the two directions. */
const MOST_LINES = 160
/** A body is felt along nine threads: low, middle and high, left, middle and right. */
const HEIGHTS = [0.02, 0.5, 0.98]
const SIDES = [-0.98, 0, 0.98]
const UP = 1

/**
 * Whether a figure that goes straight across an item, along the axes of its plan, gets through what is seen between
 * things that are seen, and is stopped there by the solids.
 * @returns a place on the first such way, or null
 *
 * @example const place = closedStraightWay(view, joined, walker)
 */
export function closedStraightWay(
  view: TriangleSoup,
  solids: TriangleSoup,
  walker: Walker,
): [number, number, number] | null {
  const seen = createRayCaster(view.positions, view.indices)
  const bumped = createRayCaster(solids.positions, solids.indices)
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  for (let at = 0; at < view.positions.length; at++) {
    low[at % 3] = Math.min(low[at % 3], view.positions[at])
    high[at % 3] = Math.max(high[at % 3], view.positions[at])
  }
  for (const way of [0, 2]) {
    const across = 2 - way
    const spacing = Math.max(walker.width / 4, (high[across] - low[across]) / MOST_LINES)
    const direction = [0, 0, 0]
    direction[way] = 1
    const length = high[way] - low[way] + 2
    const stops = (caster: typeof seen, place: number): boolean =>
      HEIGHTS.some((share) =>
        SIDES.some((side) => {
          const origin = [0, 0, 0]
          origin[way] = low[way] - 1
          origin[across] = place + (side * walker.width) / 2
          origin[UP] = low[UP] + walker.step + share * (walker.height - walker.step)
          const hit = caster.first(origin, direction)
          return hit !== null && hit.distance <= length
        }),
      )
    const places = Array.from(
      { length: Math.floor((high[across] - low[across]) / spacing) + 1 },
      (_, line) => low[across] + line * spacing,
    )
    const free = places.map((place) => !stops(seen, place))
    const first = free.indexOf(false)
    const last = free.lastIndexOf(false)
    const closed = places.findIndex((place, line) => line > first && line < last && free[line] && stops(bumped, place))
    if (first >= 0 && closed >= 0) {
      const at: [number, number, number] = [0, 0, 0]
      at[way] = (low[way] + high[way]) / 2
      at[across] = places[closed]
      at[UP] = low[UP] + walker.height / 2
      return at
    }
  }
  return null
}
