import { dot, type Vector3 } from '../../maths/vectors.ts'
import {
  angleBetween,
  distanceBetween,
  hasTwin,
  nextEdge,
  normalOf,
  previousEdge,
  smallestAngleOf,
  type PlaceMesh,
} from './triangle-mesh.ts'

/** What may be flipped, and when a flip is worth it. */
export interface FlipOptions {
  /** Edges sharper than this are part of the shape and stay. */
  featureAngleDegrees: number
  /** Corner index of each triangle corner: an edge whose sides use different corners is a seam and stays. */
  indices: Uint32Array
  /** Bends closer than this count as equal; then the more even angles decide. */
  equalBendDegrees?: number
}

const MOST_PASSES = 12
/** No flip makes a triangle thinner than this, however well it bends. */
const LEAST_ANGLE_DEGREES = 10

/**
 * Flips edges until none is worth it: the two triangles of an edge are cut the other way where the surface then bends
 * less over the edge and its four neighbours, and where it bends alike, where the smallest angle grows (Lawson 1977;
 * bending as in Dyn, Levin and Rippa 1990). The count stays. Writes into `mesh` and `indices`, which are the caller's
 * own.
 * @returns how many flips were made
 *
 * @example const flips = flipEdges(placeMesh(positions, indices), { featureAngleDegrees: 40, indices })
 */
export function flipEdges(
  mesh: PlaceMesh,
  { featureAngleDegrees, indices, equalBendDegrees = 2 }: FlipOptions,
): number {
  const { places, placeOfIndex, twin } = mesh
  const count = places.length / 3
  const keyOf = (a: number, b: number): number => Math.min(a, b) * count + Math.max(a, b)
  const present = new Set<number>()
  for (let edge = 0; edge < placeOfIndex.length; edge++)
    present.add(keyOf(placeOfIndex[edge], placeOfIndex[nextEdge(edge)]))
  const judge = new FlipJudge(mesh, featureAngleDegrees, equalBendDegrees)
  // What was not worth it stays so until something next to it was flipped.
  const settled = new Uint8Array(placeOfIndex.length)
  let flips = 0
  for (let pass = 0; pass < MOST_PASSES; pass++) {
    let flipped = 0
    for (let edge = 0; edge < placeOfIndex.length; edge++) {
      const other = twin[edge]
      if (!hasTwin(twin, edge) || other < edge || settled[edge]) continue
      const a = placeOfIndex[edge]
      const b = placeOfIndex[nextEdge(edge)]
      const c = placeOfIndex[previousEdge(edge)]
      const d = placeOfIndex[previousEdge(other)]
      const runsBack = placeOfIndex[other] === b && placeOfIndex[nextEdge(other)] === a
      const seam = indices[edge] !== indices[nextEdge(other)] || indices[nextEdge(edge)] !== indices[other]
      if (!runsBack || seam || c === d || present.has(keyOf(c, d))) continue
      if (!judge.isWorthIt(edge, other)) {
        settled[edge] = 1
        continue
      }
      turn(mesh, indices, edge, other)
      judge.turned(edge, other)
      unsettle(mesh, settled, edge)
      unsettle(mesh, settled, other)
      present.delete(keyOf(a, b))
      present.add(keyOf(c, d))
      flipped++
    }
    flips += flipped
    if (flipped === 0) break
  }
  return flips
}

/** Edges that look at the triangle of an edge: its own and those of its neighbours, from both sides. */
function unsettle({ twin }: PlaceMesh, settled: Uint8Array, edge: number): void {
  const triangle = Math.floor(edge / 3) * 3
  for (let own = triangle; own < triangle + 3; own++) {
    settled[own] = 0
    if (!hasTwin(twin, own)) continue
    const neighbour = Math.floor(twin[own] / 3) * 3
    for (let at = neighbour; at < neighbour + 3; at++) {
      settled[at] = 0
      if (hasTwin(twin, at)) settled[twin[at]] = 0
    }
  }
}

/** Says which flips are worth it; knows the normals of the triangles as they stand. */
class FlipJudge {
  /** 3 numbers a triangle. */
  private readonly normals: Float64Array
  private readonly mesh: PlaceMesh
  private readonly featureAngleDegrees: number
  private readonly equalBendDegrees: number

  constructor(mesh: PlaceMesh, featureAngleDegrees: number, equalBendDegrees: number) {
    this.mesh = mesh
    this.featureAngleDegrees = featureAngleDegrees
    this.equalBendDegrees = equalBendDegrees
    this.normals = new Float64Array(mesh.placeOfIndex.length)
    for (let corner = 0; corner < mesh.placeOfIndex.length; corner += 3) this.measure(corner)
  }

  /** Has to be told of each flip, after it was made. */
  turned(edge: number, other: number): void {
    this.measure(edge - (edge % 3))
    this.measure(other - (other % 3))
  }

  /** Whether the triangles (a b c) and (b a d) of an edge had better be (c a d) and (d b c). */
  isWorthIt(edge: number, other: number): boolean {
    const { places, placeOfIndex } = this.mesh
    const [bc, ca] = [nextEdge(edge), previousEdge(edge)]
    const [ad, db] = [nextEdge(other), previousEdge(other)]
    const [a, b, c, d] = [placeOfIndex[edge], placeOfIndex[bc], placeOfIndex[ca], placeOfIndex[db]]
    const [n, m] = [this.normalAt(edge), this.normalAt(other)]
    const bend = angleBetween(n, m)
    if (bend > this.featureAngleDegrees) return false
    const [p, q] = [normalOf(places, c, a, d), normalOf(places, d, b, c)]
    const mean: Vector3 = [n[0] + m[0], n[1] + m[1], n[2] + m[2]]
    if (!(dot(p, mean) > 0) || !(dot(q, mean) > 0)) return false
    const [lengthNow, lengthThen] = [distanceBetween(places, a, b), distanceBetween(places, c, d)]
    const before = bend * lengthNow + this.bends(bc, n) + this.bends(ca, n) + this.bends(ad, m) + this.bends(db, m)
    const after =
      angleBetween(p, q) * lengthThen + this.bends(ca, p) + this.bends(ad, p) + this.bends(db, q) + this.bends(bc, q)
    const equal = this.equalBendDegrees * (lengthNow + lengthThen)
    // Most edges end here, before their angles are asked for.
    if (after > before + equal / 4) return false
    const evenNow = Math.min(smallestAngleOf(places, a, b, c), smallestAngleOf(places, b, a, d))
    const evenThen = Math.min(smallestAngleOf(places, c, a, d), smallestAngleOf(places, d, b, c))
    if (evenThen < Math.min(evenNow, LEAST_ANGLE_DEGREES)) return false
    return after < before - equal || evenThen > evenNow + 1
  }

  /** How much the surface bends over an edge, by its length, if the triangle on this side had that normal. */
  private bends(at: number, normal: Vector3): number {
    const { places, placeOfIndex, twin } = this.mesh
    if (!hasTwin(twin, at)) return 0
    const angle = angleBetween(normal, this.normalAt(twin[at]))
    return angle > this.featureAngleDegrees
      ? 0
      : angle * distanceBetween(places, placeOfIndex[at], placeOfIndex[nextEdge(at)])
  }

  private normalAt(edge: number): Vector3 {
    const at = edge - (edge % 3)
    return [this.normals[at], this.normals[at + 1], this.normals[at + 2]]
  }

  private measure(corner: number): void {
    const { places, placeOfIndex } = this.mesh
    this.normals.set(normalOf(places, placeOfIndex[corner], placeOfIndex[corner + 1], placeOfIndex[corner + 2]), corner)
  }
}

/** Triangles (a b c) and (b a d) become (c a d) and (d b c). */
function turn({ placeOfIndex, twin }: PlaceMesh, indices: Uint32Array, edge: number, other: number): void {
  const first = Math.floor(edge / 3) * 3
  const second = Math.floor(other / 3) * 3
  const outer = {
    bc: twin[nextEdge(edge)],
    ca: twin[previousEdge(edge)],
    ad: twin[nextEdge(other)],
    db: twin[previousEdge(other)],
  }
  const [a, b, c, d] = [edge, nextEdge(edge), previousEdge(edge), previousEdge(other)]
  const placesOf = [placeOfIndex[a], placeOfIndex[b], placeOfIndex[c], placeOfIndex[d]]
  const cornersOf = [indices[a], indices[b], indices[c], indices[d]]
  const put = (triangle: number, corners: readonly number[]): void => {
    corners.forEach((corner, at) => {
      placeOfIndex[triangle + at] = placesOf[corner]
      indices[triangle + at] = cornersOf[corner]
    })
  }
  put(first, [2, 0, 3])
  put(second, [3, 1, 2])
  const join = (edgeHere: number, there: number): void => {
    twin[edgeHere] = there
    if (there !== 0xffffffff) twin[there] = edgeHere
  }
  join(first, outer.ca)
  join(first + 1, outer.ad)
  join(first + 2, second + 2)
  join(second, outer.db)
  join(second + 1, outer.bc)
}
