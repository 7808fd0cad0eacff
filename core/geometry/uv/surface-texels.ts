import { lengthOfXyz } from '../../maths/vectors.ts'
import { rasteriseUvs, uvArea } from './uv-raster.ts'

/** A surface with its UVs: 3 floats a corner for positions and normals, 2 for UVs, 3 indices a triangle. */
export interface UvSurface {
  positions: Float32Array
  normals: Float32Array
  uvs: Float32Array
  indices: Uint32Array
}

/** The pixels of a picture that a surface shows, each with where on the surface it lies. */
export interface SurfaceTexels {
  count: number
  /** Number of the pixel in the picture. */
  pixel: Uint32Array
  triangle: Uint32Array
  /** Weights of the triangle's three corners. */
  weights: Float32Array
}

/** A surface that shows the whole picture more often than this, tile beside tile, is not followed further. */
const MOST_PICTURES = 64
/** Up to this many pictures all places that show a pixel are listed: nothing is saved by looking for them. */
const FEW_PICTURES = 2

/**
 * Lists the pixels that a surface shows, each with the places that show it. A tiled picture is shown by many: then only
 * the last ones are listed, so that the list grows with the pixels and not with the tiles.
 * @param mostPlaces how many places are listed of a pixel of a tiled picture
 * @example listTexels({ uvs, indices }, 256, 256).count // at most 131,072
 */
export function listTexels(
  { uvs, indices }: Pick<UvSurface, 'uvs' | 'indices'>,
  width: number,
  height: number,
  mostPlaces = 1,
): SurfaceTexels {
  const list = new GrowingList()
  if (uvArea(uvs, indices) <= FEW_PICTURES)
    rasteriseUvs(uvs, indices, width, height, (pixel, triangle, a, b, c) => {
      list.put(0, pixel, triangle, a, b, c)
    })
  else {
    const shown = new Uint32Array(width * height)
    // Where a place of a pixel is listed, counted from one.
    const listedAt = new Uint32Array(shown.length * mostPlaces)
    let left = shown.length * MOST_PICTURES
    rasteriseUvs(uvs, indices, width, height, (pixel, triangle, a, b, c) => {
      const place = pixel * mostPlaces + (shown[pixel]++ % mostPlaces)
      listedAt[place] = list.put(listedAt[place], pixel, triangle, a, b, c)
      return --left === 0 ? false : undefined
    })
  }
  return list.texels()
}

/** Texels in typed arrays that grow as more are put in. */
class GrowingList {
  private count = 0
  private pixel = new Uint32Array(1024)
  private triangle = new Uint32Array(1024)
  private weights = new Float32Array(3072)

  /** @param at the number, from one, of the texel that is written over; 0 for a new one, whose number is given back */
  put(at: number, pixel: number, triangle: number, a: number, b: number, c: number): number {
    const number = at === 0 ? this.count++ : at - 1
    if (number === this.pixel.length) this.grow()
    this.pixel[number] = pixel
    this.triangle[number] = triangle
    this.weights[number * 3] = a
    this.weights[number * 3 + 1] = b
    this.weights[number * 3 + 2] = c
    return number + 1
  }

  texels(): SurfaceTexels {
    return {
      count: this.count,
      pixel: this.pixel.slice(0, this.count),
      triangle: this.triangle.slice(0, this.count),
      weights: this.weights.slice(0, this.count * 3),
    }
  }

  private grow(): void {
    const [pixel, triangle, weights] = [this.pixel, this.triangle, this.weights]
    this.pixel = new Uint32Array(pixel.length * 2)
    this.triangle = new Uint32Array(pixel.length * 2)
    this.weights = new Float32Array(weights.length * 2)
    this.pixel.set(pixel)
    this.triangle.set(triangle)
    this.weights.set(weights)
  }
}

type Vector = [number, number, number]

/**
 * A value at a texel from its triangle's corners, `size` numbers each.
 * @example const place = valueAt(texels, texel, indices, positions, 3)
 */
export function valueAt(
  texels: SurfaceTexels,
  number: number,
  indices: Uint32Array,
  array: Float32Array,
  size: 2 | 3,
): number[] {
  const triangle = texels.triangle[number] * 3
  const out: number[] = []
  for (let axis = 0; axis < size; axis++) {
    let sum = 0
    for (let corner = 0; corner < 3; corner++)
      sum += array[indices[triangle + corner] * size + axis] * texels.weights[number * 3 + corner]
    out.push(sum)
  }
  return out
}

/**
 * A direction made one long; one without a length points along Z.
 * @example unit([0, 0, 0]) // [0, 0, 1]
 */
export function unit(vector: readonly number[]): Vector {
  const length = lengthOfXyz(vector[0], vector[1], vector[2])
  return length === 0 ? [0, 0, 1] : [vector[0] / length, vector[1] / length, vector[2] / length]
}

/**
 * A normal for each corner, from the triangles that use it, larger ones counting more: for surfaces that carry none.
 *
 * @example const normals = given ?? cornerNormals(positions, indices)
 */
export function cornerNormals(positions: Float32Array, indices: Uint32Array): Float32Array {
  const normals = new Float32Array(positions.length)
  for (let at = 0; at + 2 < indices.length; at += 3) {
    const [a, b, c] = [indices[at] * 3, indices[at + 1] * 3, indices[at + 2] * 3]
    const [ux, uy, uz] = [
      positions[b] - positions[a],
      positions[b + 1] - positions[a + 1],
      positions[b + 2] - positions[a + 2],
    ]
    const [vx, vy, vz] = [
      positions[c] - positions[a],
      positions[c + 1] - positions[a + 1],
      positions[c + 2] - positions[a + 2],
    ]
    const normal = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
    for (const corner of [a, b, c]) for (let axis = 0; axis < 3; axis++) normals[corner + axis] += normal[axis]
  }
  for (let corner = 0; corner < normals.length; corner += 3)
    normals.set(unit(normals.subarray(corner, corner + 3) as unknown as number[]), corner)
  return normals
}

/**
 * Where right (growing u) and up (falling v) of a picture point on each triangle, for a normal map whose green rises:
 * 6 floats a triangle, unit length; zero where the UVs have no area.
 *
 * @example const directions = pictureDirections(positions, uvs, indices)
 */
export function pictureDirections(positions: Float32Array, uvs: Float32Array, indices: Uint32Array): Float32Array {
  const out = new Float32Array((indices.length / 3) * 6)
  for (let triangle = 0; triangle * 3 < indices.length; triangle++) {
    const [a, b, c] = [indices[triangle * 3], indices[triangle * 3 + 1], indices[triangle * 3 + 2]]
    const [du1, dv1] = [uvs[b * 2] - uvs[a * 2], uvs[b * 2 + 1] - uvs[a * 2 + 1]]
    const [du2, dv2] = [uvs[c * 2] - uvs[a * 2], uvs[c * 2 + 1] - uvs[a * 2 + 1]]
    const area = du1 * dv2 - du2 * dv1
    if (area === 0) continue
    const right: number[] = []
    const up: number[] = []
    for (let axis = 0; axis < 3; axis++) {
      const e1 = positions[b * 3 + axis] - positions[a * 3 + axis]
      const e2 = positions[c * 3 + axis] - positions[a * 3 + axis]
      right.push((e1 * dv2 - e2 * dv1) / area)
      up.push(-(e2 * du1 - e1 * du2) / area)
    }
    out.set(unit(right), triangle * 6)
    out.set(unit(up), triangle * 6 + 3)
  }
  return out
}

/**
 * A picture's normal (x right, y up, z out of the surface) as a direction in space.
 * @example const direction = toSpace([0, 0, 1], directions, triangle, surfaceNormal)
 */
export function toSpace(
  normal: readonly number[],
  directions: Float32Array,
  triangle: number,
  surfaceNormal: readonly number[],
): Vector {
  const at = triangle * 6
  return unit(
    [0, 1, 2].map(
      (axis) =>
        normal[0] * directions[at + axis] + normal[1] * directions[at + 3 + axis] + normal[2] * surfaceNormal[axis],
    ),
  )
}

/**
 * A direction in space as a picture's normal. The two directions in the picture are taken square to the surface's
 * normal first.
 *
 * @example const relief = toPicture(direction, directions, triangle, surfaceNormal)
 */
export function toPicture(
  direction: readonly number[],
  directions: Float32Array,
  triangle: number,
  surfaceNormal: readonly number[],
): Vector {
  const at = triangle * 6
  const dot = (a: readonly number[], b: readonly number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
  const right = [directions[at], directions[at + 1], directions[at + 2]]
  const up = [directions[at + 3], directions[at + 4], directions[at + 5]]
  const squared = (axis: readonly number[]): Vector =>
    unit(axis.map((value, index) => value - surfaceNormal[index] * dot(axis, surfaceNormal)))
  return unit([dot(direction, squared(right)), dot(direction, squared(up)), dot(direction, surfaceNormal)])
}
