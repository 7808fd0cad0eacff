import { groupPositions } from '../mesh/position-groups.ts'
import { copyRow, copyTable, emptyTable, sameRow, SLOTS, WeightGatherer, type WeightTable } from './weight-table.ts'

const MOST_ROUNDS = 200

/** How far weights are spread, and how much of it is taken. */
export interface Smoothing {
  /** How far a border between two bones is spread to each side, along the surface, in the unit of the positions. */
  reach: number
  /** 0 leaves all as it is, 1 spreads it whole. */
  amount: number
  /** 1 for each corner that may change; all where it is left out. */
  only?: Uint8Array
}

/**
 * Spreads weights along the surface: in each round a place goes halfway to the mean of those that an edge joins it to.
 * So many rounds that a hard border is spread over the reach (a walk of n even steps
 * comes √n steps far). Corners in one place, as at a seam, stay alike; what lies further off than the reach is left as
 * it is.
 * @param positions 3 floats a corner
 * @param indices 3 corners a triangle
 * @returns a new table whose rows sum to 1
 */
export function smoothWeights(
  positions: Float32Array,
  indices: Uint32Array,
  table: WeightTable,
  { reach, amount, only }: Smoothing,
): WeightTable {
  const { groupOfCorner, cornerOfGroup } = groupPositions(positions)
  const near = neighboursOf(positions, indices, groupOfCorner, cornerOfGroup)
  const rounds = near.meanLength > 0 ? Math.min(MOST_ROUNDS, Math.ceil((reach / near.meanLength) ** 2 * 2)) : 0
  if (rounds === 0 || amount <= 0) return copyTable(table)
  const before = emptyTable(cornerOfGroup.length, table.bones)
  cornerOfGroup.forEach((corner, group) => copyRow(table, corner, before, group))
  const mayChange = only ? groupsWith(only, groupOfCorner, cornerOfGroup.length) : null
  const spread = spreadOver(before, near, rounds, reach, mayChange)
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

interface Neighbours {
  /** First place in `group` and `share` of each group, and one past the last. */
  starts: Uint32Array
  group: Uint32Array
  /** How much a neighbour counts; all of a group make 1. */
  share: Float32Array
  length: Float32Array
  meanLength: number
}

/** Which places an edge joins; the edges of two triangles count twice. */
function neighboursOf(
  positions: Float32Array,
  indices: Uint32Array,
  groupOfCorner: Uint32Array,
  cornerOfGroup: Uint32Array,
): Neighbours {
  const starts = new Uint32Array(cornerOfGroup.length + 1)
  const eachEdge = (visit: (a: number, b: number, opposite: number) => void): void => {
    for (let at = 0; at + 2 < indices.length; at += 3)
      for (let corner = 0; corner < 3; corner++) {
        const a = groupOfCorner[indices[at + corner]]
        const b = groupOfCorner[indices[at + ((corner + 1) % 3)]]
        if (a !== b) visit(a, b, indices[at + ((corner + 2) % 3)])
      }
  }
  eachEdge((a, b) => {
    starts[a + 1]++
    starts[b + 1]++
  })
  for (let group = 0; group < cornerOfGroup.length; group++) starts[group + 1] += starts[group]
  const total = starts[cornerOfGroup.length]
  const [group, share, length] = [new Uint32Array(total), new Float32Array(total), new Float32Array(total)]
  const next = starts.slice()
  let sum = 0
  eachEdge((a, b, opposite) => {
    const [from, to] = [cornerOfGroup[a] * 3, cornerOfGroup[b] * 3]
    const long = Math.hypot(
      positions[from] - positions[to],
      positions[from + 1] - positions[to + 1],
      positions[from + 2] - positions[to + 2],
    )
    sum += long
    const counts = cotangentAt(positions, opposite * 3, from, to)
    for (const [own, other] of [
      [a, b],
      [b, a],
    ]) {
      group[next[own]] = other
      length[next[own]] = long
      share[next[own]++] = counts
    }
  })
  const meanLength = total > 0 ? sum / (total / 2) : 0
  for (let own = 0; own < cornerOfGroup.length; own++) {
    let all = 0
    for (let at = starts[own]; at < starts[own + 1]; at++) all += share[at]
    for (let at = starts[own]; at < starts[own + 1]; at++) share[at] /= all
  }
  return { starts, group, share, length, meanLength }
}

/** Of edges that lie opposite a right angle or a wider one; a little, so that nothing is cut off. */
const LEAST_SHARE = 1e-3
/** Opposite a needle’s point: no edge counts more. */
const MOST_SHARE = 1e3

/**
 * How much an edge counts: the cotangent of the angle opposite (Pinkall and Polthier 1993), so that weights which rise
 * evenly over a flat piece stay as they are, however it is cut into triangles.
 */
function cotangentAt(positions: Float32Array, at: number, from: number, to: number): number {
  const [ux, uy, uz] = [0, 1, 2].map((axis) => positions[from + axis] - positions[at + axis])
  const [vx, vy, vz] = [0, 1, 2].map((axis) => positions[to + axis] - positions[at + axis])
  const area = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx)
  if (!(area > 0)) return LEAST_SHARE
  return Math.min(MOST_SHARE, Math.max(LEAST_SHARE, (ux * vx + uy * vy + uz * vz) / area))
}

function groupsWith(only: Uint8Array, groupOfCorner: Uint32Array, groups: number): Uint8Array {
  const marks = new Uint8Array(groups)
  groupOfCorner.forEach((group, corner) => (marks[group] |= only[corner]))
  return marks
}

/** Half of a place's weights stay, half come from its neighbours. */
function spreadOver(
  table: WeightTable,
  near: Neighbours,
  rounds: number,
  reach: number,
  mayChange: Uint8Array | null,
): WeightTable {
  const { starts, group, share } = near
  const open = withinReach(table, near, reach)
  const gather = new WeightGatherer(table.bones)
  let [from, to] = [copyTable(table), copyTable(table)]
  for (let round = 0; round < rounds; round++) {
    let changed = false
    for (let own = 0; own < table.corners; own++) {
      if (open[own] === 0 || mayChange?.[own] === 0) continue
      let differs = false
      for (let at = starts[own]; at < starts[own + 1] && !differs; at++) differs = !sameRow(from, own, from, group[at])
      if (!differs) {
        copyRow(from, own, to, own)
        continue
      }
      changed = true
      gather.addRow(from, own, 0.5)
      for (let at = starts[own]; at < starts[own + 1]; at++) gather.addRow(from, group[at], 0.5 * share[at])
      gather.store(to, own, SLOTS, 1e-4)
    }
    ;[from, to] = [to, from]
    if (!changed) break
  }
  return from
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
