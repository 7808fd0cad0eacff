import type { TriangleSoup } from '../shapes/convex-hull.ts'

/** Space cut into upright columns; each knows the stretches of height that something fills. */
export interface Columns {
  /** Columns across and along, and the side of one. */
  across: number
  along: number
  cell: number
  /** Lower corner in plan. */
  origin: [number, number]
  /** For each column, filled stretches as pairs of low and high, in rising order and apart. */
  filled: Float64Array[]
}

export interface PlanBox {
  low: [number, number]
  high: [number, number]
}

/** Columns that are asked for at most; beyond that they get wider. */
const MOST_COLUMNS = 120_000

/**
 * Points in plan: 3 floats each, across (X), along (Z), up (Y).
 * @example [...toPlan(Float32Array.of(1, 2, 3))] // [1, 3, 2]
 */
export function toPlan(positions: Float32Array): Float32Array {
  const made = new Float32Array(positions.length)
  for (let at = 0; at < positions.length; at += 3) {
    made[at] = positions[at]
    made[at + 1] = positions[at + 2]
    made[at + 2] = positions[at + 1]
  }
  return made
}

/**
 * A cell no smaller than asked, so that a box has no more columns than can be worked through.
 * @example const cell = cellFor(plan, walker.width / 4)
 */
export function cellFor({ low, high }: PlanBox, asked: number): number {
  const area = (high[0] - low[0]) * (high[1] - low[1])
  return Math.max(asked, Math.sqrt(Math.max(0, area) / MOST_COLUMNS))
}

/**
 * Fills columns with what meshes occupy: each triangle is clipped to each column it crosses (Sutherland and Hodgman,
 * 1974), and the heights of what is left are filled. Surfaces are filled, not what they enclose.
 * @param meshes with positions in plan
 *
 * @example const columns = fillColumns([{ positions: toPlan(positions), indices }], plan, cellFor(plan, 0.25))
 */
export function fillColumns(meshes: readonly TriangleSoup[], box: PlanBox, cell: number): Columns {
  const across = Math.max(1, Math.ceil((box.high[0] - box.low[0]) / cell))
  const along = Math.max(1, Math.ceil((box.high[1] - box.low[1]) / cell))
  const raw: number[][] = Array.from({ length: across * along }, () => [])
  for (const { positions, indices } of meshes) {
    for (let index = 0; index < indices.length; index += 3) {
      const corners = [0, 1, 2].map((corner) => {
        const at = indices[index + corner] * 3
        return [positions[at] - box.low[0], positions[at + 1] - box.low[1], positions[at + 2]]
      })
      fillTriangle(corners, across, along, cell, raw)
    }
  }
  return {
    across,
    along,
    cell,
    origin: [box.low[0], box.low[1]],
    filled: raw.map((spans) => joined(spans, cell * 0.05)),
  }
}

function fillTriangle(corners: number[][], across: number, along: number, cell: number, raw: number[][]): void {
  const range = (axis: number, count: number): [number, number] => {
    const values = corners.map((corner) => corner[axis])
    return [
      Math.max(0, Math.floor(Math.min(...values) / cell)),
      Math.min(count - 1, Math.floor(Math.max(...values) / cell)),
    ]
  }
  const [firstAlong, lastAlong] = range(1, along)
  const [firstAcross, lastAcross] = range(0, across)
  if (firstAlong > lastAlong || firstAcross > lastAcross) return
  // Most triangles of a fine mesh lie in one column altogether.
  if (firstAlong === lastAlong && firstAcross === lastAcross) {
    const heights = corners.map((corner) => corner[2])
    raw[firstAlong * across + firstAcross].push(Math.min(...heights), Math.max(...heights))
    return
  }
  for (let row = firstAlong; row <= lastAlong; row++) {
    const strip = firstAlong === lastAlong ? corners : clip(clip(corners, 1, row * cell, 1), 1, (row + 1) * cell, -1)
    if (strip.length === 0) continue
    const [low, high] = [Math.min(...strip.map((corner) => corner[0])), Math.max(...strip.map((corner) => corner[0]))]
    const [first, last] = [Math.max(0, Math.floor(low / cell)), Math.min(across - 1, Math.floor(high / cell))]
    for (let column = first; column <= last; column++) {
      const piece = first === last ? strip : clip(clip(strip, 0, column * cell, 1), 0, (column + 1) * cell, -1)
      if (piece.length === 0) continue
      let [bottom, top] = [Infinity, -Infinity]
      for (const corner of piece) {
        if (corner[2] < bottom) bottom = corner[2]
        if (corner[2] > top) top = corner[2]
      }
      raw[row * across + column].push(bottom, top)
    }
  }
}

/** The part of a polygon beyond a line, on the side of rising (1) or falling (−1) values. */
function clip(polygon: readonly number[][], axis: number, line: number, side: 1 | -1): number[][] {
  const kept: number[][] = []
  for (let index = 0; index < polygon.length; index++) {
    const [here, next] = [polygon[index], polygon[(index + 1) % polygon.length]]
    const [a, b] = [(here[axis] - line) * side, (next[axis] - line) * side]
    if (a >= 0) kept.push(here)
    if (a >= 0 === b >= 0) continue
    const share = a / (a - b)
    kept.push(here.map((value, each) => value + (next[each] - value) * share))
  }
  return kept
}

function joined(spans: number[], gap: number): Float64Array {
  const pairs = Array.from({ length: spans.length / 2 }, (_, pair): [number, number] => [
    spans[pair * 2],
    spans[pair * 2 + 1],
  ]).sort((a, b) => a[0] - b[0])
  const kept: number[] = []
  for (const [low, high] of pairs) {
    if (kept.length > 0 && low <= kept[kept.length - 1] + gap)
      kept[kept.length - 1] = Math.max(kept[kept.length - 1], high)
    else kept.push(low, high)
  }
  return Float64Array.from(kept)
}
