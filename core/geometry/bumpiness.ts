import { triangleAreas } from './sample-surface.ts'
import { angleBetween, hasTwin, placeMesh } from './triangle-mesh.ts'
import { faceNormals } from './pieces.ts'

/** Fans of many triangles round one place are looked at up to this many. */
const MOST_AROUND = 64

/**
 * How much a surface dents back and forth, in degrees: the mean angle between a triangle's normal and the mean normal of the
 * triangles round it, weighted by area. Even curvature cancels out; triangles at borders and at edges sharper than
 * `featureAngleDegrees` do not count, since what is round them lies to one side.
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 */
export function bumpinessDegrees(positions: Float32Array, indices: Uint32Array, featureAngleDegrees: number): number {
  const { twin, placeOfIndex, places } = placeMesh(positions, indices)
  const normals = faceNormals(positions, indices)
  const areas = triangleAreas(positions, indices)
  const { starts, triangles } = trianglesAtPlaces(placeOfIndex, places.length / 3)
  const normalAt = (triangle: number): number[] => [normals[triangle * 3], normals[triangle * 3 + 1], normals[triangle * 3 + 2]]
  let sum = 0
  let weight = 0
  for (let triangle = 0; triangle < areas.length; triangle++) {
    const own = normalAt(triangle)
    const edges = [triangle * 3, triangle * 3 + 1, triangle * 3 + 2]
    if (areas[triangle] === 0 || edges.some((edge) => !hasTwin(twin, edge) || angleBetween(own, normalAt(Math.floor(twin[edge] / 3))) > featureAngleDegrees)) continue
    const mean = [0, 0, 0]
    const around = new Set(edges.flatMap((edge) => [...triangles.subarray(starts[placeOfIndex[edge]], Math.min(starts[placeOfIndex[edge] + 1], starts[placeOfIndex[edge]] + MOST_AROUND))]))
    around.delete(triangle)
    for (const other of around) {
      if (angleBetween(own, normalAt(other)) > featureAngleDegrees) continue
      for (let axis = 0; axis < 3; axis++) mean[axis] += normals[other * 3 + axis] * areas[other]
    }
    const length = Math.hypot(...mean)
    if (length === 0) continue
    sum += areas[triangle] * angleBetween(own, mean.map((value) => value / length))
    weight += areas[triangle]
  }
  return weight > 0 ? sum / weight : 0
}

/** The triangles at each place, as one flat list with starts. */
function trianglesAtPlaces(placeOfIndex: Uint32Array, placeCount: number): { starts: Uint32Array; triangles: Uint32Array } {
  const starts = new Uint32Array(placeCount + 1)
  for (const place of placeOfIndex) starts[place + 1]++
  for (let place = 0; place < placeCount; place++) starts[place + 1] += starts[place]
  const fill = starts.slice()
  const triangles = new Uint32Array(placeOfIndex.length)
  for (let index = 0; index < placeOfIndex.length; index++) triangles[fill[placeOfIndex[index]]++] = Math.floor(index / 3)
  return { starts, triangles }
}
