import { lengthOf, type Vector3 } from '../../maths/vectors.ts'

/** Where both ends stand over each other a line hangs in a loop this wide, as a share of its length. */
const NARROWEST = 1e-3
const ROUNDS = 80

/**
 * Points along a line that hangs between two places by its own weight: a catenary, at even lengths along it.
 * @param slack how much longer it is than the straight way, as a share: 0 is taut
 * @param count pieces; one more points come back, both ends among them
 *
 * @example hangingLine([0, 5, 0], [8, 5, 0], 0.05, 12)[6][1] // lower than 5
 */
export function hangingLine(from: Vector3, to: Vector3, slack: number, count: number): Vector3[] {
  const way: Vector3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]]
  const straight = lengthOf(way)
  const at = (share: number): Vector3 => [from[0] + way[0] * share, from[1] + way[1] * share, from[2] + way[2] * share]
  if (!(slack > 1e-6) || straight === 0) return Array.from({ length: count + 1 }, (_, piece) => at(piece / count))
  const length = straight * (1 + slack)
  const rise = way[1]
  const across = Math.max(Math.hypot(way[0], way[2]), length * NARROWEST)
  const a = parameterOf(across, rise, length)
  // Lowest point, from the first end: half way, put aside by how much one end is higher.
  const middle = across / 2 - a * Math.atanh(Math.max(-1 + 1e-12, Math.min(1 - 1e-12, rise / length)))
  const height = (x: number): number => a * Math.cosh((x - middle) / a)
  const alongUntil = (x: number): number => a * Math.sinh((x - middle) / a)
  const [begin, first] = [alongUntil(0), height(0)]
  return Array.from({ length: count + 1 }, (_, piece): Vector3 => {
    if (piece === 0) return [...from]
    if (piece === count) return [...to]
    const x = middle + a * Math.asinh((begin + (length * piece) / count) / a)
    const share = x / across
    return [from[0] + way[0] * share, from[1] + height(x) - first, from[2] + way[2] * share]
  })
}

/**
 * The parameter of the catenary of a length over a distance and a rise: where 2a·sinh(across / 2a) is √(length² −
 * rise²), found by halving.
 */
function parameterOf(across: number, rise: number, length: number): number {
  const wanted = Math.sqrt(Math.max(0, length * length - rise * rise)) / across
  // With u = across / 2a the equation is sinh(u) / u = wanted, which rises with u.
  let [low, high] = [1e-9, 1]
  while (Math.sinh(high) / high < wanted && high < 700) high *= 2
  for (let round = 0; round < ROUNDS; round++) {
    const u = (low + high) / 2
    if (Math.sinh(u) / u < wanted) low = u
    else high = u
  }
  return across / (low + high)
}
