import type { Columns } from './columns.ts'

/** Who walks: sizes in the units of the columns. */
export interface Walker {
  width: number
  height: number
  /** What is no higher is stepped over and onto. */
  step: number
}

/** A place to stand: a column and the height of its floor. */
export interface Standing {
  column: number
  floor: number
}

/** Every place where a walker can stand, and which are one step apart. */
export interface StandingMap {
  places: Standing[]
  /** Places of each column, as numbers in `places`. */
  byColumn: Map<number, number[]>
  /** Whether the walker's whole body is free there. */
  fits: Uint8Array
}

/**
 * Finds floors with room above them. @param ground height of the ground, which is everywhere
 * @example const map = findStanding(columns, ground, walker)
 */
export function findStanding(columns: Columns, ground: number, walker: Walker): StandingMap {
  const places: Standing[] = []
  const byColumn = new Map<number, number[]>()
  for (let column = 0; column < columns.filled.length; column++) {
    const own = floorsOf(columns.filled[column], ground, walker).map((floor) => places.push({ column, floor }) - 1)
    if (own.length > 0) byColumn.set(column, own)
  }
  const offsets = discOffsets(columns, walker.width / 2)
  const fits = Uint8Array.from(places, ({ column, floor }) =>
    bodyFits(columns, column, floor, walker, offsets) ? 1 : 0,
  )
  return { places, byColumn, fits }
}

function floorsOf(filled: Float64Array, ground: number, { height }: Walker): number[] {
  const floors: number[] = []
  const free = (floor: number): boolean => {
    for (let pair = 0; pair < filled.length; pair += 2)
      if (filled[pair + 1] > floor + 1e-6 && filled[pair] < floor + height) return false
    return true
  }
  if (free(ground)) floors.push(ground)
  for (let pair = 0; pair < filled.length; pair += 2)
    if (filled[pair + 1] > ground + 1e-6 && free(filled[pair + 1])) floors.push(filled[pair + 1])
  return floors
}

/** Columns within a radius of one, as steps across and along. */
export function discOffsets({ cell }: Columns, radius: number): [number, number][] {
  const reach = Math.ceil(radius / cell)
  const offsets: [number, number][] = []
  for (let b = -reach; b <= reach; b++)
    for (let a = -reach; a <= reach; a++)
      if (Math.hypot(Math.max(0, Math.abs(a) - 0.5), Math.max(0, Math.abs(b) - 0.5)) * cell < radius - cell * 0.25)
        offsets.push([a, b])
  return offsets
}

/** Whether nothing higher than a step is in the way of a body that stands in a column. */
export function bodyFits(
  { across, along, filled }: Columns,
  column: number,
  floor: number,
  { step, height }: Walker,
  offsets: readonly (readonly [number, number])[],
): boolean {
  const [x, y] = [column % across, Math.floor(column / across)]
  for (const [a, b] of offsets) {
    const [cx, cy] = [x + a, y + b]
    if (cx < 0 || cy < 0 || cx >= across || cy >= along) continue
    const spans = filled[cy * across + cx]
    for (let pair = 0; pair < spans.length; pair += 2)
      if (spans[pair + 1] > floor + step && spans[pair] < floor + height) return false
  }
  return true
}

/**
 * Places next to one that a step leads to.
 * @example for (const next of neighbours(columns, map, place, walker)) visit(next)
 */
export function neighbours({ across, along }: Columns, map: StandingMap, place: number, walker: Walker): number[] {
  const { column, floor } = map.places[place]
  const [x, y] = [column % across, Math.floor(column / across)]
  const found: number[] = []
  for (const [a, b] of [
    [1, 0],
    [-1, 0],
    [0, 1],
    [0, -1],
  ]) {
    const [cx, cy] = [x + a, y + b]
    if (cx < 0 || cy < 0 || cx >= across || cy >= along) continue
    for (const other of map.byColumn.get(cy * across + cx) ?? [])
      if (map.fits[other] && Math.abs(map.places[other].floor - floor) <= walker.step) found.push(other)
  }
  return found
}
