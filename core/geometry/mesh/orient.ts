import { lengthOf } from '../../maths/vectors.ts'
import { meetEdges, NO_TWIN } from './edges.ts'
import { groupPositions } from './position-groups.ts'
import { spreadDirections, type RayCaster } from '../surface/ray-caster.ts'

/** Connected pieces of a mesh, each wound one way, and which of them have to be turned over. */
export interface Orientation {
  /** 1 where a triangle's winding has to be reversed. */
  flip: Uint8Array
  pieces: number
  turnedPieces: number
  /**
   * 1 where a triangle belongs to a surface with one side only, such as a Möbius strip: it has no outside and is left
   * as it is.
   */
  withoutOutside: Uint8Array
  piecesWithoutOutside: number
}

const RAYS_PER_SIDE = 6
/** Places of one open piece from which rays are cast. */
const MOST_SAMPLES = 48
/** Places of all open pieces together: a tree of ten thousand leaves takes no longer than a house. */
export const MOST_SAMPLES_OF_ALL = 24_000

/** One connected piece whose triangles were made to agree, as far as that goes. */
export interface WoundPiece {
  triangles: Uint32Array
  /** 1 for each of `triangles` that has to be reversed to agree with the first. */
  flips: Uint8Array
  closed: boolean
  /** False for a surface with one side only, such as a Möbius strip: its triangles cannot agree. */
  twoSides: boolean
}

/**
 * Connected pieces of a mesh, each wound one way across its shared edges.
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 *
 * @example const pieces = windPieces(positions, indices)
 */
export function windPieces(positions: Float32Array, indices: Uint32Array): WoundPiece[] {
  const { groupOfCorner } = groupPositions(positions)
  const { twin, sameWay } = meetEdges(indices.map((corner) => groupOfCorner[corner]))
  const triangleCount = indices.length / 3
  const flip = new Uint8Array(triangleCount)
  const seen = new Uint8Array(triangleCount)
  const queue = new Uint32Array(triangleCount)
  const pieces: WoundPiece[] = []
  for (let seed = 0; seed < triangleCount; seed++) {
    if (seen[seed]) continue
    let size = 0
    let closed = true
    let twoSides = true
    seen[seed] = 1
    queue[size++] = seed
    for (let at = 0; at < size; at++) {
      const triangle = queue[at]
      for (let edge = triangle * 3; edge < triangle * 3 + 3; edge++) {
        const other = twin[edge]
        if (other === NO_TWIN) {
          closed = false
          continue
        }
        const neighbour = Math.floor(other / 3)
        if (seen[neighbour]) {
          if (flip[neighbour] !== (flip[triangle] ^ sameWay[edge])) twoSides = false
          continue
        }
        seen[neighbour] = 1
        flip[neighbour] = flip[triangle] ^ sameWay[edge]
        queue[size++] = neighbour
      }
    }
    const triangles = queue.slice(0, size)
    pieces.push({ triangles, flips: Uint8Array.from(triangles, (triangle) => flip[triangle]), closed, twoSides })
  }
  return pieces
}

/**
 * Decides for each connected piece which side is out. Triangles of a piece are first made to agree across their shared
 * edges. A closed piece is right when its signed volume is positive (divergence theorem); an open one is decided by
 * rays: from the true outer side clearly more of them leave the item. Where rays cannot tell, as on a floor or a height
 * field, it stays as most of it came. A shell inside another is judged for itself: its outside is away from its own
 * inside. A piece whose triangles cannot agree has one side only and is left alone.
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 * @param item casts rays at the whole item, in the same space
 * @param samples places of all pieces together from which rays are cast; each has one at least
 *
 * @example const { flip } = orientOutward(positions, indices, createRayCaster(positions, indices))
 */
export function orientOutward(
  positions: Float32Array,
  indices: Uint32Array,
  item: RayCaster,
  samples = MOST_SAMPLES_OF_ALL,
): Orientation {
  const flip = new Uint8Array(indices.length / 3)
  const withoutOutside = new Uint8Array(indices.length / 3)
  const pieces = windPieces(positions, indices)
  const open = pieces.filter(({ closed, twoSides }) => !closed && twoSides).length
  const each = Math.max(1, Math.min(MOST_SAMPLES, Math.floor(samples / Math.max(1, open))))
  let turnedPieces = 0
  let piecesWithoutOutside = 0
  for (const { triangles, flips, closed, twoSides } of pieces) {
    if (!twoSides) {
      piecesWithoutOutside++
      for (const triangle of triangles) withoutOutside[triangle] = 1
      continue
    }
    triangles.forEach((triangle, at) => (flip[triangle] = flips[at]))
    if (!closed && turnedShare(positions, indices, triangles, flip) > 0.5)
      for (const triangle of triangles) flip[triangle] ^= 1
    const inward = closed
      ? signedVolume(positions, indices, triangles, flip) < 0
      : backLeavesMore(positions, indices, triangles, flip, item, each)
    if (inward) for (const triangle of triangles) flip[triangle] ^= 1
    if (triangles.some((triangle) => flip[triangle] === 1)) turnedPieces++
  }
  return { flip, pieces: pieces.length, turnedPieces, withoutOutside, piecesWithoutOutside }
}

/**
 * Volume enclosed by triangles (divergence theorem), negative where they look inward; measured from the first one's
 * corner to keep precision far from the origin.
 * @param triangles numbers of those that are asked about
 * @param flip 1 where a triangle counts as turned over
 *
 * @example signedVolume(positions, indices, triangles, new Uint8Array(indices.length / 3)) > 0
 */
export function signedVolume(
  positions: Float32Array,
  indices: Uint32Array,
  triangles: Uint32Array,
  flip: Uint8Array,
): number {
  const origin = indices[triangles[0] * 3] * 3
  const [ox, oy, oz] = [positions[origin], positions[origin + 1], positions[origin + 2]]
  let volume = 0
  for (const triangle of triangles) {
    const [a, b, c] = [indices[triangle * 3] * 3, indices[triangle * 3 + 1] * 3, indices[triangle * 3 + 2] * 3]
    const [ax, ay, az] = [positions[a] - ox, positions[a + 1] - oy, positions[a + 2] - oz]
    const [bx, by, bz] = [positions[b] - ox, positions[b + 1] - oy, positions[b + 2] - oz]
    const [cx, cy, cz] = [positions[c] - ox, positions[c + 1] - oy, positions[c + 2] - oz]
    const six = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)
    volume += flip[triangle] ? -six : six
  }
  return volume
}

/** Share of a piece's area whose triangles are turned over. */
function turnedShare(positions: Float32Array, indices: Uint32Array, triangles: Uint32Array, flip: Uint8Array): number {
  let [turned, all] = [0, 0]
  for (const triangle of triangles) {
    const area = (triangleFrame(positions, indices, triangle, false)?.size ?? 0) ** 2
    all += area
    if (flip[triangle]) turned += area
  }
  return all > 0 ? turned / all : 0
}

/**
 * How many times more rays have to leave from the back than from the front. From a sheet about as many leave from both.
 */
const CLEARLY_MORE = 1.5
/**
 * A front of which a greater share of the rays leaves looks into the open: things may stand before it, as on a floor.
 */
const SHUT_IN = 0.35

function backLeavesMore(
  positions: Float32Array,
  indices: Uint32Array,
  triangles: Uint32Array,
  flip: Uint8Array,
  item: RayCaster,
  samples: number,
): boolean {
  const directions = spreadDirections(RAYS_PER_SIDE * 2)
  const stride = Math.max(1, Math.floor(triangles.length / samples))
  let front = 0
  let back = 0
  let ahead = 0
  for (let at = 0; at < triangles.length; at += stride) {
    const triangle = triangles[at]
    const sample = triangleFrame(positions, indices, triangle, flip[triangle] === 1)
    if (!sample) continue
    for (const direction of directions) {
      const along = direction[0] * sample.normal[0] + direction[1] * sample.normal[1] + direction[2] * sample.normal[2]
      if (Math.abs(along) < 0.1) continue
      const lift = Math.sign(along) * sample.size * 1e-3
      const origin = sample.centre.map((value, axis) => value + sample.normal[axis] * lift)
      if (along > 0) ahead++
      if (item.first(origin, direction)) continue
      if (along > 0) front++
      else back++
    }
  }
  return back > front * CLEARLY_MORE && front < ahead * SHUT_IN
}

function triangleFrame(positions: Float32Array, indices: Uint32Array, triangle: number, flipped: boolean) {
  const [a, b, c] = [indices[triangle * 3] * 3, indices[triangle * 3 + 1] * 3, indices[triangle * 3 + 2] * 3]
  const u = [0, 1, 2].map((axis) => positions[b + axis] - positions[a + axis])
  const v = [0, 1, 2].map((axis) => positions[c + axis] - positions[a + axis])
  const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
  const length = lengthOf(normal)
  if (length === 0) return null
  const sign = flipped ? -1 : 1
  return {
    normal: normal.map((value) => (value / length) * sign),
    centre: [0, 1, 2].map((axis) => (positions[a + axis] + positions[b + axis] + positions[c + axis]) / 3),
    size: Math.sqrt(length),
  }
}

/**
 * Reverses the winding of the marked triangles.
 * @example [...flipTriangles(Uint32Array.of(0, 1, 2), Uint8Array.of(1))] // [0, 2, 1]
 */
export function flipTriangles(indices: Uint32Array, flip: Uint8Array): Uint32Array {
  const turned = indices.slice()
  for (let triangle = 0; triangle < flip.length; triangle++) {
    if (!flip[triangle]) continue
    turned[triangle * 3 + 1] = indices[triangle * 3 + 2]
    turned[triangle * 3 + 2] = indices[triangle * 3 + 1]
  }
  return turned
}
