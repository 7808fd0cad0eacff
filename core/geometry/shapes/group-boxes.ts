import { uniteBounds, type Bounds } from '../../item/measure.ts'

/** Something with an extent; only boxes of one `body` may share a group. */
export interface Grouped {
  bounds: Bounds
  body: number
}

/** More than these are gathered by place before they are compared in pairs. */
const MOST_COMPARED = 300

/**
 * Groups boxes that lie together: the two whose common box holds the least that neither holds go together first
 * (agglomeration, after Ward, “Hierarchical grouping to optimize an objective function”, 1963, with volume as the
 * objective), until there are few enough; then those that fill their common box well anyway. Boxes of different bodies
 * stay apart, so there may be as many groups as bodies.
 * @param most groups that are wanted at most
 * @param filledShare how much of a common box its members have to fill, 0 to 1, to be joined although there are few
 * enough
 * @returns indices into `boxes`, a list a group, the largest group by volume first
 *
 * @example const [body, ...knobs] = groupBoxes(parts.map((part) => ({ bounds: partBounds(part), body: 0 })), 48, 0.9)
 */
export function groupBoxes(boxes: readonly Grouped[], most: number, filledShare: number): number[][] {
  const thickness = thinnest(boxes)
  let groups = boxes.map(({ bounds, body }, index): Group => ({
    bounds,
    body,
    filled: volumeOf(bounds, thickness),
    members: [index],
  }))
  if (groups.length > MOST_COMPARED) groups = byPlace(groups, MOST_COMPARED)
  joinDownTo(groups, most, thickness)
  joinFilled(groups, filledShare, thickness)
  return groups
    .sort((a, b) => volumeOf(b.bounds, thickness) - volumeOf(a.bounds, thickness) || a.members[0] - b.members[0])
    .map(({ members }) => members.sort((a, b) => a - b))
}

/** Joins the two that cost least until there are few enough; changes `groups`. */
function joinDownTo(groups: Group[], most: number, thickness: number): void {
  const near = groups.map((group) => nearest(group, groups, thickness))
  while (groups.length > most) {
    let [least, at] = [Infinity, -1]
    near.forEach(({ cost }, index) => {
      if (cost < least) [least, at] = [cost, index]
    })
    if (at < 0) return
    const [one, other] = [groups[at], near[at].group as Group]
    const joined = join(one, other)
    const gone = groups.indexOf(other)
    groups[at] = joined
    groups.splice(gone, 1)
    near.splice(gone, 1)
    groups.forEach((group, index) => {
      if (group === joined || near[index].group === one || near[index].group === other)
        near[index] = nearest(group, groups, thickness)
      else if (group.body === joined.body) {
        const cost = costOf(group, joined, thickness)
        if (cost < near[index].cost) near[index] = { cost, group: joined }
      }
    })
  }
}

/** Joins what fills its common box well, the best first; changes `groups`, of which there are few by now. */
function joinFilled(groups: Group[], filledShare: number, thickness: number): void {
  for (;;) {
    let best: { share: number; one: Group; other: Group } | null = null
    for (const [index, one] of groups.entries()) {
      for (const other of groups.slice(index + 1)) {
        if (one.body !== other.body) continue
        const share = (one.filled + other.filled) / volumeOf(uniteBounds(one.bounds, other.bounds), thickness)
        if (share >= (best?.share ?? filledShare)) best = { share, one, other }
      }
    }
    if (!best) return
    groups[groups.indexOf(best.one)] = join(best.one, best.other)
    groups.splice(groups.indexOf(best.other), 1)
  }
}

const join = (one: Group, other: Group): Group => ({
  bounds: uniteBounds(one.bounds, other.bounds),
  body: one.body,
  filled: one.filled + other.filled,
  members: [...one.members, ...other.members],
})

interface Group extends Grouped {
  /** What the boxes of its members hold together, overlaps counted twice. */
  filled: number
  members: number[]
}

/** Flat things count as this share of the longest side thick, so that what they cover counts too. */
const THICKNESS_SHARE = 1 / 200

const thinnest = (boxes: readonly Grouped[]): number =>
  boxes.reduce((most, { bounds }) => Math.max(most, ...bounds.max.map((high, axis) => high - bounds.min[axis])), 0) *
  THICKNESS_SHARE

const volumeOf = ({ min, max }: Bounds, thickness: number): number =>
  [0, 1, 2].reduce((product, axis) => product * Math.max(thickness, max[axis] - min[axis]), 1)

/** What the common box holds that neither of the two does; negative where they overlap. */
const costOf = (a: Group, b: Group, thickness: number): number =>
  volumeOf(uniteBounds(a.bounds, b.bounds), thickness) - volumeOf(a.bounds, thickness) - volumeOf(b.bounds, thickness)

function nearest(group: Group, groups: readonly Group[], thickness: number): { cost: number; group: Group | null } {
  let found: { cost: number; group: Group | null } = { cost: Infinity, group: null }
  for (const other of groups) {
    if (other === group || other.body !== group.body) continue
    const cost = costOf(group, other, thickness)
    if (cost < found.cost) found = { cost, group: other }
  }
  return found
}

/** Halves what lies apart along the longest way, a body at a time, until there are about so many groups. */
function byPlace(groups: readonly Group[], about: number): Group[] {
  const bodies = new Map<number, Group[]>()
  for (const group of groups) bodies.set(group.body, [...(bodies.get(group.body) ?? []), group])
  const cells = [...bodies.values()]
  for (;;) {
    const largest = cells.reduce((best, cell, index) => (cell.length > cells[best].length ? index : best), 0)
    if (cells[largest].length < 2 || cells.length >= Math.max(about, bodies.size)) break
    const cell = cells[largest]
    const around = cell.map(({ bounds }) => bounds).reduce(uniteBounds)
    const sides = [0, 1, 2].map((axis) => around.max[axis] - around.min[axis])
    const axis = sides.indexOf(Math.max(...sides))
    const middle = ({ bounds }: Group): number => bounds.min[axis] + bounds.max[axis]
    cell.sort((a, b) => middle(a) - middle(b) || a.members[0] - b.members[0])
    cells.splice(largest, 1, cell.slice(0, cell.length / 2), cell.slice(cell.length / 2))
  }
  return cells.map((cell) => ({
    bounds: cell.map(({ bounds }) => bounds).reduce(uniteBounds),
    body: cell[0].body,
    filled: cell.reduce((sum, { filled }) => sum + filled, 0),
    members: cell.flatMap(({ members }) => members),
  }))
}
