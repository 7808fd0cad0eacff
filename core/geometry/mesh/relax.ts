import { lengthOfXyz } from '../../maths/vectors.ts'
import { angleBetween, distanceBetween, hasTwin, nextEdge, normalOf, type PlaceMesh } from './triangle-mesh.ts'

export interface RelaxOptions {
  /** No place ends further than this from where it was. */
  distanceLimit: number
  /** Edges sharper than this stay edges: their places move along them only. */
  featureAngleDegrees: number
  rounds: number
  /** Places that stay, such as those on borders between materials. */
  fixed?: Uint8Array
}

/** Smoothing factors whose pair keeps the volume (Taubin 1995, with a pass band of 0.1). */
const SHRINK = 0.5
const GROW = -0.526

/**
 * Moves places toward the middle of their neighbours and out again, so that dents go and the volume stays (Taubin
 * 1995). Places on a crease move along it, corners and borders stay, and none moves further than the limit.
 * @returns new places; `mesh` is left as it was
 *
 * @example const places = relaxPlaces(mesh, { distanceLimit: 0.01, featureAngleDegrees: 40, rounds: 5, fixed })
 */
export function relaxPlaces(
  mesh: PlaceMesh,
  { distanceLimit, featureAngleDegrees, rounds, fixed }: RelaxOptions,
): Float32Array {
  const { places } = mesh
  const neighbours = movingNeighbours(mesh, featureAngleDegrees)
  // The nearer a neighbour, the more it counts: long edges run to other features of the shape.
  const shares = neighbours.map((around, place) =>
    Float64Array.from(around, (other) => 1 / (distanceBetween(places, place, other) || 1e-9)),
  )
  let now = places.slice()
  for (let round = 0; round < rounds * 2; round++) {
    const factor = round % 2 === 0 ? SHRINK : GROW
    const next = now.slice()
    for (let place = 0; place < neighbours.length; place++) {
      const around = neighbours[place]
      if (around.length === 0 || fixed?.[place]) continue
      moveTowards(next, { places, now, place, around, shares: shares[place], factor, distanceLimit })
    }
    now = next
  }
  return now
}

interface Move {
  /** Where everything was at first, and where it is in this round; 3 floats a place. */
  places: Float32Array
  now: Float32Array
  place: number
  around: readonly number[]
  /** How much each of `around` counts. */
  shares: Float64Array
  factor: number
  distanceLimit: number
}

/** One step of one place toward the middle of others, or away from it; written into `next`. */
function moveTowards(next: Float32Array, { places, now, place, around, shares, factor, distanceLimit }: Move): void {
  let [all, x, y, z] = [0, 0, 0, 0]
  for (let at = 0; at < around.length; at++) {
    const other = around[at] * 3
    all += shares[at]
    x += now[other] * shares[at]
    y += now[other + 1] * shares[at]
    z += now[other + 2] * shares[at]
  }
  const own = place * 3
  const movedX = now[own] + factor * (x / all - now[own]) - places[own]
  const movedY = now[own + 1] + factor * (y / all - now[own + 1]) - places[own + 1]
  const movedZ = now[own + 2] + factor * (z / all - now[own + 2]) - places[own + 2]
  const length = lengthOfXyz(movedX, movedY, movedZ)
  const held = length > distanceLimit ? distanceLimit / length : 1
  next[own] = places[own] + movedX * held
  next[own + 1] = places[own + 1] + movedY * held
  next[own + 2] = places[own + 2] + movedZ * held
}

/**
 * For each place the ones it is drawn to: all round on a smooth spot, the two along a crease, none at corners and
 * borders.
 */
function movingNeighbours({ places, placeOfIndex, twin }: PlaceMesh, featureAngleDegrees: number): number[][] {
  const count = places.length / 3
  const all: number[][] = Array.from({ length: count }, () => [])
  const creases: number[][] = Array.from({ length: count }, () => [])
  const stays = new Uint8Array(count)
  for (let edge = 0; edge < placeOfIndex.length; edge++) {
    const [a, b] = [placeOfIndex[edge], placeOfIndex[nextEdge(edge)]]
    if (!hasTwin(twin, edge)) {
      stays[a] = stays[b] = 1
      continue
    }
    // Each inner edge is met from both sides; once is enough.
    if (twin[edge] < edge) continue
    all[a].push(b)
    all[b].push(a)
    if (
      angleBetween(normalAt(places, placeOfIndex, edge), normalAt(places, placeOfIndex, twin[edge])) <=
      featureAngleDegrees
    )
      continue
    creases[a].push(b)
    creases[b].push(a)
  }
  return all.map((around, place) =>
    stays[place] ? [] : creases[place].length === 0 ? around : creases[place].length === 2 ? creases[place] : [],
  )
}

function normalAt(places: Float32Array, placeOfIndex: Uint32Array, edge: number): [number, number, number] {
  const triangle = Math.floor(edge / 3) * 3
  return normalOf(places, placeOfIndex[triangle], placeOfIndex[triangle + 1], placeOfIndex[triangle + 2])
}
