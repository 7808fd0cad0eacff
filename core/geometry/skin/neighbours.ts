/** Which places an edge joins. */
export interface Neighbours {
  /** First place in `group` and `share` of each group, and one past the last. */
  starts: Uint32Array
  group: Uint32Array
  /** How much a neighbour counts; all of a group make 1. */
  share: Float32Array
  length: Float32Array
  meanLength: number
}

/**
 * Which places an edge joins, and how much each counts; the edges of two triangles count twice.
 * @param groupOfCorner place of each corner
 * @param cornerOfGroup a corner of each place
 *
 * @example const neighbours = neighboursOf(positions, indices, groups.groupOfCorner, groups.cornerOfGroup)
 */
export function neighboursOf(
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
  const near = { starts, group, share, length, meanLength }
  mergeTwice(near)
  return near
}

/** An edge between two triangles comes twice: once with both its shares is enough. Shares of a place then make 1. */
function mergeTwice({ starts, group, share, length }: Neighbours): void {
  let end = 0
  for (let own = 0; own + 1 < starts.length; own++) {
    const [first, last] = [starts[own], starts[own + 1]]
    starts[own] = end
    let all = 0
    for (let at = first; at < last; at++) {
      all += share[at]
      let same = starts[own]
      while (same < end && group[same] !== group[at]) same++
      if (same < end) share[same] += share[at]
      else {
        group[end] = group[at]
        share[end] = share[at]
        length[end++] = length[at]
      }
    }
    for (let at = starts[own]; at < end; at++) share[at] /= all
  }
  starts[starts.length - 1] = end
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
  const ux = positions[from] - positions[at]
  const uy = positions[from + 1] - positions[at + 1]
  const uz = positions[from + 2] - positions[at + 2]
  const vx = positions[to] - positions[at]
  const vy = positions[to + 1] - positions[at + 1]
  const vz = positions[to + 2] - positions[at + 2]
  const area = Math.sqrt((uy * vz - uz * vy) ** 2 + (uz * vx - ux * vz) ** 2 + (ux * vy - uy * vx) ** 2)
  if (!(area > 0)) return LEAST_SHARE
  return Math.min(MOST_SHARE, Math.max(LEAST_SHARE, (ux * vx + uy * vy + uz * vz) / area))
}
