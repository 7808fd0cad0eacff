import { lengthOf, lengthOfXyz } from '../../maths/vectors.ts'
import { bumpinessDegrees } from '../surface/bumpiness.ts'
import { flipEdges } from './flip-edges.ts'
import { faultsOf } from './mesh-faults.ts'
import { relaxPlaces } from './relax.ts'
import { angleBetween, hasTwin, nextEdge, normalOf, placeMesh, previousEdge, type PlaceMesh } from './triangle-mesh.ts'

export interface EvenOptions {
  /** How far a place may move at most, in the units of `positions`; 0 only flips. */
  distanceLimit: number
  featureAngleDegrees: number
  rounds: number
  /** 1 for corners that stay where they are. */
  fixedCorners?: Uint8Array
}

export interface EvenMesh {
  /** New places of the same corners. */
  positions: Float32Array
  /** As many triangles as before. */
  indices: Uint32Array
  flips: number
  /** Pairs of triangles that lie flat and square enough to be one quad. */
  quads: number
  furthestMove: number
  bumpinessBefore: number
  bumpinessAfter: number
}

/**
 * Makes a dented triangulation even: pairs triangles into quads where the surface allows, flips edges that run across
 * the bend, and relaxes the places within a limit, as long as the surface gets less bumpy by it. Corners keep all they
 * carry; the count stays.
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 *
 * @example const even = evenTriangulation(positions, indices, { rounds: 5, distanceLimit: 0, featureAngleDegrees: 40 })
 */
export function evenTriangulation(positions: Float32Array, indices: Uint32Array, options: EvenOptions): EvenMesh {
  const own = indices.slice()
  const mesh = placeMesh(positions, own)
  const bumpinessBefore = bumpinessDegrees(positions, indices, options.featureAngleDegrees)
  let flips = flipEdges(mesh, { featureAngleDegrees: options.featureAngleDegrees, indices: own })
  const start = mesh.places.slice()
  flips += relaxWhileItHelps(mesh, own, options)
  const moved = new Float32Array(positions.length)
  let furthestMove = 0
  for (let corner = 0; corner < mesh.placeOfCorner.length; corner++) {
    const place = mesh.placeOfCorner[corner] * 3
    moved.set(mesh.places.subarray(place, place + 3), corner * 3)
    furthestMove = Math.max(
      furthestMove,
      lengthOfXyz(
        mesh.places[place] - start[place],
        mesh.places[place + 1] - start[place + 1],
        mesh.places[place + 2] - start[place + 2],
      ),
    )
  }
  const bumpinessAfter = bumpinessDegrees(moved, own, options.featureAngleDegrees)
  // Where the shape has no feature to hold on to, evening can only do harm: then it stays as it was.
  if (bumpinessAfter > bumpinessBefore)
    return {
      positions,
      indices,
      flips: 0,
      quads: countQuads(placeMesh(positions, indices)),
      furthestMove: 0,
      bumpinessBefore,
      bumpinessAfter: bumpinessBefore,
    }
  return {
    positions: moved,
    indices: own,
    flips,
    quads: countQuads(mesh),
    furthestMove,
    bumpinessBefore,
    bumpinessAfter,
  }
}

/** Rounds of relaxing between two looks at the surface. */
const ROUNDS_A_LOOK = 2
/** Looks in a row that show nothing better end it: slivers that have come do not go again. */
const LOOKS_IN_VAIN = 2

/**
 * Relaxes and flips by turns, and keeps the least bumpy state on the way that has no more slivers than the start;
 * returns how many edges were flipped for it.
 */
function relaxWhileItHelps(mesh: PlaceMesh, indices: Uint32Array, options: EvenOptions): number {
  const { featureAngleDegrees, distanceLimit } = options
  if (distanceLimit <= 0) return 0
  const fixed = fixedPlaces(mesh, options.fixedCorners)
  const origin = { ...mesh, places: mesh.places.slice() }
  let best = {
    places: mesh.places,
    placeOfIndex: mesh.placeOfIndex.slice(),
    twin: mesh.twin.slice(),
    indices: indices.slice(),
    flips: 0,
    bumpiness: bumpinessDegrees(mesh.places, mesh.placeOfIndex, featureAngleDegrees),
  }
  const slivers = faultsOf(mesh).slivers.length
  let flips = 0
  let inVain = 0
  for (let rounds = ROUNDS_A_LOOK; rounds <= options.rounds && inVain < LOOKS_IN_VAIN; rounds += ROUNDS_A_LOOK) {
    mesh.places = relaxPlaces(
      { ...origin, placeOfIndex: mesh.placeOfIndex, twin: mesh.twin },
      { featureAngleDegrees, distanceLimit, rounds, fixed },
    )
    flips += flipEdges(mesh, { featureAngleDegrees, indices })
    const bumpiness = bumpinessDegrees(mesh.places, mesh.placeOfIndex, featureAngleDegrees)
    inVain++
    if (bumpiness < best.bumpiness && faultsOf(mesh).slivers.length <= slivers) {
      inVain = 0
      best = {
        places: mesh.places,
        placeOfIndex: mesh.placeOfIndex.slice(),
        twin: mesh.twin.slice(),
        indices: indices.slice(),
        flips,
        bumpiness,
      }
    }
  }
  mesh.places = best.places
  mesh.placeOfIndex.set(best.placeOfIndex)
  mesh.twin.set(best.twin)
  indices.set(best.indices)
  return best.flips
}

function fixedPlaces({ placeOfCorner, places }: PlaceMesh, fixedCorners: Uint8Array | undefined): Uint8Array {
  const fixed = new Uint8Array(places.length / 3)
  fixedCorners?.forEach((each, corner) => {
    if (each) fixed[placeOfCorner[corner]] = 1
  })
  return fixed
}

const FLAT_ENOUGH_DEGREES = 12
const SQUARE_ENOUGH_DEGREES = 35

/** Pairs triangles over their best shared edge, each at most once: flat, and with four angles not far from 90°. */
export function countQuads({ places, placeOfIndex, twin }: PlaceMesh): number {
  const candidates: { edge: number; cost: number }[] = []
  for (let edge = 0; edge < placeOfIndex.length; edge++) {
    if (!hasTwin(twin, edge) || twin[edge] < edge) continue
    const [a, b] = [placeOfIndex[edge], placeOfIndex[nextEdge(edge)]]
    const [c, d] = [placeOfIndex[previousEdge(edge)], placeOfIndex[previousEdge(twin[edge])]]
    const bend = angleBetween(normalOf(places, a, b, c), normalOf(places, b, a, d))
    if (bend > FLAT_ENOUGH_DEGREES) continue
    const skew = Math.max(
      ...[
        [c, a, d],
        [a, d, b],
        [d, b, c],
        [b, c, a],
      ].map(([from, at, to]) => Math.abs(90 - cornerAngle(places, from, at, to))),
    )
    if (skew <= SQUARE_ENOUGH_DEGREES) candidates.push({ edge, cost: bend + skew / 4 })
  }
  candidates.sort((x, y) => x.cost - y.cost || x.edge - y.edge)
  const taken = new Uint8Array(placeOfIndex.length / 3)
  let quads = 0
  for (const { edge } of candidates) {
    const [first, second] = [Math.floor(edge / 3), Math.floor(twin[edge] / 3)]
    if (taken[first] || taken[second]) continue
    taken[first] = taken[second] = 1
    quads++
  }
  return quads
}

function cornerAngle(places: Float32Array, from: number, at: number, to: number): number {
  const u = [0, 1, 2].map((axis) => places[from * 3 + axis] - places[at * 3 + axis])
  const v = [0, 1, 2].map((axis) => places[to * 3 + axis] - places[at * 3 + axis])
  const [lengthU, lengthV] = [lengthOf(u) || 1, lengthOf(v) || 1]
  return angleBetween(
    u.map((value) => value / lengthU),
    v.map((value) => value / lengthV),
  )
}
