import type { TriangleSoup } from '../shapes/convex-hull.ts'
import type { Walker } from './standing.ts'

/** Lines that a figure is sent along, at most, in each of the two directions. */
const MOST_LINES = 160
/** What a body only touches at its skin does not stop it. */
const SKIN_SHARE = 0.02
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
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  for (let at = 0; at < view.positions.length; at++) {
    low[at % 3] = Math.min(low[at % 3], view.positions[at])
    high[at % 3] = Math.max(high[at % 3], view.positions[at])
  }
  const body = walker.height - walker.step
  const bottom = low[UP] + walker.step + body * SKIN_SHARE
  const top = low[UP] + walker.height - body * SKIN_SHARE
  for (const way of [0, 2]) {
    const across = 2 - way
    const spacing = Math.max(walker.width / 4, (high[across] - low[across]) / MOST_LINES)
    const count = Math.floor((high[across] - low[across]) / spacing) + 1
    const lines: Lines = { across, first: low[across], spacing, count, reach: (walker.width / 2) * (1 - SKIN_SHARE) }
    const seen = stoppedLines(view, lines, bottom, top)
    const bumped = stoppedLines(solids, lines, bottom, top)
    const first = seen.indexOf(1)
    const last = seen.lastIndexOf(1)
    const closed = seen.findIndex((stopped, line) => line > first && line < last && !stopped && bumped[line] === 1)
    if (first >= 0 && closed >= 0) {
      const at: [number, number, number] = [0, 0, 0]
      at[way] = (low[way] + high[way]) / 2
      at[across] = low[across] + closed * spacing
      at[UP] = low[UP] + walker.height / 2
      return at
    }
  }
  return null
}

/** Parallel lines side by side along one axis, and how far to both sides a body on one of them reaches. */
interface Lines {
  across: number
  first: number
  spacing: number
  count: number
  reach: number
}

/** 1 for each line on which some triangle stands in the way between two heights. */
function stoppedLines(
  { positions, indices }: TriangleSoup,
  { across, first, spacing, count, reach }: Lines,
  bottom: number,
  top: number,
): Uint8Array {
  const stopped = new Uint8Array(count)
  for (let at = 0; at + 2 < indices.length; at += 3) {
    const [least, most] = extentBetween(positions, [indices[at], indices[at + 1], indices[at + 2]], across, bottom, top)
    const last = Math.min(count - 1, Math.floor((most + reach - first) / spacing))
    for (let line = Math.max(0, Math.ceil((least - reach - first) / spacing)); line <= last; line++) stopped[line] = 1
  }
  return stopped
}

/** How far what lies of a triangle between two heights extends along an axis; from Infinity where nothing does. */
function extentBetween(
  positions: Float32Array,
  corners: readonly number[],
  axis: number,
  bottom: number,
  top: number,
): [number, number] {
  let [least, most] = [Infinity, -Infinity]
  const take = (value: number): void => {
    least = Math.min(least, value)
    most = Math.max(most, value)
  }
  for (let side = 0; side < 3; side++) {
    const [from, to] = [corners[side] * 3, corners[(side + 1) % 3] * 3]
    const [height, next] = [positions[from + UP], positions[to + UP]]
    if (height >= bottom && height <= top) take(positions[from + axis])
    for (const level of [bottom, top]) {
      if ((height < level && next > level) || (height > level && next < level))
        take(
          positions[from + axis] +
            ((level - height) / (next - height)) * (positions[to + axis] - positions[from + axis]),
        )
    }
  }
  return [least, most]
}
