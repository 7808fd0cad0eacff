import { lengthOfXyz } from '../../maths/vectors.ts'
/**
 * Normals from smoothing groups: at each corner the sum of the area vectors of the polygons that share its point and
 * at least one group with its own polygon. A polygon in no group is flat.
 * @param points 3 numbers a point
 * @param corners point of each corner, in polygon order
 * @param groupMasks one bit mask a polygon
 * @returns unit normals, 3 numbers a corner
 *
 * @example const normals = normalsFromSmoothing(points, corners, sizes, groups)
 */
export function normalsFromSmoothing(
  points: Float32Array,
  corners: ArrayLike<number>,
  polygonSizes: ArrayLike<number>,
  groupMasks: ArrayLike<number>,
): Float32Array {
  const areas = polygonAreas(points, corners, polygonSizes)
  const { starts, polygons } = polygonsAtPoints(points.length / 3, corners, polygonSizes)
  const normals = new Float32Array(corners.length * 3)
  let corner = 0
  for (let polygon = 0; polygon < polygonSizes.length; polygon++) {
    for (let each = 0; each < polygonSizes[polygon]; each++, corner++) {
      const sum = [areas[polygon * 3], areas[polygon * 3 + 1], areas[polygon * 3 + 2]]
      const point = corners[corner]
      const end = groupMasks[polygon] === 0 ? starts[point] : Math.min(starts[point + 1], starts[point] + MOST_AROUND)
      for (let at = starts[point]; at < end; at++) {
        const other = polygons[at]
        if (other === polygon || (groupMasks[other] & groupMasks[polygon]) === 0) continue
        for (let axis = 0; axis < 3; axis++) sum[axis] += areas[other * 3 + axis]
      }
      const length = lengthOfXyz(sum[0], sum[1], sum[2])
      for (let axis = 0; axis < 3; axis++)
        normals[corner * 3 + axis] = length > 0 ? sum[axis] / length : axis === 1 ? 1 : 0
    }
  }
  return normals
}

/** Fans of thousands of polygons round one point are summed up to this many, to stay linear. */
const MOST_AROUND = 512

/** Twice the area of each polygon along its normal (Newell's method). */
function polygonAreas(points: Float32Array, corners: ArrayLike<number>, polygonSizes: ArrayLike<number>): Float32Array {
  const areas = new Float32Array(polygonSizes.length * 3)
  let first = 0
  for (let polygon = 0; polygon < polygonSizes.length; polygon++) {
    const size = polygonSizes[polygon]
    for (let each = 0; each < size; each++) {
      const a = corners[first + each] * 3
      const b = corners[first + ((each + 1) % size)] * 3
      areas[polygon * 3] += (points[a + 1] - points[b + 1]) * (points[a + 2] + points[b + 2])
      areas[polygon * 3 + 1] += (points[a + 2] - points[b + 2]) * (points[a] + points[b])
      areas[polygon * 3 + 2] += (points[a] - points[b]) * (points[a + 1] + points[b + 1])
    }
    first += size
  }
  return areas
}

function polygonsAtPoints(
  pointCount: number,
  corners: ArrayLike<number>,
  polygonSizes: ArrayLike<number>,
): { starts: Uint32Array; polygons: Uint32Array } {
  const starts = new Uint32Array(pointCount + 1)
  for (let corner = 0; corner < corners.length; corner++) starts[corners[corner] + 1]++
  for (let point = 0; point < pointCount; point++) starts[point + 1] += starts[point]
  const fill = starts.slice()
  const polygons = new Uint32Array(corners.length)
  let corner = 0
  for (let polygon = 0; polygon < polygonSizes.length; polygon++)
    for (let each = 0; each < polygonSizes[polygon]; each++) polygons[fill[corners[corner++]]++] = polygon
  return { starts, polygons }
}
