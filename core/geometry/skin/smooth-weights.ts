import { groupPositions } from '../mesh/position-groups.ts'
import { neighboursOf, type Neighbours } from './neighbours.ts'
import {
  copyRow,
  copyTable,
  emptyTable,
  sameRow,
  SLOTS,
  WeightGatherer,
  weightOfBone,
  type WeightTable,
} from './weight-table.ts'

/** In steps in which a place goes wholly to the mean of its neighbours. */
const SHORTEST_TIME = 0.5
const LONGEST_TIME = 10_000

/** How far weights are spread, and how much of it is taken. */
export interface Smoothing {
  /** How far a border between two bones is spread to each side, along the surface, in the unit of the positions. */
  reach: number
  /** 0 leaves all as it is, 1 spreads it whole. */
  amount: number
}

/**
 * Spreads weights along the surface, as heat spreads: for so long that a hard border reaches the reach to each side.
 * Corners in one place, as at a seam, stay alike; what lies further off than the reach is left as it is.
 * @param positions 3 floats a corner
 * @param indices 3 corners a triangle
 * @returns a new table whose rows sum to 1
 *
 * @example const soft = smoothWeights(positions, indices, table, { reach: 0.2, amount: 1 })
 */
export function smoothWeights(
  positions: Float32Array,
  indices: Uint32Array,
  table: WeightTable,
  { reach, amount }: Smoothing,
): WeightTable {
  const { groupOfCorner, cornerOfGroup } = groupPositions(positions)
  const near = neighboursOf(positions, indices, groupOfCorner, cornerOfGroup)
  if (!(near.meanLength > 0) || amount <= 0) return copyTable(table)
  // A walk of n even steps comes √n steps far.
  const time = Math.min(LONGEST_TIME, Math.max(SHORTEST_TIME, (reach / near.meanLength) ** 2))
  const before = emptyTable(cornerOfGroup.length, table.bones)
  cornerOfGroup.forEach((corner, group) => copyRow(table, corner, before, group))
  const spread = spreadOver(before, near, time, reach)
  const gather = new WeightGatherer(table.bones)
  const made = copyTable(table)
  for (let corner = 0; corner < table.corners; corner++) {
    const group = groupOfCorner[corner]
    if (sameRow(before, group, spread, group)) continue
    gather.addRow(before, group, 1 - amount)
    gather.addRow(spread, group, amount)
    gather.store(made, corner)
  }
  return made
}

/** Each bone's weights by themselves, where they can reach; then all of a place made to sum to 1. */
function spreadOver(table: WeightTable, near: Neighbours, time: number, reach: number): WeightTable {
  const open = withinReach(table, near, reach)
  const made = copyTable(table)
  const rows: [number, number][][] = []
  const distance = new Float64Array(table.corners).fill(Infinity)
  const local = new Int32Array(table.corners).fill(-1)
  for (const [bone, holders] of holdersOf(table).entries()) {
    const places = reachedBy(holders, open, near, reach, distance)
    if (places.length === 0) continue
    const spread = spreadOne(table, bone, places, near, time, local)
    places.forEach((place, at) => {
      if (spread[at] > LEAST_WEIGHT) (rows[place] ??= []).push([bone, spread[at]])
    })
  }
  const gather = new WeightGatherer(table.bones)
  rows.forEach((row, place) => {
    for (const [bone, weight] of row) gather.add(bone, weight)
    gather.store(made, place)
  })
  return made
}

/** Less than this of a place is not worth a bone. */
const LEAST_WEIGHT = 1e-4

/** Which places each bone holds. */
function holdersOf({ bones, boneOf, weightOf }: WeightTable): number[][] {
  const holders: number[][] = Array.from({ length: bones }, () => [])
  for (let at = 0; at < weightOf.length; at++) if (weightOf[at] > 0) holders[boneOf[at]].push(Math.floor(at / SLOTS))
  return holders
}

/**
 * Open places to which what a bone holds can spread.
 * @param distance Infinity everywhere, and again when it is done
 */
function reachedBy(
  holders: readonly number[],
  open: Uint8Array,
  near: Neighbours,
  reach: number,
  distance: Float64Array,
): number[] {
  for (const holder of holders) distance[holder] = 0
  const reached = [...holders]
  let front: number[] = reached.slice()
  while (front.length > 0) {
    const next: number[] = []
    for (const own of front) {
      // One edge further than the reach, so that a border between two places is always crossed.
      if (distance[own] > reach) continue
      for (let at = near.starts[own]; at < near.starts[own + 1]; at++) {
        const other = near.group[at]
        const far = distance[own] + near.length[at]
        if (open[other] === 0 || !(far < distance[other])) continue
        if (distance[other] === Infinity) reached.push(other)
        distance[other] = far
        next.push(other)
      }
    }
    front = next
  }
  for (const place of reached) distance[place] = Infinity
  return reached.filter((place) => open[place] === 1)
}

/**
 * One bone's weights after a time of spreading, in a few steps of unlike length (fast explicit diffusion: Grewenig,
 * Weickert and Bruhn 2010, “From box filtering to fast explicit diffusion”), so that the work grows with the reach and
 * not with its square. Elsewhere its weights stay as they are.
 * @param local −1 everywhere, and again when it is done
 */
function spreadOne(
  table: WeightTable,
  bone: number,
  places: readonly number[],
  { starts, group, share }: Neighbours,
  time: number,
  local: Int32Array,
): Float64Array {
  places.forEach((place, at) => (local[place] = at))
  const first = new Uint32Array(places.length + 1)
  places.forEach((place, at) => (first[at + 1] = first[at] + starts[place + 1] - starts[place]))
  const inside = new Uint32Array(first[places.length])
  const counts = new Float64Array(first[places.length])
  // What lies outside comes in as one fixed number for each place.
  const outside = new Float64Array(places.length)
  places.forEach((place, at) => {
    for (let edge = starts[place]; edge < starts[place + 1]; edge++) {
      const other = local[group[edge]]
      if (other < 0) outside[at] += share[edge] * weightOfBone(table, group[edge], bone)
      else {
        inside[first[at] + edge - starts[place]] = other
        counts[first[at] + edge - starts[place]] = share[edge]
      }
    }
  })
  for (const place of places) local[place] = -1
  let from = Float64Array.from(places, (place) => weightOfBone(table, place, bone))
  let to = new Float64Array(places.length)
  for (const step of stepsFor(time)) {
    for (let at = 0; at < places.length; at++) {
      let mean = outside[at]
      for (let edge = first[at]; edge < first[at + 1]; edge++) mean += counts[edge] * from[inside[edge]]
      to[at] = from[at] + step * (mean - from[at])
    }
    ;[from, to] = [to, from]
  }
  return from
}

/** Steps of one cycle; more of them let rounding grow. */
const MOST_STEPS = 24

/** Lengths of steps that make a time together; a plain step would have to stay under 1. */
function stepsFor(time: number): number[] {
  // A cycle of n steps is as long as (n² + n) / 3 plain ones.
  const cycles = Math.ceil(time / ((MOST_STEPS * MOST_STEPS + MOST_STEPS) / 3))
  const count = Math.max(1, Math.ceil(Math.sqrt((3 * time) / cycles + 0.25) - 0.5))
  const cycle = Array.from(
    { length: count },
    (_, at) => 1 / (2 * Math.cos((Math.PI * (2 * at + 1)) / (4 * count + 2)) ** 2),
  )
  const scale = time / cycles / cycle.reduce((sum, step) => sum + step, 0)
  return Array.from({ length: cycles }, () => cycle.map((step) => step * scale)).flat()
}

/** 1 for each place from which a border between unlike rows is no further than the reach along the edges. */
function withinReach(table: WeightTable, { starts, group, length }: Neighbours, reach: number): Uint8Array {
  const distance = new Float32Array(table.corners).fill(Infinity)
  let front: number[] = []
  for (let own = 0; own < table.corners; own++)
    for (let at = starts[own]; at < starts[own + 1]; at++)
      if (!sameRow(table, own, table, group[at])) {
        distance[own] = 0
        front.push(own)
        break
      }
  // Rounds of ever longer ways: each place is looked at again only where a shorter way to it was found.
  while (front.length > 0) {
    const next: number[] = []
    for (const own of front)
      for (let at = starts[own]; at < starts[own + 1]; at++) {
        const far = distance[own] + length[at]
        if (far > reach || !(far < distance[group[at]])) continue
        distance[group[at]] = far
        next.push(group[at])
      }
    front = next
  }
  return Uint8Array.from(distance, (far) => (far <= reach ? 1 : 0))
}
