import type { RayCaster } from './ray-caster.ts'

type Vector = readonly [number, number, number]

/**
 * `count` directions about +z, denser where the surface faces, as light counts there (Malley's method on a Fibonacci
 * disc).
 *
 * @example cosineDirections(64).every(([, , z]) => z > 0) // true
 */
export function cosineDirections(count: number): Vector[] {
  const golden = Math.PI * (3 - Math.sqrt(5))
  return Array.from({ length: count }, (_, index) => {
    const radius = Math.sqrt((index + 0.5) / count)
    return [
      radius * Math.cos(golden * index),
      radius * Math.sin(golden * index),
      Math.sqrt(Math.max(0, 1 - radius * radius)),
    ]
  })
}

/**
 * Two directions square to a unit normal and to each other (Duff et al., “Building an orthonormal basis, revisited”,
 * 2017).
 */
export function basisAround([x, y, z]: readonly number[]): { right: Vector; up: Vector } {
  const sign = z >= 0 ? 1 : -1
  const a = -1 / (sign + z)
  const b = x * y * a
  return { right: [1 + sign * x * x * a, sign * b, -sign * x], up: [b, sign + y * y * a, -y] }
}

/**
 * Share of the sky that a place on a surface sees, 0 to 1. What stands further off than `reach` hides nothing, and what
 * is nearer hides more the nearer it is.
 * @param turnRadians turns the pattern, so that neighbours do not share its gaps
 *
 * @example const light = openness(caster, place, normal, cosineDirections(64), 2, 0.001, 0)
 */
export function openness(
  caster: RayCaster,
  place: readonly number[],
  normal: readonly number[],
  directions: readonly Vector[],
  reach: number,
  lift: number,
  turnRadians: number,
): number {
  const { right, up } = basisAround(normal)
  const [cosine, sine] = [Math.cos(turnRadians), Math.sin(turnRadians)]
  const origin = [0, 1, 2].map((axis) => place[axis] + normal[axis] * lift)
  let hidden = 0
  for (const [dx, dy, dz] of directions) {
    const [x, y] = [dx * cosine - dy * sine, dx * sine + dy * cosine]
    const hit = caster.first(
      origin,
      [0, 1, 2].map((axis) => right[axis] * x + up[axis] * y + normal[axis] * dz),
    )
    if (hit && hit.distance < reach) hidden += 1 - hit.distance / reach
  }
  return 1 - hidden / directions.length
}
