import type { Bounds } from '../../item/measure.ts'
import { partBounds } from '../../item/measure.ts'
import { restMatrix, type Part } from '../../item/parts.ts'
import { accessorToFloats, primitiveIndices } from '../../item/primitive-arrays.ts'

/**
 * What of a part's shape does not depend on where it stands, how it is turned, or in which order its points are kept.
 */
export interface Fingerprint {
  name: string
  triangles: number
  /** Surface in scene units. */
  area: number
  /**
   * Mean distance of the surface from its centre, and the mean of its square: two numbers that tell most shapes apart.
   */
  meanRadius: number
  meanSquareRadius: number
  centre: [number, number, number]
  bounds: Bounds
}

/**
 * Measures a part in scene space, every triangle weighed by its area.
 * @example const prints = listViewParts(document).map(fingerprintOf)
 */
export function fingerprintOf(part: Part): Fingerprint {
  const triangles = sceneTriangles(part)
  const count = triangles.length / 9
  let area = 0
  const centre: [number, number, number] = [0, 0, 0]
  const areas = new Float64Array(count)
  const middles = new Float64Array(count * 3)
  for (let index = 0; index < count; index++) {
    const t = triangles.subarray(index * 9, index * 9 + 9)
    const u = [t[3] - t[0], t[4] - t[1], t[5] - t[2]]
    const v = [t[6] - t[0], t[7] - t[1], t[8] - t[2]]
    areas[index] = Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2
    area += areas[index]
    for (let axis = 0; axis < 3; axis++) {
      middles[index * 3 + axis] = (t[axis] + t[3 + axis] + t[6 + axis]) / 3
      centre[axis] += middles[index * 3 + axis] * areas[index]
    }
  }
  for (let axis = 0; axis < 3; axis++) centre[axis] /= area || 1
  let [mean, square] = [0, 0]
  for (let index = 0; index < count; index++) {
    const radius = Math.hypot(
      middles[index * 3] - centre[0],
      middles[index * 3 + 1] - centre[1],
      middles[index * 3 + 2] - centre[2],
    )
    mean += (radius * areas[index]) / (area || 1)
    square += (radius * radius * areas[index]) / (area || 1)
  }
  return {
    name: part.name,
    triangles: count,
    area,
    meanRadius: mean,
    meanSquareRadius: square,
    centre,
    bounds: partBounds(part),
  }
}

function sceneTriangles(part: Part): Float64Array {
  const matrix = restMatrix(part.node)
  const lists = part.mesh.listPrimitives().map((primitive) => {
    const accessor = primitive.getAttribute('POSITION')
    return {
      positions: accessor ? accessorToFloats(accessor) : new Float32Array(0),
      indices: primitiveIndices(primitive),
    }
  })
  const triangles = new Float64Array(lists.reduce((sum, { indices }) => sum + indices.length * 3, 0))
  let at = 0
  for (const { positions, indices } of lists) {
    for (const corner of indices) {
      const [x, y, z] = [positions[corner * 3], positions[corner * 3 + 1], positions[corner * 3 + 2]]
      for (let axis = 0; axis < 3; axis++)
        triangles[at++] = matrix[axis] * x + matrix[4 + axis] * y + matrix[8 + axis] * z + matrix[12 + axis]
    }
  }
  return triangles
}

const near = (first: number, second: number, tolerance: number): boolean =>
  Math.abs(first - second) <= tolerance * Math.max(Math.abs(first), Math.abs(second), 1e-9)

/**
 * Whether two parts have the same shape and size, wherever they stand.
 * @example const alike = prints.filter((print) => sameShape(print, wanted))
 */
export function sameShape(first: Fingerprint, second: Fingerprint): boolean {
  return (
    first.triangles === second.triangles &&
    near(first.area, second.area, 2e-3) &&
    near(first.meanRadius, second.meanRadius, 2e-3) &&
    near(first.meanSquareRadius, second.meanSquareRadius, 4e-3)
  )
}

/**
 * Whether two parts of the same shape stand in the same place, within a hundredth of their size.
 * @example const kept = ours.filter((part) => official.some((other) => samePlace(part, other)))
 */
export function samePlace(first: Fingerprint, second: Fingerprint): boolean {
  const size = Math.max(first.meanRadius, second.meanRadius, 1e-9)
  const apart = Math.hypot(...first.centre.map((value, axis) => value - second.centre[axis]))
  const turned = [0, 1, 2].some(
    (axis) =>
      Math.abs(first.bounds.min[axis] - second.bounds.min[axis]) > size * 0.02 ||
      Math.abs(first.bounds.max[axis] - second.bounds.max[axis]) > size * 0.02,
  )
  return apart <= size * 0.01 && !turned
}

/**
 * Share of the larger box that both have in common: 1 where they are one and the same.
 * @example overlap({ min: [0, 0, 0], max: [1, 1, 1] }, { min: [0, 0, 0], max: [0.5, 1, 1] }) // 0.5
 */
export function overlap(first: Bounds, second: Bounds): number {
  const side = (a: Bounds, b: Bounds, axis: number): number =>
    Math.max(1e-9, Math.min(a.max[axis], b.max[axis]) - Math.max(a.min[axis], b.min[axis]))
  const volume = (box: Bounds): number =>
    [0, 1, 2].reduce((product, axis) => product * Math.max(1e-9, box.max[axis] - box.min[axis]), 1)
  const apart = [0, 1, 2].some(
    (axis) => Math.min(first.max[axis], second.max[axis]) < Math.max(first.min[axis], second.min[axis]),
  )
  if (apart) return 0
  return (
    [0, 1, 2].reduce((product, axis) => product * side(first, second, axis), 1) /
    Math.max(volume(first), volume(second))
  )
}
