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
  let flips = 0
  for (let pass = 0; pass < MOST_PASSES; pass++) {
    let flipped = 0
    for (let edge = 0; edge < placeOfIndex.length; edge++) {
      const other = twin[edge]
      if (!hasTwin(twin, edge) || other < edge) continue
      const [a, b] = [placeOfIndex[edge], placeOfIndex[nextEdge(edge)]]
      const [c, d] = [placeOfIndex[previousEdge(edge)], placeOfIndex[previousEdge(other)]]
      const runsBack = placeOfIndex[other] === b && placeOfIndex[nextEdge(other)] === a
      const seam = indices[edge] !== indices[nextEdge(other)] || indices[nextEdge(edge)] !== indices[other]
      if (!runsBack || seam || c === d || present.has(keyOf(c, d))) continue
      if (!isWorthIt(mesh, edge, other, [a, b, c, d], featureAngleDegrees, equalBendDegrees)) continue
      turn(mesh, indices, edge, other)
      present.delete(keyOf(a, b))
      present.add(keyOf(c, d))
      flipped++
    }
    flips += flipped
    if (flipped === 0) break
  }
  return flips
}

function isWorthIt(
  mesh: PlaceMesh,
  edge: number,
  other: number,
  [a, b, c, d]: readonly number[],
  featureAngleDegrees: number,
  equalBendDegrees: number,
): boolean {
  const { places } = mesh
  const [n, m] = [normalOf(places, a, b, c), normalOf(places, b, a, d)]
  if (angleBetween(n, m) > featureAngleDegrees) return false
  const [p, q] = [normalOf(places, c, a, d), normalOf(places, d, b, c)]
  const mean = [n[0] + m[0], n[1] + m[1], n[2] + m[2]]
  const facesOn = (normal: readonly number[]): boolean =>
    normal[0] * mean[0] + normal[1] * mean[1] + normal[2] * mean[2] > 0
  if (!facesOn(p) || !facesOn(q)) return false
  const [bc, ca] = [nextEdge(edge), previousEdge(edge)]
  const [ad, db] = [nextEdge(other), previousEdge(other)]
  const bends = (at: number, normal: readonly number[]): number => {
    if (!hasTwin(mesh.twin, at)) return 0
    const triangle = Math.floor(mesh.twin[at] / 3) * 3
    const beyond = normalOf(
      places,
      mesh.placeOfIndex[triangle],
      mesh.placeOfIndex[triangle + 1],
      mesh.placeOfIndex[triangle + 2],
    )
    const angle = angleBetween(normal, beyond)
    return angle > featureAngleDegrees
      ? 0
      : angle * distanceBetween(places, mesh.placeOfIndex[at], mesh.placeOfIndex[nextEdge(at)])
  }
  const before =
    angleBetween(n, m) * distanceBetween(places, a, b) + bends(bc, n) + bends(ca, n) + bends(ad, m) + bends(db, m)
  const after =
    angleBetween(p, q) * distanceBetween(places, c, d) + bends(ca, p) + bends(ad, p) + bends(db, q) + bends(bc, q)
  const size = distanceBetween(places, a, b) + distanceBetween(places, c, d)
  const evenNow = Math.min(smallestAngleOf(places, a, b, c), smallestAngleOf(places, b, a, d))
  const evenThen = Math.min(smallestAngleOf(places, c, a, d), smallestAngleOf(places, d, b, c))
  if (evenThen < Math.min(evenNow, LEAST_ANGLE_DEGREES)) return false
  if (after < before - equalBendDegrees * size) return true
  if (after > before + (equalBendDegrees * size) / 4) return false
  return evenThen > evenNow + 1
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
