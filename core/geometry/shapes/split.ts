import { RAPIER, startPhysics } from '../physics-engine.ts'
import { convexHull, type TriangleSoup } from './convex-hull.ts'
import { enclosedVolume } from './box-mesh.ts'
import { spreadDirections } from '../surface/ray-caster.ts'

export interface SplitOptions {
  mostHulls: number
  /** Corners that each hull may have. */
  mostPoints: number
  /** How hollow a piece may be and still be one hull, 0 to 1. */
  concavity: number
}

/** Cells along the longest side in which the library thinks: time grows with their cube. */
const RESOLUTION = 48

/**
 * Cuts a mesh into convex hulls. The physics library decomposes by volume (V-HACD: Mamou, “Volumetric hierarchical
 * approximate convex decomposition”, 2016), but minds no limits; the pieces are then joined, the pair first whose
 * common hull holds the least more, until there are few enough, and each is brought to the corners allowed.
 *
 * @example const hulls = await splitIntoHulls(mesh, { mostHulls: 8, mostPoints: 32, concavity: 0.02 })
 */
export async function splitIntoHulls(
  soup: TriangleSoup,
  { mostHulls, mostPoints, concavity }: SplitOptions,
): Promise<TriangleSoup[]> {
  await startPhysics()
  const description = RAPIER.ColliderDesc.convexDecomposition(soup.positions, soup.indices, {
    concavity,
    resolution: RESOLUTION,
    maxConvexHulls: Math.max(mostHulls, 16),
  })
  const shapes = (description?.shape as { shapes?: { vertices?: Float32Array }[] } | undefined)?.shapes ?? []
  const given = shapes.flatMap(({ vertices }) =>
    vertices ? hullPieces(outermost(Float32Array.from(vertices)), Infinity) : [],
  )
  const pieces = joinToFew(given.length > 0 ? given : hullPieces(outermost(soup.positions), Infinity), mostHulls)
  return pieces.flatMap(({ mesh }) => hullPieces(mesh.positions, mostPoints).map((piece) => piece.mesh))
}

interface Piece {
  mesh: TriangleSoup
  volume: number
}

function hullPieces(positions: Float32Array, mostPoints: number): Piece[] {
  const mesh = convexHull(positions, mostPoints)
  return mesh ? [{ mesh, volume: enclosedVolume(mesh) }] : []
}

/** Directions in which a piece's corners are looked for: enough for hulls of a few dozen corners. */
const directions = spreadDirections(128)

/** The corners that reach furthest in some direction: what a hull of few corners is chosen from. */
function outermost(positions: Float32Array): Float32Array {
  const kept = new Set<number>()
  for (const [dx, dy, dz] of directions) {
    let [best, reach] = [0, -Infinity]
    for (let at = 0; at < positions.length; at += 3) {
      const along = positions[at] * dx + positions[at + 1] * dy + positions[at + 2] * dz
      if (along > reach) [best, reach] = [at, along]
    }
    kept.add(best)
  }
  return Float32Array.from([...kept].flatMap((at) => [...positions.subarray(at, at + 3)]))
}

/** Joins pieces until there are few enough: each time the two whose common hull holds the least that neither held. */
function joinToFew(pieces: Piece[], most: number): Piece[] {
  const left = new Set(pieces)
  const pairs: { first: Piece; second: Piece; joined: Piece; more: number }[] = []
  const pairUp = (first: Piece, second: Piece): void => {
    const [joined] = hullPieces(Float32Array.from([...first.mesh.positions, ...second.mesh.positions]), Infinity)
    if (joined) pairs.push({ first, second, joined, more: joined.volume - first.volume - second.volume })
  }
  pieces.forEach((first, index) => pieces.slice(index + 1).forEach((second) => pairUp(first, second)))
  while (left.size > Math.max(1, most)) {
    const best = pairs
      .filter(({ first, second }) => left.has(first) && left.has(second))
      .reduce<(typeof pairs)[number] | null>(
        (least, pair) => (least === null || pair.more < least.more ? pair : least),
        null,
      )
    if (!best) break
    left.delete(best.first)
    left.delete(best.second)
    for (const other of left) pairUp(best.joined, other)
    left.add(best.joined)
  }
  return [...left].slice(0, Math.max(1, most))
}
