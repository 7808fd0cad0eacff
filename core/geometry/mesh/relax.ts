import { lengthOf } from '../../maths/vectors.ts'
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
 */
export function relaxPlaces(
  mesh: PlaceMesh,
  { distanceLimit, featureAngleDegrees, rounds, fixed }: RelaxOptions,
): Float32Array {
  const { places } = mesh
  const neighbours = movingNeighbours(mesh, featureAngleDegrees)
  let now = places.slice()
  for (let round = 0; round < rounds * 2; round++) {
    const factor = round % 2 === 0 ? SHRINK : GROW
    const next = now.slice()
    for (let place = 0; place < neighbours.length; place++) {
      const around = neighbours[place]
      if (around.length === 0 || fixed?.[place]) continue
      // The nearer a neighbour, the more it counts: long edges run to other features of the shape.
      const shares = around.map((other) => 1 / (distanceBetween(places, place, other) || 1e-9))
      const all = shares.reduce((sum, share) => sum + share, 0)
      const moved = [0, 1, 2].map((axis) => {
        const mean = around.reduce((sum, other, at) => sum + now[other * 3 + axis] * shares[at], 0) / all
        return now[place * 3 + axis] + factor * (mean - now[place * 3 + axis]) - places[place * 3 + axis]
      })
      const length = lengthOf(moved)
      const held = length > distanceLimit ? distanceLimit / length : 1
      for (let axis = 0; axis < 3; axis++) next[place * 3 + axis] = places[place * 3 + axis] + moved[axis] * held
    }
    now = next
  }
  return now
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
