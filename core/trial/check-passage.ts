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
/** What a body only touches at its skin does not stop it. */
const SKIN_SHARE = 0.02
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
      const body = {
        start,
        across,
        width: figure.width,
        height: figure.height - figure.stepHeight,
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
  /** The middle of its lower edge. */
  start: readonly number[]
  across: number
  width: number
  height: number
}

/**
 * Whether a triangle stands in the body's way: seen along the way, it overlaps the rectangle that the body fills. They
 * do not where a side of either has the other altogether beyond it (separating axes; Gottschalk, Lin, Manocha 1996).
 */
function isStopped(surfaces: readonly Surface[], { start, across, width, height }: Body): boolean {
  const left = start[across] - (width / 2) * (1 - SKIN_SHARE)
  const right = start[across] + (width / 2) * (1 - SKIN_SHARE)
  const bottom = start[UP] + height * SKIN_SHARE
  const top = start[UP] + height * (1 - SKIN_SHARE)
  for (const { positions, indices } of surfaces) {
    for (let index = 0; index < indices.length; index += 3) {
      const [a, b, c] = [indices[index] * 3, indices[index + 1] * 3, indices[index + 2] * 3]
      // Most triangles lie beside the body altogether.
      const [ua, ub, uc] = [positions[a + across], positions[b + across], positions[c + across]]
      if ((ua < left && ub < left && uc < left) || (ua > right && ub > right && uc > right)) continue
      const [va, vb, vc] = [positions[a + UP], positions[b + UP], positions[c + UP]]
      if ((va < bottom && vb < bottom && vc < bottom) || (va > top && vb > top && vc > top)) continue
      const [u, v] = [
        [ua, ub, uc],
        [va, vb, vc],
      ]
      if ([0, 1, 2].every((side) => !isBeyond(u, v, side, left, right, bottom, top))) return true
    }
  }
  return false
}

/** Whether the rectangle lies beyond one side of the triangle, as the triangle's third corner does not. */
function isBeyond(
  u: readonly number[],
  v: readonly number[],
  side: number,
  left: number,
  right: number,
  bottom: number,
  top: number,
): boolean {
  const [next, third] = [(side + 1) % 3, (side + 2) % 3]
  const [du, dv] = [u[next] - u[side], v[next] - v[side]]
  const apart = (x: number, y: number): number => du * (y - v[side]) - dv * (x - u[side])
  const inner = apart(u[third], v[third])
  const places = [apart(left, bottom), apart(right, bottom), apart(left, top), apart(right, top)]
  return (inner >= 0 && places.every((place) => place < 0)) || (inner <= 0 && places.every((place) => place > 0))
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
