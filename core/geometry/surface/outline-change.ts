import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { enclosingBall, perpendicular } from './facing.ts'

const VIEWS = 8
const SIDE = 256

/**
 * How far two outlines differ from eight directions round the item, each as a share of the first outline's area.
 * @example const worst = Math.max(...outlineChange(source, reduced))
 */
export function outlineChange(first: TriangleSoup, second: TriangleSoup): number[] {
  const ball = enclosingBall(first.positions)
  return Array.from({ length: VIEWS }, (_, view) => {
    const angle = (view / VIEWS) * Math.PI * 2
    // Looked at a little from above, as one comes upon things.
    const direction = [Math.cos(angle) * 0.94, -0.34, Math.sin(angle) * 0.94]
    const [before, after] = [outline(first, direction, ball), outline(second, direction, ball)]
    let area = 0
    let changed = 0
    for (let pixel = 0; pixel < before.length; pixel++) {
      area += before[pixel]
      if (before[pixel] !== after[pixel]) changed++
    }
    return area === 0 ? 0 : changed / area
  })
}

/** 1 wherever a triangle covers the middle of a pixel, seen along a direction. */
function outline(
  { positions, indices }: TriangleSoup,
  direction: readonly number[],
  { centre, radius }: { centre: number[]; radius: number },
): Uint8Array {
  const [side, up] = perpendicular(direction)
  const scale = (SIDE - 1) / (2.2 * radius)
  const picture = new Uint8Array(SIDE * SIDE)
  const placed = (corner: number, axis: readonly number[]): number => {
    let along = 0
    for (let each = 0; each < 3; each++) along += (positions[corner * 3 + each] - centre[each]) * axis[each]
    return (along + 1.1 * radius) * scale
  }
  for (let index = 0; index < indices.length; index += 3) {
    const x = [placed(indices[index], side), placed(indices[index + 1], side), placed(indices[index + 2], side)]
    const y = [placed(indices[index], up), placed(indices[index + 1], up), placed(indices[index + 2], up)]
    const lowRow = Math.max(0, Math.ceil(Math.min(...y)))
    const highRow = Math.min(SIDE - 1, Math.floor(Math.max(...y)))
    for (let row = lowRow; row <= highRow; row++) {
      const crossings: number[] = []
      for (let edge = 0; edge < 3; edge++) {
        const [from, to] = [edge, (edge + 1) % 3]
        if (y[from] <= row === y[to] <= row) continue
        crossings.push(x[from] + ((row - y[from]) / (y[to] - y[from])) * (x[to] - x[from]))
      }
      if (crossings.length < 2) continue
      const start = Math.max(0, Math.ceil(Math.min(...crossings)))
      const end = Math.min(SIDE - 1, Math.floor(Math.max(...crossings)))
      if (end >= start) picture.fill(1, row * SIDE + start, row * SIDE + end + 1)
    }
  }
  return picture
}
