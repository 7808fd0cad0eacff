import { MeshoptSimplifier } from 'meshoptimizer/simplifier'
import type { CornerAttributes } from './corner-attributes.ts'
import { joinAttributes } from './corner-attributes.ts'
import { NO_TWIN } from './edges.ts'
import { placeMesh } from './triangle-mesh.ts'
import { sampledSurface, typicalShiftBetween } from '../surface/surface-distance.ts'

/** How far a mesh must move for how many triangles: the more detail, the steeper. */
export interface ErrorCurve {
  /** From many triangles to few. */
  triangles: number[]
  /** In the units of the mesh, beginning at 0. */
  shifts: number[]
}

const MEASURED_TRIANGLES = 50_000
/** Places at which a mesh is measured, at the most. */
export const MOST_CURVE_SAMPLES = 150
const STEPS = [0.4, 0.16, 0.064, 0.0256, 0.01]

/**
 * What a mesh would lose at a few counts, each found from the one before, without moving corners: quick, and only for
 * sharing.
 * @param samples places at which it is measured, unless it is very large
 *
 * @example const curves = await Promise.all(meshes.map((mesh) => errorCurve(mesh)))
 */
export async function errorCurve(
  mesh: { positions: Float32Array; indices: Uint32Array; attributes: CornerAttributes },
  samples = MOST_CURVE_SAMPLES,
): Promise<ErrorCurve> {
  await MeshoptSimplifier.ready
  const { positions, attributes } = mesh
  const scale = MeshoptSimplifier.getScale(positions, 3) || 1
  const joined = joinAttributes(attributes, positions.length / 3)
  const curve: ErrorCurve = { triangles: [mesh.indices.length / 3], shifts: [0] }
  const measured =
    mesh.indices.length / 3 <= MEASURED_TRIANGLES && !enclosesAll(mesh) ? sampledSurface(mesh, samples) : null
  let { indices } = mesh
  let worst = 0
  for (const share of STEPS) {
    const target = Math.max(1, Math.floor((mesh.indices.length / 3) * share))
    // Collapses that take several triangles at once may have come below it; the library takes no target above that.
    if (target * 3 > indices.length) continue
    const [next, error] = MeshoptSimplifier.simplifyWithAttributes(
      indices,
      positions,
      3,
      joined.array,
      joined.stride,
      joined.weights,
      null,
      target * 3,
      1,
      ['Sparse', 'Permissive'],
    )
    if (next.length === 0 || next.length >= indices.length) break
    indices = next
    // The library's estimate counts what else corners carry, and does not see what is lost at borders, as whole leaves
    // are: where there are some, that is measured.
    const shift = Math.max(
      error * scale,
      measured ? typicalShiftBetween(measured, sampledSurface({ positions, indices }, samples)) : 0,
    )
    worst = Math.max(worst + 1e-9, shift)
    curve.triangles.push(indices.length / 3)
    curve.shifts.push(worst)
  }
  return curve
}

/** Whether just two triangles meet at each edge, so that there is no border to be lost. */
const enclosesAll = ({ positions, indices }: { positions: Float32Array; indices: Uint32Array }): boolean =>
  !placeMesh(positions, indices).twin.includes(NO_TWIN)

/** Triangles a mesh needs so that it moves by no more than `shift`: log-linear between the measured counts. */
export function trianglesAt({ triangles, shifts }: ErrorCurve, shift: number): number {
  if (triangles.length === 1) return triangles[0]
  for (let at = 1; at < triangles.length; at++) {
    if (shift > shifts[at]) continue
    const along = (shift - shifts[at - 1]) / (shifts[at] - shifts[at - 1] || 1)
    return triangles[at - 1] * (triangles[at] / triangles[at - 1]) ** along
  }
  const last = triangles.length - 1
  // Beyond the last measure the count falls with the square root of the shift, as on curved surfaces.
  return Math.max(1, triangles[last] * Math.sqrt((shifts[last] || 1e-12) / shift))
}

export interface BudgetShare {
  curve: ErrorCurve
  /** How often the mesh is drawn. */
  instances: number
  /** The larger, the less it may move: how much of it is seen, times what the modder gave it. */
  weight: number
}

const ROUNDS = 60
/** Every mesh gets this share of what it would have if all gave alike: a trunk is not spent on the leaves. */
const LEAST_SHARE = 0.2

/**
 * Shares a triangle budget among meshes so that each moves by the same amount, divided by its weight: what is seen more
 * and what has more detail gets more. Every mesh gets at least one triangle and a fifth of what it would have if all
 * gave alike, none more than it has.
 *
 * @example const targets = shareBudget(meshes.map((mesh, at) => ({ ...mesh, curve: curves[at] })), 4000)
 */
export function shareBudget(meshes: readonly BudgetShare[], budget: number): number[] {
  const most = meshes.map(({ curve }) => curve.triangles[0])
  const sumOf = (counts: readonly number[]): number =>
    counts.reduce((sum, count, index) => sum + count * meshes[index].instances, 0)
  const all = sumOf(most)
  if (all <= budget) return most
  const countsAt = (shift: number): number[] =>
    meshes.map(({ curve, weight }, index) =>
      Math.max(
        1,
        Math.floor((most[index] / all) * budget * LEAST_SHARE),
        Math.min(most[index], Math.ceil(trianglesAt(curve, shift / Math.max(weight, 1e-6)))),
      ),
    )
  // The exponent of the shift is halved: shifts run over many orders of magnitude.
  let low = -12
  let high = 12
  for (let round = 0; round < ROUNDS; round++) {
    const middle = (low + high) / 2
    if (sumOf(countsAt(10 ** middle)) > budget) low = middle
    else high = middle
  }
  return spendRest(meshes, countsAt(10 ** high), most, budget - sumOf(countsAt(10 ** high)))
}

/** Rounding leaves some triangles over: they go to what has the largest part of the budget and still wants more. */
function spendRest(
  meshes: readonly BudgetShare[],
  counts: readonly number[],
  most: readonly number[],
  rest: number,
): number[] {
  const shares = [...counts]
  let left = rest
  for (const index of [...shares.keys()].sort((a, b) => shares[b] - shares[a])) {
    const more = Math.min(most[index] - shares[index], Math.floor(left / meshes[index].instances))
    if (more <= 0) continue
    shares[index] += more
    left -= more * meshes[index].instances
  }
  return shares
}
