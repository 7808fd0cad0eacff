import RAPIER from '@dimforge/rapier3d-compat'
import { convexHull, type TriangleSoup } from '../convex-hull.ts'
import { enclosedVolume } from '../box-mesh.ts'

export interface SplitOptions {
  mostHulls: number
  /** Corners that each hull may have. */
  mostPoints: number
  /** How hollow a piece may be and still be one hull, 0 to 1. */
  concavity: number
}

let ready: Promise<void> | null = null

/**
 * Cuts a mesh into convex hulls. The physics library decomposes by volume (V-HACD: Mamou, “Volumetric hierarchical approximate
 * convex decomposition”, 2016), but minds no limits; the pieces are then joined, the pair first whose common hull holds the least
 * more, until there are few enough, and each is brought to the corners allowed.
 */
export async function splitIntoHulls(soup: TriangleSoup, { mostHulls, mostPoints, concavity }: SplitOptions): Promise<TriangleSoup[]> {
  ready ??= RAPIER.init()
  await ready
  const description = RAPIER.ColliderDesc.convexDecomposition(soup.positions, soup.indices, { concavity, resolution: 64, maxConvexHulls: Math.max(mostHulls, 16) })
  const shapes = (description?.shape as { shapes?: { vertices?: Float32Array }[] } | undefined)?.shapes ?? []
  let pieces = shapes.flatMap(({ vertices }) => (vertices ? hullPieces(Float32Array.from(vertices), 256) : []))
  if (pieces.length === 0) pieces = hullPieces(soup.positions, 256)
  while (pieces.length > mostHulls) pieces = joinNearest(pieces)
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

/** One piece fewer: the two whose common hull holds the least that neither held. */
function joinNearest(pieces: readonly Piece[]): Piece[] {
  let best: { first: number; second: number; joined: Piece; more: number } | null = null
  for (let first = 0; first < pieces.length; first++) {
    for (let second = first + 1; second < pieces.length; second++) {
      const both = new Float32Array([...pieces[first].mesh.positions, ...pieces[second].mesh.positions])
      const [joined] = hullPieces(both, 256)
      if (!joined) continue
      const more = joined.volume - pieces[first].volume - pieces[second].volume
      if (!best || more < best.more) best = { first, second, joined, more }
    }
  }
  if (!best) return pieces.slice(0, -1)
  const { first, second, joined } = best
  return [...pieces.filter((_, index) => index !== first && index !== second), joined]
}
