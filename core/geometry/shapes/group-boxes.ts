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
 * objective), until there are few enough and no two can be joined at next to no cost. Boxes of different bodies stay
 * apart, so there may be as many groups as bodies.
 * @param most groups that are wanted at most
 * @param freeShare of the volume of everything: what a joining may add although there are few enough already
 * @returns indices into `boxes`, a list a group, the largest group by volume first
 *
 * @example const [body, ...knobs] = groupBoxes(parts.map((part) => ({ bounds: partBounds(part), body: 0 })), 48, 0.01)
 */
export function groupBoxes(boxes: readonly Grouped[], most: number, freeShare: number): number[][] {
  const thickness = thinnest(boxes)
  let groups = boxes.map(({ bounds, body }, index): Group => ({ bounds, body, members: [index] }))
  if (groups.length > MOST_COMPARED) groups = byPlace(groups, MOST_COMPARED)
  const free = volumeOf(groups.map(({ bounds }) => bounds).reduce(uniteBounds), thickness) * freeShare
  const near = groups.map((group) => nearest(group, groups, thickness))
  while (groups.length > 1) {
    let [least, at] = [Infinity, -1]
    near.forEach(({ cost }, index) => {
      if (cost < least) [least, at] = [cost, index]
    })
    if (at < 0 || (groups.length <= most && least > free)) break
    const [one, other] = [groups[at], near[at].group as Group]
    const joined = {
      bounds: uniteBounds(one.bounds, other.bounds),
      body: one.body,
      members: [...one.members, ...other.members],
    }
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
  return groups
    .sort((a, b) => volumeOf(b.bounds, thickness) - volumeOf(a.bounds, thickness) || a.members[0] - b.members[0])
    .map(({ members }) => members.sort((a, b) => a - b))
}

interface Group extends Grouped {
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
    members: cell.flatMap(({ members }) => members),
  }))
}
