import type { TriangleSoup } from './convex-hull.ts'
import { pointsOf, rotationTo, squareTo, UNTURNED, type PlacedShape, type Triple } from './placed-shape.ts'
import { along, dot, unit } from '../../maths/vectors.ts'

/**
 * Rounds of moving the middle of a least ball towards the furthest point; the radius is then within 1 % of the least.
 */
const ROUNDS = 300

/**
 * The least ball round points of any dimension, nearly: the middle moves towards the furthest point by an ever smaller
 * share (Bădoiu and Clarkson, “Smaller core-sets for balls”, 2003).
 */
function leastBall(points: readonly (readonly number[])[]): { middle: number[]; radius: number } {
  const middle = [...points[0]]
  const distance = (point: readonly number[]): number => Math.hypot(...point.map((value, axis) => value - middle[axis]))
  const furthest = (): readonly number[] =>
    points.reduce((best, point) => (distance(point) > distance(best) ? point : best), points[0])
  for (let round = 1; round <= ROUNDS; round++) {
    const far = furthest()
    far.forEach((value, axis) => {
      middle[axis] += (value - middle[axis]) / (round + 1)
    })
  }
  return { middle, radius: distance(furthest()) }
}

/**
 * The ball round some points.
 * @example const { mesh, translation } = fitBall(positions)
 */
export function fitBall(positions: Float32Array): PlacedShape {
  const { middle, radius } = leastBall(pointsOf(positions))
  return { mesh: roundMesh(radius, 0), translation: middle as Triple, rotation: UNTURNED }
}

/** The direction in which points are spread most, by repeated multiplication with their covariance. */
function longestDirection(points: readonly Triple[]): Triple {
  const mean = [0, 1, 2].map((axis) => points.reduce((sum, point) => sum + point[axis], 0) / points.length)
  const spread = [0, 1, 2].map((row) =>
    [0, 1, 2].map((column) =>
      points.reduce((sum, point) => sum + (point[row] - mean[row]) * (point[column] - mean[column]), 0),
    ),
  )
  let direction = unit([1, 0.7, 0.4])
  for (let round = 0; round < 60; round++) direction = unit(spread.map((row) => dot(row, direction)))
  return direction
}

interface Rod {
  axis: Triple
  /** Middle of the cross-section, on the axis’ plane through the origin. */
  foot: Triple
  radius: number
  low: number
  high: number
}

/**
 * For each likely direction, the least circle round the points seen along it, and their ends. @param ends how far the
 * flat or round ends reach, for one point
 */
function bestRod(
  positions: Float32Array,
  ends: (height: number, off: number, radius: number) => [number, number],
  volume: (radius: number, length: number) => number,
): Rod {
  const points = pointsOf(positions)
  const rods = [longestDirection(points), [1, 0, 0], [0, 1, 0], [0, 0, 1]].map((direction): Rod => {
    const axis = direction as Triple
    const [right, forward] = squareTo(axis)
    const { middle, radius } = leastBall(points.map((point) => [dot(point, right), dot(point, forward)]))
    let [low, high] = [Infinity, -Infinity]
    for (const point of points) {
      const off = Math.hypot(dot(point, right) - middle[0], dot(point, forward) - middle[1])
      const [down, up] = ends(dot(point, axis), off, radius)
      if (down < low) low = down
      if (up > high) high = up
    }
    return { axis, foot: along([0, 0, 0], [right, middle[0]], [forward, middle[1]]), radius, low, high }
  })
  return rods.reduce((best, rod) =>
    volume(rod.radius, Math.max(0, rod.high - rod.low)) <
    volume(best.radius, Math.max(0, best.high - best.low)) * (1 - 1e-6)
      ? rod
      : best,
  )
}

const placed = ({ axis, foot, low, high }: Rod, mesh: TriangleSoup): PlacedShape => {
  const [right, forward] = squareTo(axis)
  // Meshes stand along y: x, y and z become right, axis and what is square to both.
  const upright = axis[1] === 1
  return {
    mesh,
    translation: along(foot, [axis, (low + high) / 2]),
    rotation: upright
      ? UNTURNED
      : rotationTo(
          right,
          axis,
          forward.map((value) => -value),
        ),
  }
}

/**
 * The capsule round some points: a rod with half a ball at each end.
 * @example const { mesh, translation, rotation } = fitCapsule(positions)
 */
export function fitCapsule(positions: Float32Array): PlacedShape {
  const rod = bestRod(
    positions,
    // Each half ball has to reach over the points near its end: where the rod itself may end for that.
    (height, off, radius) => {
      const reach = Math.sqrt(Math.max(0, radius * radius - off * off))
      return [height + reach, height - reach]
    },
    (radius, length) => Math.PI * radius * radius * (length + (4 / 3) * radius),
  )
  // With round ends that nearly meet the rod has no length.
  if (rod.high < rod.low) rod.low = rod.high = (rod.low + rod.high) / 2
  return placed(rod, roundMesh(rod.radius, (rod.high - rod.low) / 2))
}

/**
 * The cylinder round some points.
 * @example const { mesh, translation, rotation } = fitCylinder(positions)
 */
export function fitCylinder(positions: Float32Array): PlacedShape {
  const rod = bestRod(
    positions,
    (height) => [height, height],
    (radius, length) => Math.PI * radius * radius * length,
  )
  return placed(rod, cylinderMesh(rod.radius, Math.max(1e-6, (rod.high - rod.low) / 2)))
}

const AROUND = 12
const RINGS = 3

/** A ball, or with a half length a capsule along y. */
export function roundMesh(radius: number, halfLength: number): TriangleSoup {
  const rings: { y: number; r: number }[] = []
  for (let ring = 1; ring <= RINGS; ring++)
    rings.push({
      y: halfLength + radius * Math.cos((ring / (RINGS + (halfLength > 0 ? 0 : 1))) * (Math.PI / 2)),
      r: radius * Math.sin((ring / (RINGS + (halfLength > 0 ? 0 : 1))) * (Math.PI / 2)),
    })
  if (halfLength === 0) rings.push({ y: 0, r: radius })
  const lower = rings
    .map(({ y, r }) => ({ y: -y, r }))
    .reverse()
    .filter((ring) => halfLength > 0 || ring.y < -1e-12)
  return lathe([...rings, ...lower], halfLength + radius)
}

/** A cylinder along y. */
export const cylinderMesh = (radius: number, halfLength: number): TriangleSoup =>
  lathe(
    [
      { y: halfLength, r: radius },
      { y: -halfLength, r: radius },
    ],
    halfLength,
  )

/** Rings from top to bottom, closed by a point at each end. */
function lathe(rings: readonly { y: number; r: number }[], end: number): TriangleSoup {
  const positions: number[] = [0, end, 0]
  for (const { y, r } of rings)
    for (let step = 0; step < AROUND; step++)
      positions.push(r * Math.cos((step / AROUND) * 2 * Math.PI), y, r * Math.sin((step / AROUND) * 2 * Math.PI))
  positions.push(0, -end, 0)
  const indices: number[] = []
  const at = (ring: number, step: number): number => 1 + ring * AROUND + (step % AROUND)
  for (let step = 0; step < AROUND; step++) {
    indices.push(0, at(0, step + 1), at(0, step))
    for (let ring = 0; ring + 1 < rings.length; ring++)
      indices.push(
        at(ring, step),
        at(ring, step + 1),
        at(ring + 1, step + 1),
        at(ring, step),
        at(ring + 1, step + 1),
        at(ring + 1, step),
      )
    indices.push(positions.length / 3 - 1, at(rings.length - 1, step), at(rings.length - 1, step + 1))
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}
