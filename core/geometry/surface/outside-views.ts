import type { SeenItem } from './facing.ts'

/** Points along the longer side of each picture. */
const SIDE = 128
/** A back counts where no front is nearer by this share of the item's longest side: there the two meet at an edge. */
const MEETING = 1e-4

export interface OutsideViews {
  /** Share of what six pictures along the axes show that is the back of a face seen from one side only. */
  share: number
  /** For each part, how many points of the pictures show its backs. */
  backsOfPart: Map<number, number>
}

interface Grid {
  /** Axes of the picture and the one it looks along. */
  across: number
  up: number
  along: number
  least: number[]
  pointsPerUnit: number
}

/**
 * Looks at an item from its six sides as a game's camera far off would: parallel, over a grid of 128 points on the
 * longer side of each picture, from the box's lowest corner to its highest. The nearest face at each point decides.
 *
 * @example outsideViews(seenItem(parts)).share > 0.01
 */
export function outsideViews(item: SeenItem): OutsideViews {
  const { least, most } = boxOf(item.positions, item.indices)
  const longest = Math.max(...most.map((value, axis) => value - least[axis]))
  const backsOfPart = new Map<number, number>()
  let covered = 0
  let backs = 0
  for (let along = 0; along < 3 && item.indices.length > 0; along++) {
    const [across, up] = [(along + 1) % 3, (along + 2) % 3]
    const grid: Grid = {
      across,
      up,
      along,
      least,
      pointsPerUnit: (SIDE - 1) / Math.max(most[across] - least[across], most[up] - least[up], 1e-9),
    }
    for (const { front, back, partOfBack } of drawAlong(item, grid)) {
      for (let point = 0; point < front.length; point++) {
        if (front[point] === -Infinity && back[point] === -Infinity) continue
        covered++
        if (back[point] <= front[point] + MEETING * longest) continue
        backs++
        backsOfPart.set(partOfBack[point], (backsOfPart.get(partOfBack[point]) ?? 0) + 1)
      }
    }
  }
  return { share: covered === 0 ? 0 : backs / covered, backsOfPart }
}

function boxOf(positions: Float32Array, indices: Uint32Array): { least: number[]; most: number[] } {
  const least = [Infinity, Infinity, Infinity]
  const most = [-Infinity, -Infinity, -Infinity]
  for (const corner of indices) {
    for (let axis = 0; axis < 3; axis++) {
      const value = positions[corner * 3 + axis]
      if (value < least[axis]) least[axis] = value
      if (value > most[axis]) most[axis] = value
    }
  }
  return { least, most }
}

/** The nearest front and the nearest back at every point. */
interface Side {
  front: Float64Array
  back: Float64Array
  partOfBack: Uint32Array
}

const emptySide = (): Side => ({
  front: new Float64Array(SIDE * SIDE).fill(-Infinity),
  back: new Float64Array(SIDE * SIDE).fill(-Infinity),
  partOfBack: new Uint32Array(SIDE * SIDE),
})

/** What is seen along an axis from its far end, and from its near one: each triangle covers the same points of both. */
function drawAlong(
  { positions, indices, twoSided, partOfTriangle }: SeenItem,
  { across, up, along, least, pointsPerUnit }: Grid,
): [Side, Side] {
  const sides: [Side, Side] = [emptySide(), emptySide()]
  const x = [0, 0, 0]
  const y = [0, 0, 0]
  const depth = [0, 0, 0]
  for (let triangle = 0; triangle < indices.length / 3; triangle++) {
    for (let corner = 0; corner < 3; corner++) {
      const at = indices[triangle * 3 + corner] * 3
      x[corner] = (positions[at + across] - least[across]) * pointsPerUnit
      y[corner] = (positions[at + up] - least[up]) * pointsPerUnit
      depth[corner] = positions[at + along]
    }
    const firstRow = Math.max(0, Math.ceil(Math.min(y[0], y[1], y[2])))
    const lastRow = Math.min(SIDE - 1, Math.floor(Math.max(y[0], y[1], y[2])))
    // Most triangles of a fine mesh lie between the points.
    if (firstRow > lastRow || Math.ceil(Math.min(x[0], x[1], x[2])) > Math.floor(Math.max(x[0], x[1], x[2]))) continue
    const area = (x[1] - x[0]) * (y[2] - y[0]) - (x[2] - x[0]) * (y[1] - y[0])
    if (area === 0) continue
    // How depth grows along the picture's two axes, across the triangle's plane.
    const slopeX = ((depth[1] - depth[0]) * (y[2] - y[0]) - (depth[2] - depth[0]) * (y[1] - y[0])) / area
    const slopeY = ((depth[2] - depth[0]) * (x[1] - x[0]) - (depth[1] - depth[0]) * (x[2] - x[0])) / area
    for (let row = firstRow; row <= lastRow; row++) {
      const [from, to] = spanOf(x, y, row)
      const lastColumn = Math.min(SIDE - 1, Math.floor(to))
      for (let column = Math.max(0, Math.ceil(from)); column <= lastColumn; column++) {
        const near = depth[0] + (column - x[0]) * slopeX + (row - y[0]) * slopeY
        const point = row * SIDE + column
        for (let end = 0; end < 2; end++) {
          const toward = end === 0 ? 1 : -1
          const isFront = area * toward > 0 || twoSided[triangle] === 1
          const target = isFront ? sides[end].front : sides[end].back
          if (near * toward <= target[point]) continue
          target[point] = near * toward
          if (!isFront) sides[end].partOfBack[point] = partOfTriangle[triangle]
        }
      }
    }
  }
  return sides
}

/** Where a row of the picture enters and leaves a triangle. */
function spanOf(x: readonly number[], y: readonly number[], row: number): [number, number] {
  let from = Infinity
  let to = -Infinity
  for (let corner = 0; corner < 3; corner++) {
    const next = (corner + 1) % 3
    if ((y[corner] < row && y[next] < row) || (y[corner] > row && y[next] > row)) continue
    const ends =
      y[corner] === y[next]
        ? [x[corner], x[next]]
        : [x[corner] + ((row - y[corner]) / (y[next] - y[corner])) * (x[next] - x[corner])]
    from = Math.min(from, ...ends)
    to = Math.max(to, ...ends)
  }
  return [from, to]
}
