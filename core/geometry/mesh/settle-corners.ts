import { lengthOfXyz } from '../../maths/vectors.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { createSurfaceFinder, type SurfaceFinder } from '../surface/surface-distance.ts'

/** A mesh whose corners carry `stride` further floats each, side by side. */
export interface PackedMesh extends TriangleSoup {
  packed: Float32Array
}

/**
 * Puts corners that a reduction moved off the surface back to where they were, with what they carry. The place of least
 * quadric error may lie far outside where a mesh is torn or its planes nearly agree (Garland and Heckbert 1998,
 * section 3.4): one such corner is a spike.
 * @param source the mesh before; corners keep their numbers
 * @param reduced changed in place
 * @param furthest how far off the surface a corner may lie, in the units of the positions
 * @param stride floats a corner in `packed`
 *
 * @example settleCorners(source, reduced, error * scale, joined.stride)
 */
export function settleCorners(source: PackedMesh, reduced: PackedMesh, furthest: number, stride: number): void {
  let surface: SurfaceFinder | null = null
  for (const corner of new Set(reduced.indices)) {
    const at = corner * 3
    const [x, y, z] = reduced.positions.subarray(at, at + 3)
    const moved = lengthOfXyz(x - source.positions[at], y - source.positions[at + 1], z - source.positions[at + 2])
    // What moved no further lies no further off.
    if (moved <= furthest) continue
    surface ??= createSurfaceFinder(source)
    const off = surface.nearest(x, y, z, Infinity, furthest)?.distance ?? 0
    if (off <= furthest) continue
    reduced.positions.set(source.positions.subarray(at, at + 3), at)
    reduced.packed.set(source.packed.subarray(corner * stride, (corner + 1) * stride), corner * stride)
  }
}
