import type { Kind, Rulebook } from '../game/schema.ts'
import type { LoadedSolid } from './check-solids.ts'
import { inScene } from './check-mesh.ts'
import type { TrialLog } from './log.ts'
import type { SortedNodes } from './sorted-nodes.ts'

interface Surface {
  positions: Float32Array
  indices: Uint32Array
}

/** Straight lines across the item that the figure is sent along. */
const MOST_LINES = 160
/** A body is felt along so many threads: low, middle and high, at its left, middle and right. */
const HEIGHTS = [0.02, 0.5, 0.98]
const SIDES = [-0.98, 0, 0.98]
const UP = 1

/**
 * Walks the figure straight across the item, front to back and side to side, through what is drawn and through the
 * solids. Where it gets through the one between things that are drawn, and not through the other, the loader complains.
 *
 * @example checkPassage(file, sorted, solids, rulebook, kind, log)
 */
export function checkPassage(
  file: string,
  sorted: SortedNodes,
  solids: readonly LoadedSolid[],
  rulebook: Rulebook,
  kind: Kind,
  log: TrialLog,
): void {
  if (!kind.solids?.fixed || solids.length === 0) return
  const view = sorted.view.flatMap((node) =>
    node.primitives.map((primitive): Surface => ({
      positions: inScene(node, primitive.positions),
      indices: primitive.indices,
    })),
  )
  const { figure } = rulebook.space
  const drawn = extent(view)
  for (const way of [0, 2]) {
    const across = 2 - way
    const spacing = Math.max(figure.width / 4, (drawn.high[across] - drawn.low[across]) / MOST_LINES)
    const lines = Math.floor((drawn.high[across] - drawn.low[across]) / spacing)
    const seen: boolean[] = []
    const bumped: boolean[] = []
    for (let line = 0; line <= lines; line++) {
      const start = [0, 0, 0]
      start[across] = drawn.low[across] + line * spacing
      start[UP] = drawn.low[UP] + figure.stepHeight
      start[way] = drawn.low[way] - 1
      const body = {
        start,
        way,
        across,
        width: figure.width,
        height: figure.height - figure.stepHeight,
        length: drawn.high[way] - drawn.low[way] + 2,
      }
      seen.push(isStopped(view, body))
      bumped.push(isStopped(solids, body))
    }
    // A free line has something drawn at both sides: it goes through the item and not past it.
    const closed = seen.findIndex(
      (stopped, line) =>
        !stopped && bumped[line] && seen.slice(0, line).includes(true) && seen.slice(line + 1).includes(true),
    )
    if (closed >= 0)
      return log.complain(
        'solid.closes',
        file,
        `The figure sees a way through at ${(drawn.low[across] + closed * spacing).toFixed(1)} and bumps into a solid.`,
      )
  }
}

interface Body {
  start: readonly number[]
  way: number
  across: number
  width: number
  height: number
  length: number
}

/** Whether any thread of the body meets a triangle on its way. */
function isStopped(surfaces: readonly Surface[], { start, way, across, width, height, length }: Body): boolean {
  const threads = HEIGHTS.flatMap((share) =>
    SIDES.map((side) => [start[across] + (side * width) / 2, start[UP] + share * height]),
  )
  for (const { positions, indices } of surfaces) {
    for (let index = 0; index < indices.length; index += 3) {
      const [a, b, c] = [indices[index] * 3, indices[index + 1] * 3, indices[index + 2] * 3]
      // Most triangles lie beside the body altogether.
      const besides =
        positions[a + across] < start[across] - width / 2 &&
        positions[b + across] < start[across] - width / 2 &&
        positions[c + across] < start[across] - width / 2
      const beyond =
        positions[a + across] > start[across] + width / 2 &&
        positions[b + across] > start[across] + width / 2 &&
        positions[c + across] > start[across] + width / 2
      if (besides || beyond) continue
      for (const [u, v] of threads) {
        const depth = depthAt(positions, a, b, c, across, way, u, v)
        if (depth !== null && depth >= start[way] && depth <= start[way] + length) return true
      }
    }
  }
  return false
}

/** Where a thread along one axis meets a triangle, by the triangle's areas seen along it; null where it passes by. */
function depthAt(
  positions: Float32Array,
  a: number,
  b: number,
  c: number,
  across: number,
  way: number,
  u: number,
  v: number,
): number | null {
  const [au, av, bu, bv, cu, cv] = [
    positions[a + across] - u,
    positions[a + UP] - v,
    positions[b + across] - u,
    positions[b + UP] - v,
    positions[c + across] - u,
    positions[c + UP] - v,
  ]
  const [wa, wb, wc] = [bu * cv - bv * cu, cu * av - cv * au, au * bv - av * bu]
  const area = wa + wb + wc
  if (area === 0 || (wa < 0 || wb < 0 || wc < 0) === (wa > 0 || wb > 0 || wc > 0)) return null
  return (wa * positions[a + way] + wb * positions[b + way] + wc * positions[c + way]) / area
}

function extent(surfaces: readonly Surface[]): { low: number[]; high: number[] } {
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  for (const { positions } of surfaces) {
    for (let at = 0; at < positions.length; at++) {
      low[at % 3] = Math.min(low[at % 3], positions[at])
      high[at % 3] = Math.max(high[at % 3], positions[at])
    }
  }
  return { low, high }
}
