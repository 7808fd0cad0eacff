import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { enclosingBall, perpendicular } from './facing.ts'
import { createRayCaster, spreadDirections, type RayCaster } from './ray-caster.ts'

export interface HiddenOptions {
  /**
   * A triangle goes when it is seen from no more than this share of the directions, 0 to 1: the deeper, the more goes.
   */
  seenFromAtMost: number
  /** Per triangle: 1 for what one sees through, which hides nothing. */
  seeThrough?: Uint8Array
  /** Called between pieces of work with a share from 0 to 1. */
  progress?: (fraction: number) => Promise<void>
}

const DIRECTIONS = 162
const PICTURE_SIDE = 384
/** Triangles smaller than this many pixels can slip between the pixels of every picture. */
const SMALL_PIXELS = 3

/**
 * Finds triangles that cannot be seen from any direction outside. Most are told visible by drawing the item into depth
 * pictures from all round; what no picture shows is asked again with rays where a triangle is so small that it may have
 * slipped between the pixels.
 * @returns 1 for each hidden triangle
 *
 * @example const hidden = await findHiddenFaces(item, { seenFromAtMost: 0 })
 */
export async function findHiddenFaces(
  item: TriangleSoup,
  { seenFromAtMost, seeThrough, progress }: HiddenOptions,
): Promise<Uint8Array> {
  const triangleCount = item.indices.length / 3
  const views = new Uint16Array(triangleCount)
  const directions = spreadDirections(DIRECTIONS)
  const opaque = withoutTriangles(item.indices, seeThrough)
  for (const [number, direction] of directions.entries()) {
    await progress?.((number / directions.length) * 0.5)
    markSeen(item, direction, seeThrough, views)
  }
  const limit = Math.floor(seenFromAtMost * DIRECTIONS)
  const caster = createRayCaster(item.positions, opaque)
  const { radius } = enclosingBall(item.positions)
  const hidden = new Uint8Array(triangleCount)
  const small = (SMALL_PIXELS * 2 * radius) / PICTURE_SIDE
  for (let triangle = 0; triangle < triangleCount; triangle++) {
    if (views[triangle] > limit) continue
    if (triangle % 64 === 0) await progress?.(0.5 + (triangle / triangleCount) * 0.5)
    if (extentOf(item, triangle) < small && escapes(item, triangle, directions, limit, radius * 1e-4, caster) > limit)
      continue
    hidden[triangle] = 1
  }
  return hidden
}

function extentOf({ positions, indices }: TriangleSoup, triangle: number): number {
  const corners = [0, 1, 2].map((corner) => indices[triangle * 3 + corner] * 3)
  return Math.max(
    ...[0, 1, 2].map(
      (axis) =>
        Math.max(...corners.map((corner) => positions[corner + axis])) -
        Math.min(...corners.map((corner) => positions[corner + axis])),
    ),
  )
}

/** From how many directions light gets to a triangle's middle; stops at one more than is asked. */
function escapes(
  { positions, indices }: TriangleSoup,
  triangle: number,
  directions: readonly [number, number, number][],
  asked: number,
  lift: number,
  caster: RayCaster,
): number {
  const corners = [0, 1, 2].map((corner) => indices[triangle * 3 + corner] * 3)
  const middle = [0, 1, 2].map((axis) => corners.reduce((sum, corner) => sum + positions[corner + axis], 0) / 3)
  let count = 0
  for (const direction of directions) {
    if (
      caster.first(
        middle.map((value, axis) => value + direction[axis] * lift),
        direction,
      ) === null
    )
      count++
    if (count > asked) break
  }
  return count
}

function withoutTriangles(indices: Uint32Array, left: Uint8Array | undefined): Uint32Array {
  return left ? indices.filter((_, index) => !left[Math.floor(index / 3)]) : indices
}

/** Draws the item seen along a direction, and counts a view for each triangle that shows in any pixel. */
function markSeen(
  { positions, indices }: TriangleSoup,
  direction: readonly number[],
  seeThrough: Uint8Array | undefined,
  views: Uint16Array,
): void {
  const { centre, radius } = enclosingBall(positions)
  const [side, up] = perpendicular(direction)
  const along = (corner: number, axis: readonly number[]): number =>
    (positions[corner * 3] - centre[0]) * axis[0] +
    (positions[corner * 3 + 1] - centre[1]) * axis[1] +
    (positions[corner * 3 + 2] - centre[2]) * axis[2]
  const scale = (PICTURE_SIDE - 1) / (2 * radius)
  const depth = new Float32Array(PICTURE_SIDE * PICTURE_SIDE).fill(Infinity)
  const shown = new Int32Array(PICTURE_SIDE * PICTURE_SIDE).fill(-1)
  const through = new Set<number>()
  for (let triangle = 0; triangle < indices.length / 3; triangle++) {
    const corners = [indices[triangle * 3], indices[triangle * 3 + 1], indices[triangle * 3 + 2]]
    const x = corners.map((corner) => (along(corner, side) + radius) * scale)
    const y = corners.map((corner) => (along(corner, up) + radius) * scale)
    const z = corners.map((corner) => along(corner, direction))
    if (seeThrough?.[triangle]) {
      through.add(triangle)
      continue
    }
    drawTriangle(x, y, z, triangle, depth, shown)
  }
  const counted = new Uint8Array(views.length)
  for (const triangle of shown) {
    if (triangle < 0 || counted[triangle]) continue
    counted[triangle] = 1
    views[triangle]++
  }
  for (const triangle of through) views[triangle]++
}

function drawTriangle(
  x: readonly number[],
  y: readonly number[],
  z: readonly number[],
  triangle: number,
  depth: Float32Array,
  shown: Int32Array,
): void {
  const area = (x[1] - x[0]) * (y[2] - y[0]) - (x[2] - x[0]) * (y[1] - y[0])
  if (area === 0) return
  const lowX = Math.max(0, Math.ceil(Math.min(x[0], x[1], x[2])))
  const highX = Math.min(PICTURE_SIDE - 1, Math.floor(Math.max(x[0], x[1], x[2])))
  const lowY = Math.max(0, Math.ceil(Math.min(y[0], y[1], y[2])))
  const highY = Math.min(PICTURE_SIDE - 1, Math.floor(Math.max(y[0], y[1], y[2])))
  for (let row = lowY; row <= highY; row++) {
    for (let column = lowX; column <= highX; column++) {
      const w1 = ((column - x[0]) * (y[2] - y[0]) - (x[2] - x[0]) * (row - y[0])) / area
      const w2 = ((x[1] - x[0]) * (row - y[0]) - (column - x[0]) * (y[1] - y[0])) / area
      if (w1 < 0 || w2 < 0 || w1 + w2 > 1) continue
      const near = z[0] + w1 * (z[1] - z[0]) + w2 * (z[2] - z[0])
      const pixel = row * PICTURE_SIDE + column
      if (near >= depth[pixel]) continue
      depth[pixel] = near
      shown[pixel] = triangle
    }
  }
}
