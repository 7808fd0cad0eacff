import { MeshoptSimplifier, type SimplifierFlags } from 'meshoptimizer/simplifier'
import { joinAttributes, type CornerAttributes } from './corner-attributes.ts'
import { haveEqualValues } from '../../support/equal-values.ts'
import { settleCorners } from './settle-corners.ts'
import { triangleAreas } from '../surface/sample-surface.ts'
import { sampledSurface, staysWithin, worstShiftBetween } from '../surface/surface-distance.ts'

/** What a reduction may let go of when the count cannot be reached otherwise, in that order. */
export type Hold = 'borders' | 'seams' | 'pieces'

export interface ReduceRequest {
  /** 3 floats a corner; corners must be welded. */
  positions: Float32Array
  /** 3 a triangle. */
  indices: Uint32Array
  /** What else a corner carries; it counts in the error and follows where a corner is moved. */
  attributes: CornerAttributes
  /** 1 for corners whose seam is kept whatever is let go, such as those where two materials meet. */
  protectedCorners?: Uint8Array
  /** At most so many triangles; at least one is left. */
  targetTriangles: number
  /** Stop before the surface moves further than this, in the units of `positions`; no limit when absent. */
  largestShift?: number
  /** Keep the corners along texture, normal and material seams together. */
  holdSeams: boolean
  /** Keep open borders where they are. */
  holdBorders: boolean
}

export interface Reduction {
  /** New places of the old corners; only those that `indices` uses mean anything. */
  positions: Float32Array
  attributes: CornerAttributes
  indices: Uint32Array
  /** Furthest shift of the surface as the library estimates it, in the units of `positions`. */
  worstShift: number
  /** What had to be let go to reach the count. */
  letGo: Hold[]
}

interface State {
  positions: Float32Array
  packed: Float32Array
  indices: Uint32Array
  /** Relative to the size of the mesh that was given. */
  error: number
}

/** A result this far under the target is tried again: the topology may allow more. */
const CLOSE_ENOUGH = 0.99
/** Where a second approach begins: a little above the target, so that the last collapses can be counted out. */
const APPROACH = 1.12
const APPROACH_TRIES = 5
/** The library's mark for a corner whose seam is kept even where seams may be crossed. */
const PROTECT = 2
/** Tried in turn, since with a wide limit the library can take away everything. */
const ERROR_LIMITS = [1, 0.3, 0.05]

/**
 * Fewer triangles by edge collapse with quadrics (Garland and Heckbert 1997, with attributes 1998), by meshoptimizer,
 * which also moves the corners that stay to where the error is least. Never more than asked, never none, and
 * within one per cent below the target where the topology allows.
 *
 * @example const fewer = await reduceTriangles({ ...mesh, targetTriangles: 900, holdSeams: true, holdBorders: true })
 */
export async function reduceTriangles(request: ReduceRequest): Promise<Reduction> {
  await MeshoptSimplifier.ready
  const { indices, positions, attributes } = request
  const target = Math.max(1, Math.floor(request.targetTriangles))
  if (indices.length / 3 <= target && request.largestShift === undefined)
    return { positions, attributes, indices, worstShift: 0, letGo: [] }
  const used = compactCorners(indices, positions.length / 3)
  // Corners that no triangle uses would be taken for the other side of a seam.
  if (used.oldCorner.length < positions.length / 3)
    return spread(request, used.oldCorner, await reduceTriangles(withoutUnused(request, used)))
  const joined = joinAttributes(attributes, positions.length / 3)
  const scale = MeshoptSimplifier.getScale(positions, 3) || 1
  const reach = request.largestShift === undefined ? ERROR_LIMITS : [Math.min(1, request.largestShift / scale)]
  const locks = request.protectedCorners?.map((each) => (each ? PROTECT : 0)) ?? null
  const start: State = { positions, packed: joined.array, indices, error: 0 }
  const run = (from: State, triangles: number, flags: SimplifierFlags[]): State =>
    collapse(from, triangles, { flags, limits: reach, stride: joined.stride, weights: joined.weights, locks })
  const held: SimplifierFlags[] = [
    ...(request.holdBorders ? (['LockBorder'] as const) : []),
    ...(request.holdSeams ? [] : (['Permissive'] as const)),
  ]
  const settled = (state: State): State => {
    if (state !== start) settleCorners(start, state, state.error * scale, joined.stride)
    return state
  }
  const letGo: Hold[] = []
  let best = run(start, target, held)
  if (best.indices.length / 3 < target * CLOSE_ENOUGH && request.largestShift === undefined)
    best = approach(start, best, target, (from, triangles) => run(from, triangles, held))
  best = settled(best)
  if (request.largestShift === undefined) {
    if (request.holdSeams)
      best = freedFromSeams(
        start,
        best,
        (from) => settled(run(from, target, ['Permissive'])),
        () => letGo.push('seams'),
      )
    for (const { hold, flags } of releases(request)) {
      if (best.indices.length / 3 <= target) break
      if (!letGo.includes(hold)) letGo.push(hold)
      best = settled(run(best, target, flags))
    }
    if (best.indices.length / 3 > target) best = keepLargest(best, target)
  }
  return {
    positions: best.positions,
    attributes: joined.split(best.packed),
    indices: best.indices,
    worstShift: best.error * scale,
    letGo,
  }
}

/** Shifts above this share of the size are looked at: what seams hold in one place may have been taken from another. */
const LOOKED_AT = 0.005
/** How many times further a mesh with held seams may lie away than one without. */
const WORTH_OF_SEAMS = 1.5
const MOST_SAMPLES = 300
const LEAST_SAMPLES = 24

/** A reduction that held its seams, or one that did not where holding them tears the mesh down elsewhere. */
function freedFromSeams(start: State, held: State, free: (from: State) => State, onFreed: () => void): State {
  if (held.error < LOOKED_AT) return held
  const freed = free(start)
  if (freed.indices.length === 0 || isSame(freed, held)) return held
  const samples = Math.min(MOST_SAMPLES, Math.max(LEAST_SAMPLES, start.indices.length / 6))
  const source = sampledSurface(start, samples)
  const worth = worstShiftBetween(source, sampledSurface(freed, samples)) * WORTH_OF_SEAMS
  if (staysWithin(source, sampledSurface(held, samples), worth)) return held
  onFreed()
  return freed
}

/** Whether there was nothing to let go of. */
const isSame = (one: State, other: State): boolean =>
  haveEqualValues(one.indices, other.indices) && haveEqualValues(one.positions, other.positions)

function gather(array: Float32Array, size: number, corners: Uint32Array): Float32Array {
  const out = new Float32Array(corners.length * size)
  corners.forEach((corner, at) => out.set(array.subarray(corner * size, (corner + 1) * size), at * size))
  return out
}

function withoutUnused(
  request: ReduceRequest,
  { oldCorner, indices }: { oldCorner: Uint32Array; indices: Uint32Array },
): ReduceRequest {
  const { protectedCorners: marks } = request
  return {
    ...request,
    indices,
    positions: gather(request.positions, 3, oldCorner),
    attributes: new Map(
      [...request.attributes].map(([name, attribute]) => [
        name,
        { ...attribute, array: gather(attribute.array, attribute.size, oldCorner) },
      ]),
    ),
    ...(marks ? { protectedCorners: Uint8Array.from(oldCorner, (corner) => marks[corner]) } : {}),
  }
}

/** Puts a reduction of the used corners back among all corners. */
function spread(request: ReduceRequest, oldCorner: Uint32Array, reduction: Reduction): Reduction {
  const scatter = (from: Float32Array, into: Float32Array, size: number): Float32Array => {
    const out = into.slice()
    oldCorner.forEach((corner, at) => out.set(from.subarray(at * size, (at + 1) * size), corner * size))
    return out
  }
  return {
    ...reduction,
    indices: reduction.indices.map((corner) => oldCorner[corner]),
    positions: scatter(reduction.positions, request.positions, 3),
    attributes: new Map(
      [...request.attributes].map(([name, attribute]) => [
        name,
        {
          ...attribute,
          array: scatter(reduction.attributes.get(name)?.array ?? attribute.array, attribute.array, attribute.size),
        },
      ]),
    ),
  }
}

/** Each further hold that is let go, with what is still held. */
function releases(request: ReduceRequest): { hold: Hold; flags: SimplifierFlags[] }[] {
  return [
    ...(request.holdBorders
      ? [{ hold: 'borders' as const, flags: (request.holdSeams ? [] : ['Permissive']) as SimplifierFlags[] }]
      : []),
    ...(request.holdSeams ? [{ hold: 'seams' as const, flags: ['Permissive'] as SimplifierFlags[] }] : []),
    { hold: 'pieces', flags: ['Permissive', 'Prune'] },
  ]
}

/**
 * Comes down to a little above the target first, then tries targets next to each other and takes the best that fits.
 */
function approach(start: State, first: State, target: number, run: (from: State, triangles: number) => State): State {
  const above = run(start, Math.min(start.indices.length / 3 - 1, Math.ceil(target * APPROACH)))
  let best = first
  let wanted = target
  for (let attempt = 0; attempt < APPROACH_TRIES; attempt++) {
    const next = run(above, wanted)
    const count = next.indices.length / 3
    if (count <= target && count > best.indices.length / 3) best = next
    if (best.indices.length / 3 >= target * CLOSE_ENOUGH || count > target) break
    wanted += Math.max(1, target - count)
  }
  return best
}

interface Settings {
  flags: SimplifierFlags[]
  limits: readonly number[]
  stride: number
  weights: number[]
  locks: Uint8Array | null
}

function collapse(from: State, triangles: number, { flags, limits, stride, weights, locks }: Settings): State {
  // The library takes no target above what is there.
  const wanted = Math.min(triangles * 3, from.indices.length)
  for (const limit of limits) {
    const indices = from.indices.slice()
    const positions = from.positions.slice()
    const packed = from.packed.slice()
    const [count, error] = MeshoptSimplifier.simplifyWithUpdate(
      indices,
      positions,
      3,
      packed,
      stride,
      weights,
      locks,
      wanted,
      limit,
      flags,
    )
    if (count > 0) return { indices: indices.slice(0, count), positions, packed, error: Math.max(from.error, error) }
  }
  return from
}

/** The last resort, for soups of single triangles: the largest ones stay. */
function keepLargest(state: State, target: number): State {
  const { positions, indices } = state
  const areas = triangleAreas(positions, indices)
  const kept = [...areas.keys()]
    .sort((a, b) => areas[b] - areas[a] || a - b)
    .slice(0, target)
    .sort((a, b) => a - b)
  return {
    ...state,
    indices: Uint32Array.from(kept.flatMap((triangle) => [...indices.subarray(triangle * 3, triangle * 3 + 3)])),
  }
}

/**
 * Corners that triangles use, in order of first use, and the index into them.
 *
 * @example const { indices, oldCorner } = compactCorners(reduced, positions.length / 3)
 */
export function compactCorners(
  indices: Uint32Array,
  cornerCount: number,
): { oldCorner: Uint32Array; indices: Uint32Array } {
  const newCorner = new Uint32Array(cornerCount).fill(0xffffffff)
  const oldCorner = new Uint32Array(cornerCount)
  let count = 0
  const compact = indices.map((corner) => {
    if (newCorner[corner] === 0xffffffff) {
      newCorner[corner] = count
      oldCorner[count++] = corner
    }
    return newCorner[corner]
  })
  return { oldCorner: oldCorner.slice(0, count), indices: compact }
}
