import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { cellFor, fillColumns, toPlan, type Columns, type PlanBox } from './columns.ts'
import { findStanding, neighbours, type StandingMap, type Walker } from './standing.ts'

/** A way through what is seen, from one side of it to another. */
export interface Opening {
  /** Its narrowest place, in scene space. */
  middle: [number, number, number]
  /** How wide a body may be that still gets through. */
  width: number
  /** Free height over its floor there; null under the open sky. */
  height: number | null
  /** Whether the solids let the walker through as well. */
  passes: boolean
}

/** Columns across the walker's width: finer finds narrower ways and takes longer. */
const COLUMNS_A_WIDTH = 6
const FEWEST_COLUMNS_A_WIDTH = 2.5
/** Ways that are wider than this many walkers are told as that wide. */
const WIDEST_WALKERS = 6
/** A mouth of fewer columns than this is a corner that was cut, not a way. */
const SMALLEST_MOUTH = 2

/**
 * Ways through a view mesh, and whether its solids leave them open. In plan, the mesh's own outline at walking height
 * is taken; the free places inside it fall apart into pieces, and a piece that comes to the outline at two separate
 * stretches is a way through. The same places are then asked of the solids. Floors follow what is stood on, a step
 * apart at most. Over a very wide area, where columns would be too wide to tell, none are looked for.
 *
 * @example const blocked = findOpenings(view, solids, walker).filter(({ passes }) => !passes)
 */
export function findOpenings(view: TriangleSoup, solids: readonly TriangleSoup[], walker: Walker): Opening[] {
  const plan = { positions: toPlan(view.positions), indices: view.indices }
  const box = planBox(plan.positions, walker.width)
  if (!box) return []
  const cell = cellFor(box, walker.width / COLUMNS_A_WIDTH)
  // In columns as wide as this a doorway and a wall look alike.
  if (cell > walker.width / FEWEST_COLUMNS_A_WIDTH) return []
  const seen = fillColumns([plan], box, cell)
  const inside = outlineOf(seen, box.ground, walker)
  if (!inside) return []
  const standing = findStanding(seen, box.ground, walker)
  const pieces = piecesOf(seen, standing, inside, walker)
  const reached = reachedFromOutside(seen, standing, inside, box.ground, walker)
  const ways = pieces
    .filter(([first]) => reached[first])
    .map((places) => ({ places, mouths: mouthsOf(places, standing, inside, seen) }))
    .filter(({ mouths }) => mouths.length > 1)
  if (ways.length === 0) return []
  const bumped = fillColumns(
    solids.map((solid) => ({ positions: toPlan(solid.positions), indices: solid.indices })),
    box,
    cell,
  )
  const free = findStanding(bumped, box.ground, walker)
  const groupOf = new Map(
    piecesOf(bumped, free, inside, walker).flatMap((places, group) => places.map((place) => [place, group] as const)),
  )
  return ways.map(({ places, mouths }) => {
    const narrow = narrowest(places, mouths, seen, standing, walker)
    const { column, floor } = standing.places[narrow.place]
    const across = seen.origin[0] + ((column % seen.across) + 0.5) * cell
    const along = seen.origin[1] + (Math.floor(column / seen.across) + 0.5) * cell
    return {
      middle: [across, floor + walker.height / 2, along],
      width: narrow.width,
      height: coveredHeight(places, seen, standing, walker),
      passes: areJoined(mouths.map((mouth) => groupsAt(mouth, standing, free, groupOf, walker))),
    }
  })
}

function planBox(positions: Float32Array, margin: number): (PlanBox & { ground: number }) | null {
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  for (let at = 0; at < positions.length; at++) {
    const axis = at % 3
    if (!Number.isFinite(positions[at])) return null
    if (positions[at] < low[axis]) low[axis] = positions[at]
    if (positions[at] > high[axis]) high[axis] = positions[at]
  }
  if (low[0] > high[0]) return null
  return { low: [low[0] - margin, low[1] - margin], high: [high[0] + margin, high[1] + margin], ground: low[2] }
}

/** The columns within the convex outline of what stands at walking height, and those on its edge in order round it. */
interface Outline {
  within: Uint8Array
  /** Place of each column round the edge; −1 inside and outside. */
  edge: Int32Array
  edgeLength: number
}

function outlineOf({ across, along, filled }: Columns, ground: number, { step, height }: Walker): Outline | null {
  const upright: [number, number][] = []
  for (let column = 0; column < filled.length; column++) {
    const spans = filled[column]
    for (let pair = 0; pair < spans.length; pair += 2) {
      if (spans[pair + 1] > ground + step && spans[pair] < ground + height) {
        upright.push([column % across, Math.floor(column / across)])
        break
      }
    }
  }
  if (upright.length < 3) return null
  const hull = convexOutline(upright)
  if (hull.length < 3) return null
  const within = new Uint8Array(across * along)
  for (let y = 0; y < along; y++) for (let x = 0; x < across; x++) if (isWithin(hull, x, y)) within[y * across + x] = 1
  const middle = [
    hull.reduce((sum, [x]) => sum + x, 0) / hull.length,
    hull.reduce((sum, [, y]) => sum + y, 0) / hull.length,
  ]
  const onEdge: { column: number; angle: number }[] = []
  for (let column = 0; column < within.length; column++) {
    if (!within[column]) continue
    const [x, y] = [column % across, Math.floor(column / across)]
    const open = [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ].some(([a, b]) => x + a < 0 || y + b < 0 || x + a >= across || y + b >= along || !within[(y + b) * across + x + a])
    if (open) onEdge.push({ column, angle: Math.atan2(y - middle[1], x - middle[0]) })
  }
  onEdge.sort((a, b) => a.angle - b.angle)
  const edge = new Int32Array(within.length).fill(-1)
  onEdge.forEach(({ column }, place) => {
    edge[column] = place
  })
  return { within, edge, edgeLength: onEdge.length }
}

/** Andrew's monotone chain. */
function convexOutline(points: [number, number][]): [number, number][] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1])
  const chain = (list: [number, number][]): [number, number][] => {
    const kept: [number, number][] = []
    for (const point of list) {
      while (kept.length > 1 && turnOf(kept[kept.length - 2], kept[kept.length - 1], point) <= 0) kept.pop()
      kept.push(point)
    }
    return kept.slice(0, -1)
  }
  return [...chain(sorted), ...chain([...sorted].reverse())]
}

const turnOf = (a: readonly number[], b: readonly number[], c: readonly number[]): number =>
  (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])

function isWithin(hull: readonly [number, number][], x: number, y: number): boolean {
  return hull.every((corner, index) => turnOf(corner, hull[(index + 1) % hull.length], [x, y]) >= -1e-9)
}

/** Free places inside the outline that hang together. */
function piecesOf(columns: Columns, map: StandingMap, { within }: Outline, walker: Walker): number[][] {
  const seen = new Uint8Array(map.places.length)
  const pieces: number[][] = []
  for (let start = 0; start < seen.length; start++) {
    if (seen[start] || !map.fits[start] || !within[map.places[start].column]) continue
    const piece = [start]
    seen[start] = 1
    for (let at = 0; at < piece.length; at++) {
      for (const next of neighbours(columns, map, piece[at], walker)) {
        if (seen[next] || !within[map.places[next].column]) continue
        seen[next] = 1
        piece.push(next)
      }
    }
    pieces.push(piece)
  }
  return pieces
}

/** What one gets to from the ground outside, step by step: the top of an arch is no way through it. */
function reachedFromOutside(
  columns: Columns,
  map: StandingMap,
  { within }: Outline,
  ground: number,
  walker: Walker,
): Uint8Array {
  const reached = new Uint8Array(map.places.length)
  const queue: number[] = []
  map.places.forEach(({ column, floor }, place) => {
    if (within[column] || !map.fits[place] || floor > ground + walker.step) return
    reached[place] = 1
    queue.push(place)
  })
  for (let at = 0; at < queue.length; at++) {
    for (const next of neighbours(columns, map, queue[at], walker)) {
      if (reached[next]) continue
      reached[next] = 1
      queue.push(next)
    }
  }
  return reached
}

/** The separate stretches of the edge that a piece comes to. */
function mouthsOf(
  piece: readonly number[],
  map: StandingMap,
  { edge, edgeLength }: Outline,
  { cell }: Columns,
): number[][] {
  const byPlace = new Map<number, number[]>()
  for (const place of piece) {
    const at = edge[map.places[place].column]
    if (at >= 0) byPlace.set(at, [...(byPlace.get(at) ?? []), place])
  }
  const places = [...byPlace.keys()].sort((a, b) => a - b)
  const runs: number[][] = []
  // A gap of a few columns is the staircase of a slanted edge.
  const bridged = Math.max(3, Math.ceil(0.05 / cell))
  for (const at of places) {
    const last = runs.at(-1)
    if (last && at - last[last.length - 1] <= bridged) last.push(at)
    else runs.push([at])
  }
  if (runs.length > 1 && runs[0][0] + edgeLength - runs[runs.length - 1][runs[runs.length - 1].length - 1] <= bridged)
    runs[0].unshift(...(runs.pop() ?? []))
  return runs.filter((run) => run.length >= SMALLEST_MOUTH).map((run) => run.flatMap((at) => byPlace.get(at) ?? []))
}

/**
 * The place on the widest way between mouths where it is narrowest, and how wide it is there: places join in falling
 * order of width.
 */
function narrowest(
  piece: readonly number[],
  mouths: readonly number[][],
  columns: Columns,
  map: StandingMap,
  walker: Walker,
): { place: number; width: number } {
  const width = new Map(
    piece.map((place) => [place, clearWidth(columns, map.places[place].column, map.places[place].floor, walker)]),
  )
  const order = [...piece].sort((a, b) => (width.get(b) ?? 0) - (width.get(a) ?? 0))
  const parent = new Map<number, number>()
  const find = (place: number): number => {
    let at = place
    while (parent.get(at) !== at) {
      parent.set(at, parent.get(parent.get(at) as number) as number)
      at = parent.get(at) as number
    }
    return at
  }
  // Which mouths each joined group has come to.
  const reached = new Map<number, Set<number>>()
  const mouthOf = new Map(mouths.flatMap((mouth, number) => mouth.map((place) => [place, number] as const)))
  for (const place of order) {
    parent.set(place, place)
    const own = mouthOf.get(place)
    reached.set(place, new Set(own === undefined ? [] : [own]))
    for (const next of neighbours(columns, map, place, walker)) {
      if (!parent.has(next)) continue
      const [from, to] = [find(next), find(place)]
      if (from === to) continue
      parent.set(from, to)
      const met = reached.get(to) as Set<number>
      for (const mouth of reached.get(from) ?? []) met.add(mouth)
      reached.delete(from)
    }
    if (reached.get(find(place))?.size === mouths.length) return { place, width: width.get(place) ?? walker.width }
  }
  return { place: piece[0], width: walker.width }
}

/** How wide a body may be in a column: twice the way to the nearest thing that is in the way. */
function clearWidth(
  { across, along, cell, filled }: Columns,
  column: number,
  floor: number,
  { width, step, height }: Walker,
): number {
  const [x, y] = [column % across, Math.floor(column / across)]
  const reach = Math.ceil((width * WIDEST_WALKERS) / 2 / cell)
  const blocks = (cx: number, cy: number): boolean => {
    if (cx < 0 || cy < 0 || cx >= across || cy >= along) return false
    const spans = filled[cy * across + cx]
    for (let pair = 0; pair < spans.length; pair += 2)
      if (spans[pair + 1] > floor + step && spans[pair] < floor + height) return true
    return false
  }
  for (let ring = 1; ring <= reach; ring++) {
    let nearest = Infinity
    for (let b = -ring; b <= ring; b++) {
      for (let a = -ring; a <= ring; a += Math.abs(b) === ring ? 1 : ring * 2)
        if (blocks(x + a, y + b)) nearest = Math.min(nearest, Math.hypot(a, b))
    }
    // Nothing in a further ring can be nearer than its own number.
    if (nearest <= ring + 1) return nearest * cell * 2
  }
  return width * WIDEST_WALKERS
}

/** Free height where the way is covered, at its widest place there; null when it is under the open sky all along. */
function coveredHeight(piece: readonly number[], columns: Columns, map: StandingMap, walker: Walker): number | null {
  let best: { width: number; height: number } | null = null
  for (const place of piece) {
    const { column, floor } = map.places[place]
    const height = clearHeight(columns, column, floor)
    if (height === null) continue
    const width = clearWidth(columns, column, floor, walker)
    if (!best || width > best.width || (width === best.width && height > best.height)) best = { width, height }
  }
  return best?.height ?? null
}

function clearHeight({ filled }: Columns, column: number, floor: number): number | null {
  const spans = filled[column]
  for (let pair = 0; pair < spans.length; pair += 2) if (spans[pair] > floor + 1e-6) return spans[pair] - floor
  return null
}

/** The groups of places that the solids leave free at a mouth, within a step of its floors. */
function groupsAt(
  mouth: readonly number[],
  standing: StandingMap,
  free: StandingMap,
  groupOf: ReadonlyMap<number, number>,
  { step }: Walker,
): Set<number> {
  const groups = new Set<number>()
  for (const place of mouth) {
    const { column, floor } = standing.places[place]
    for (const other of free.byColumn.get(column) ?? []) {
      const group = groupOf.get(other)
      if (group !== undefined && Math.abs(free.places[other].floor - floor) <= step) groups.add(group)
    }
  }
  return groups
}

/** Whether one gets from the first mouth to each of the others. */
const areJoined = ([first, ...others]: readonly Set<number>[]): boolean =>
  others.every((groups) => [...groups].some((group) => first.has(group)))
