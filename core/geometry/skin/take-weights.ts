import { createSurfaceFinder } from '../surface/surface-distance.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { emptyTable, SLOTS, WeightGatherer, type WeightTable } from './weight-table.ts'

/** A surface and what holds its corners. */
export interface HeldSurface extends TriangleSoup {
  table: WeightTable
}

/** Surfaces whose distances differ by less than this share are equally near. */
const EQUALLY_NEAR = 1e-3

/**
 * Each corner held by the bone of the nearest of several surfaces, a surface a bone; by all that are equally near in
 * equal shares, so that what lies in the middle between two goes neither way. Without a bone where all are empty.
 * @param positions 3 floats a corner, in the space of the surfaces
 *
 * @example const table = nearestBones(clothPositions, ribs)
 */
export function nearestBones(positions: Float32Array, surfaces: readonly TriangleSoup[]): WeightTable {
  const finders = surfaces.map(createSurfaceFinder)
  const table = emptyTable(positions.length / 3, surfaces.length)
  const gather = new WeightGatherer(surfaces.length)
  const distances = new Float64Array(surfaces.length)
  for (let corner = 0; corner < table.corners; corner++) {
    const [x, y, z] = positions.subarray(corner * 3, corner * 3 + 3)
    let least = Infinity
    finders.forEach((finder, number) => {
      distances[number] = finder.nearest(x, y, z, least * (1 + EQUALLY_NEAR))?.distance ?? Infinity
      least = Math.min(least, distances[number])
    })
    for (let bone = 0; bone < distances.length; bone++)
      if (distances[bone] <= least * (1 + EQUALLY_NEAR) && least < Infinity) gather.add(bone, 1)
    gather.store(table, corner)
  }
  return table
}

/**
 * What holds the nearest point of another surface, for each place: the weights of its triangle's corners, by how near
 * the point is to each.
 * @param positions 3 floats a corner, in the space of the surface
 * @returns as many rows as places; without a bone where the surface is empty
 *
 * @example const cover = weightsFrom(coverPositions, { ...body, table: bodyTable })
 */
export function weightsFrom(positions: Float32Array, from: HeldSurface): WeightTable {
  const finder = createSurfaceFinder(from)
  const table = emptyTable(positions.length / 3, from.table.bones)
  const gather = new WeightGatherer(from.table.bones)
  for (let corner = 0; corner < table.corners; corner++) {
    const found = finder.nearest(positions[corner * 3], positions[corner * 3 + 1], positions[corner * 3 + 2])
    if (!found) continue
    const corners = from.indices.subarray(found.triangle * 3, found.triangle * 3 + 3)
    const shares = sharesOf(found.point, corners, from.positions)
    corners.forEach((each, number) => gather.addRow(from.table, each, shares[number]))
    gather.store(table, corner, undefined, 1e-4)
  }
  return table
}

/** How near a point of a triangle is to each corner (barycentric coordinates); a triangle without area gives thirds. */
function sharesOf(point: readonly number[], corners: Uint32Array, positions: Float32Array): [number, number, number] {
  const at = (corner: number, axis: number): number => positions[corners[corner] * 3 + axis]
  let [bb, bc, cc, pb, pc] = [0, 0, 0, 0, 0]
  for (let axis = 0; axis < 3; axis++) {
    const b = at(1, axis) - at(0, axis)
    const c = at(2, axis) - at(0, axis)
    const p = point[axis] - at(0, axis)
    bb += b * b
    bc += b * c
    cc += c * c
    pb += p * b
    pc += p * c
  }
  const area = bb * cc - bc * bc
  if (!(area > 1e-30)) return [1 / 3, 1 / 3, 1 / 3]
  const second = Math.min(1, Math.max(0, (cc * pb - bc * pc) / area))
  const third = Math.min(1 - second, Math.max(0, (bb * pc - bc * pb) / area))
  return [1 - second - third, second, third]
}

/**
 * Weights of one half of a mesh put on the other: each place on the far side takes what holds its mirror image, with
 * bones exchanged for theirs.
 * @param side 1 keeps what is on the positive side of the plane, -1 the other; what lies on the plane within `onPlane`
 *   takes half from itself and half from its own image, so that it is alike on both sides
 * @param mirrored for each bone the number of the one on the other side, or its own
 *
 * @example const whole = mirrorWeights(surface, 0, 1, mirroredBones(names), 0.001)
 */
export function mirrorWeights(
  surface: HeldSurface,
  axis: 0 | 1 | 2,
  side: 1 | -1,
  mirrored: readonly number[],
  onPlane: number,
): WeightTable {
  const { positions, table } = surface
  const images = positions.slice()
  for (let at = axis; at < images.length; at += 3) images[at] = -images[at]
  const kept = keptTriangles(surface, axis, side, onPlane)
  const taken = weightsFrom(images, { positions, indices: kept, table })
  const made = emptyTable(table.corners, table.bones)
  const gather = new WeightGatherer(table.bones)
  for (let corner = 0; corner < table.corners; corner++) {
    const height = positions[corner * 3 + axis] * side
    const own = height > onPlane ? 1 : height < -onPlane ? 0 : 0.5
    gather.addRow(table, corner, own)
    for (let slot = corner * SLOTS; own < 1 && slot < (corner + 1) * SLOTS && taken.weightOf[slot] > 0; slot++)
      gather.add(mirrored[taken.boneOf[slot]] ?? taken.boneOf[slot], taken.weightOf[slot] * (1 - own))
    gather.store(made, corner)
  }
  return made
}

/** Triangles that reach onto the kept side. */
function keptTriangles({ positions, indices }: TriangleSoup, axis: number, side: number, onPlane: number): Uint32Array {
  const kept: number[] = []
  for (let at = 0; at < indices.length; at += 3) {
    const corners = indices.subarray(at, at + 3)
    if (corners.some((corner) => positions[corner * 3 + axis] * side > onPlane)) kept.push(...corners)
  }
  return Uint32Array.from(kept)
}
