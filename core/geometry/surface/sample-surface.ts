import { lengthOfXyz } from '../../maths/vectors.ts'
/** Points on a surface, spread by area. */
export interface SurfaceSamples {
  /** 3 floats a sample. */
  points: Float32Array
  /** Triangle that each sample lies on. */
  triangles: Uint32Array
  /** 3 floats a sample: how much of each corner of its triangle it has. */
  weights: Float32Array
}

/**
 * `count` points spread over triangles in proportion to their area, the same ones every time: one in each of
 * `count` equal slices of the area, placed inside its triangle by the R2 sequence (Roberts 2018, after Weyl)
 * through the square-root map (Osada et al. 2002, section 4.1).
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 *
 * @example const { points, triangles } = sampleSurface(positions, indices, 1000)
 */
export function sampleSurface(positions: Float32Array, indices: Uint32Array, count: number): SurfaceSamples {
  const areas = triangleAreas(positions, indices)
  const total = areas.reduce((sum, area) => sum + area, 0)
  if (total === 0 || count < 1)
    return { points: new Float32Array(0), triangles: new Uint32Array(0), weights: new Float32Array(0) }
  const points = new Float32Array(count * 3)
  const triangles = new Uint32Array(count)
  const weights = new Float32Array(count * 3)
  let triangle = 0
  let reached = areas[0]
  for (let sample = 0; sample < count; sample++) {
    const wanted = ((sample + 0.5) / count) * total
    while (reached < wanted && triangle < areas.length - 1) reached += areas[++triangle]
    triangles[sample] = triangle
    const root = Math.sqrt((0.5 + sample * 0.7548776662466927) % 1)
    const along = (0.5 + sample * 0.5698402909980532) % 1
    const wa = 1 - root
    const wb = root * (1 - along)
    const wc = root * along
    weights[sample * 3] = wa
    weights[sample * 3 + 1] = wb
    weights[sample * 3 + 2] = wc
    const a = indices[triangle * 3] * 3
    const b = indices[triangle * 3 + 1] * 3
    const c = indices[triangle * 3 + 2] * 3
    for (let axis = 0; axis < 3; axis++)
      points[sample * 3 + axis] = positions[a + axis] * wa + positions[b + axis] * wb + positions[c + axis] * wc
  }
  return { points, triangles, weights }
}

/**
 * Area of each triangle, in squared units of `positions`.
 *
 * @example triangleAreas(Float32Array.of(0, 0, 0, 2, 0, 0, 0, 2, 0), Uint32Array.of(0, 1, 2))[0] // 2
 */
export function triangleAreas(positions: Float32Array, indices: Uint32Array): Float64Array {
  const areas = new Float64Array(indices.length / 3)
  for (let triangle = 0; triangle < areas.length; triangle++) {
    const a = indices[triangle * 3] * 3
    const b = indices[triangle * 3 + 1] * 3
    const c = indices[triangle * 3 + 2] * 3
    const ux = positions[b] - positions[a]
    const uy = positions[b + 1] - positions[a + 1]
    const uz = positions[b + 2] - positions[a + 2]
    const vx = positions[c] - positions[a]
    const vy = positions[c + 1] - positions[a + 1]
    const vz = positions[c + 2] - positions[a + 2]
    areas[triangle] = lengthOfXyz(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2
  }
  return areas
}

/**
 * Surface area of triangles, in squared units of `positions`.
 * @example surfaceArea(Float32Array.of(0, 0, 0, 2, 0, 0, 0, 2, 0), Uint32Array.of(0, 1, 2)) // 2
 */
export const surfaceArea = (positions: Float32Array, indices: Uint32Array): number =>
  triangleAreas(positions, indices).reduce((sum, area) => sum + area, 0)
