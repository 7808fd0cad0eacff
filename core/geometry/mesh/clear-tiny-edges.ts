import { dot, lengthOf, unit, type Vector3 } from '../../maths/vectors.ts'
import { between, ChangingTriangles } from './changing-triangles.ts'
import { cutIntoHalfBlocks } from './half-blocks.ts'
import { groupPositions } from './position-groups.ts'

/** Triangles without tiny edges, and what was done to them. */
export interface ClearedEdges {
  /** 3 numbers a place; places that are the same are one. */
  positions: Float32Array
  /** 3 places a triangle. */
  indices: Uint32Array
  /** For each triangle the surface that it is of. */
  surfaces: Uint32Array
  collapsed: number
  flipped: number
  /** Long edges that got a place in their middle. */
  split: number
  /** Triangles that nothing else helped. */
  dropped: number
  /** How wide the widest of the dropped ones was: the gap that it leaves. */
  widestGap: number
  /** How far a place was moved at most. */
  furthest: number
}

/** Each round takes edges that do not touch; what is left after so many is dropped. */
const MOST_ROUNDS = 24
/** A surface may turn so far (cosine) when an edge of it goes. */
const LEAST_FACING = 0.5

/** Neither is turned over: cosine between a triangle and what becomes of it. */
const NOT_OVER = 0.1
/** Where a side is tried to be cut, as a share of its length. */
const SHARES = [1 / 2, 1 / 4, 3 / 4, 1 / 8, 7 / 8, 1 / 16, 15 / 16, 1 / 32, 31 / 32]

/** What may be done: first what is hardly seen, then what changes the surface more. */
interface Allowance {
  /** Cosine of the angle up to which two triangles are flat enough to be cut the other way. */
  flatEnough: number
  /** Edges up to so many times the shortest that is allowed are collapsed. */
  longest: number
}
const allowances: readonly Allowance[] = [
  { flatEnough: 0.985, longest: 2 },
  { flatEnough: 0.7, longest: 4 },
]

/**
 * Takes away what cannot be built of half-blocks whose sides are at least so long: slivers are cut the other way
 * together with their neighbour, long ones in their middle, short edges are collapsed, and what is left is dropped.
 * @param positions 3 numbers a corner
 * @param indices 3 a triangle
 * @param surfaces for each triangle the surface that it is of: only triangles of one are cut the other way
 * @param shortestEdge in the unit of the positions
 *
 * @example const { indices, dropped } = clearTinyEdges(positions, indices, surfaces, 0.4)
 */
export function clearTinyEdges(
  positions: Float32Array,
  indices: Uint32Array,
  surfaces: Uint32Array,
  shortestEdge: number,
): ClearedEdges {
  const { groupOfCorner, cornerOfGroup } = groupPositions(positions)
  const places = new Float32Array(cornerOfGroup.length * 3)
  cornerOfGroup.forEach((corner, group) => places.set(positions.subarray(corner * 3, corner * 3 + 3), group * 3))
  const work = new Clearing(
    places,
    indices.map((corner) => groupOfCorner[corner]),
    surfaces,
    shortestEdge,
  )
  for (const allowed of allowances) for (let round = 0; round < MOST_ROUNDS && work.round(allowed); round++);
  return work.finished()
}

class Clearing extends ChangingTriangles {
  private collapsed = 0
  private flipped = 0
  private splits = 0

  /** One round over all triangles that are too small; whether anything came of it. */
  round(allowed: Allowance): boolean {
    const small = this.tooSmall()
    if (small.length === 0) return false
    const around = this.trianglesAround(small)
    const touched = new Uint8Array(this.places.length / 3)
    let changed = false
    for (const triangle of small) {
      const corners = this.cornersOf(triangle)
      if (corners.some((place) => touched[place] === 1)) continue
      const done =
        this.flip(triangle, around, touched, allowed) ||
        this.split(triangle, around, touched) ||
        this.collapse(triangle, around, touched, allowed)
      changed ||= done
    }
    if (changed) this.dropCollapsed()
    return changed
  }

  finished(): ClearedEdges {
    const small = new Set(this.tooSmall())
    let widestGap = 0
    for (const triangle of small) widestGap = Math.max(widestGap, this.widthOf(triangle))
    const kept = this.surfaces.map((_, triangle) => triangle).filter((triangle) => !small.has(triangle))
    const renamed = new Map<number, number>()
    const indices = Uint32Array.from(
      kept.flatMap((triangle) => this.cornersOf(triangle)),
      (place) => {
        const known = renamed.get(place) ?? renamed.size
        renamed.set(place, known)
        return known
      },
    )
    const positions = new Float32Array(renamed.size * 3)
    let furthest = 0
    for (const [place, number] of renamed) positions.set(this.placeOf(place), number * 3)
    for (let at = 0; at < this.home.length; at += 3)
      furthest = Math.max(
        furthest,
        Math.hypot(...[0, 1, 2].map((axis) => this.home[at + axis] - this.places[at + axis])),
      )
    return {
      positions,
      indices,
      surfaces: Uint32Array.from(kept, (triangle) => this.surfaces[triangle]),
      collapsed: this.collapsed,
      flipped: this.flipped,
      split: this.splits,
      dropped: small.size,
      widestGap,
      furthest,
    }
  }

  /** Triangles that are too small, the smallest first. */
  private tooSmall(): number[] {
    const { shortestSide } = cutIntoHalfBlocks(this.places, this.triangles)
    const small: number[] = []
    shortestSide.forEach((side, triangle) => {
      if (side < this.limit) small.push(triangle)
    })
    return small.sort((a, b) => shortestSide[a] - shortestSide[b] || a - b)
  }

  /**
   * A triangle and the neighbour beside one of its sides, cut the other way, where that leaves the smaller one larger.
   */
  private flip(
    triangle: number,
    around: ReadonlyMap<number, number[]>,
    touched: Uint8Array,
    { flatEnough }: Allowance,
  ): boolean {
    const corners = this.cornersOf(triangle)
    let best: { other: number; made: number[]; smallest: number } | null = null
    for (const side of [0, 1, 2]) {
      const [a, b, c] = [0, 1, 2].map((step) => corners[(side + step) % 3])
      const beside = (around.get(a) ?? []).filter(
        (other) =>
          other !== triangle && this.surfaces[other] === this.surfaces[triangle] && this.cornersOf(other).includes(b),
      )
      if (beside.length !== 1) continue
      const [other] = beside
      const others = this.cornersOf(other)
      const d = others.find((place) => place !== a && place !== b)
      // The neighbour has to run along the side the other way: else one of them is turned over.
      if (d === undefined || d === c || touched[d] === 1 || others[(others.indexOf(b) + 1) % 3] !== a) continue
      const made = [a, d, c, d, b, c]
      const smallest = this.smallestOf(made)
      if (smallest <= Math.max(best?.smallest ?? 0, this.smallestOf([...corners, ...others]) * 1.01)) continue
      const [one, two, besideFront, own] = [[a, d, c], [d, b, c], others, corners].map((places) =>
        unit(this.areaOf(...(places.map(this.placeOf) as [Vector3, Vector3, Vector3]))),
      )
      // A sliver has hardly a front of its own, and nothing moves further than it is wide.
      const thin = this.widthOf(triangle) < this.limit
      const least = thin ? Math.min(flatEnough, NOT_OVER) : flatEnough
      const fronts = thin ? [besideFront] : [besideFront, own]
      if (fronts.some((front) => dot(one, front) < least || dot(two, front) < least)) continue
      best = { other, made, smallest }
    }
    if (!best) return false
    for (const place of [...corners, ...this.cornersOf(best.other)]) touched[place] = 1
    this.put(triangle, best.made.slice(0, 3))
    this.put(best.other, best.made.slice(3))
    this.flipped++
    return true
  }

  /**
   * A long side gets a place between its ends, and all triangles beside it are cut there: the surface stays as it is. A
   * long right-angled triangle, whose height leaves a short side, becomes two whose heights do not.
   */
  private split(triangle: number, around: ReadonlyMap<number, number[]>, touched: Uint8Array): boolean {
    if (this.widthOf(triangle) < this.limit) return false
    const corners = this.cornersOf(triangle)
    const place = this.places.length / 3
    let best: { at: Vector3; beside: number[]; ends: number[]; smallest: number } | null = null
    for (const side of [0, 1, 2]) {
      const ends = [corners[side], corners[(side + 1) % 3]]
      const beside = (around.get(ends[0]) ?? []).filter((other) => this.cornersOf(other).includes(ends[1]))
      if (beside.some((other) => this.cornersOf(other).some((each) => touched[each] === 1))) continue
      const least = Math.min(this.limit, ...beside.filter((other) => other !== triangle).map(this.smallestSideOf))
      const [from, to] = ends.map(this.placeOf)
      for (const share of SHARES) {
        const at = from.map((value, axis) => Math.fround(value + (to[axis] - value) * share)) as Vector3
        this.places.push(...at)
        const smallest = Math.min(
          ...beside.map((other) => {
            const side = this.smallestOf(this.halvesOf(other, ends, place).flat())
            // What was too small before beside it may stay so, but not become smaller.
            return other === triangle || side < least ? side : Math.max(side, this.limit)
          }),
        )
        this.places.length -= 3
        if (smallest >= this.limit && smallest > (best?.smallest ?? 0)) best = { at, beside, ends, smallest }
      }
    }
    if (!best) return false
    this.places.push(...best.at)
    this.home.push(...best.at)
    for (const other of best.beside) {
      const [one, two] = this.halvesOf(other, best.ends, place)
      for (const each of this.cornersOf(other)) touched[each] = 1
      this.put(other, one)
      this.triangles.push(...two)
      this.surfaces.push(this.surfaces[other])
    }
    this.splits++
    return true
  }

  /** A triangle cut at a place on the side between two of its corners. */
  private halvesOf(triangle: number, ends: readonly number[], place: number): number[][] {
    return ends.map((end) => this.cornersOf(triangle).map((each) => (each === end ? place : each)))
  }

  /** A short side of a triangle becomes one of its ends, the one that changes the surface least. */
  private collapse(
    triangle: number,
    around: ReadonlyMap<number, number[]>,
    touched: Uint8Array,
    { longest }: Allowance,
  ): boolean {
    const corners = this.cornersOf(triangle)
    const ways = [0, 1, 2]
      .map((side) => [corners[side], corners[(side + 1) % 3]])
      .filter(([a, b]) => this.lengthBetween(a, b) < this.limit * longest)
      .flatMap(([a, b]) => [
        { from: a, to: b },
        { from: b, to: a },
      ])
      .map((way) => ({ ...way, cost: this.costOf(way.from, way.to, around.get(way.from) ?? []) }))
      .sort((one, two) => one.cost - two.cost)
    if (ways.length === 0) return false
    const [best] = ways
    if (best.cost === Infinity) return false
    for (const other of around.get(best.from) ?? []) {
      for (let corner = other * 3; corner < other * 3 + 3; corner++) {
        touched[this.triangles[corner]] = 1
        if (this.triangles[corner] === best.from) this.triangles[corner] = best.to
      }
    }
    for (const other of around.get(best.to) ?? []) for (const place of this.cornersOf(other)) touched[place] = 1
    this.placeOf(best.to).forEach((value, axis) => (this.places[best.from * 3 + axis] = value))
    this.collapsed++
    return true
  }

  /** How far the planes around a place lie from where it would go; Infinity where a triangle would turn over. */
  private costOf(from: number, to: number, triangles: readonly number[]): number {
    const goal = this.placeOf(to)
    let cost = 0
    for (const triangle of triangles) {
      const corners = this.cornersOf(triangle)
      const before = corners.map(this.placeOf) as [Vector3, Vector3, Vector3]
      const area = this.areaOf(...before)
      const size = lengthOf(area)
      if (size === 0) continue
      const front = unit(area)
      cost = Math.max(cost, Math.abs(dot(front, between(before[0], goal))))
      if (corners.includes(to)) continue
      const after = corners.map((place) => (place === from ? goal : this.placeOf(place))) as typeof before
      const turned = this.areaOf(...after)
      // Slivers have hardly a front that could turn.
      const isWide = this.widthOf(triangle) > this.limit / 4
      if (isWide && dot(front, unit(turned)) < LEAST_FACING) return Infinity
    }
    return cost
  }
}
