import { angleBetween, distanceBetween, hasTwin, nextEdge, placeMesh, previousEdge } from '../mesh/triangle-mesh.ts'
import { faceNormals } from '../mesh/pieces.ts'

/**
 * How much a surface dents back and forth, in degrees. At each place the bends over the edges that meet there are added
 * up twice: with their sign, as the surface really turns, and without. What the second sum has more than the first is
 * bending that takes itself back, and that is what light shows as dents; a surface that only bulges or only hollows has
 * none. The answer is the mean over all places, each edge weighted by its length; edges sharper than
 * `featureAngleDegrees` are part of the shape and left out. (After the discrete mean curvature of edges, as in
 * Cohen-Steiner and Morvan 2003.)
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 *
 * @example const gained = bumpinessDegrees(positions, before, 40) - bumpinessDegrees(positions, after, 40)
 */
export function bumpinessDegrees(positions: Float32Array, indices: Uint32Array, featureAngleDegrees: number): number {
  const { twin, placeOfIndex, places } = placeMesh(positions, indices)
  const normals = faceNormals(positions, indices)
  const count = places.length / 3
  const [signed, unsigned, weights] = [new Float64Array(count), new Float64Array(count), new Float64Array(count)]
  const normalAt = (triangle: number): number[] => [
    normals[triangle * 3],
    normals[triangle * 3 + 1],
    normals[triangle * 3 + 2],
  ]
  for (let edge = 0; edge < placeOfIndex.length; edge++) {
    if (!hasTwin(twin, edge) || twin[edge] < edge) continue
    const [own, other] = [normalAt(Math.floor(edge / 3)), normalAt(Math.floor(twin[edge] / 3))]
    const angle = angleBetween(own, other)
    if (angle > featureAngleDegrees) continue
    const [a, b] = [placeOfIndex[edge], placeOfIndex[nextEdge(edge)]]
    const beyond = placeOfIndex[previousEdge(twin[edge])]
    // The far corner of the neighbour lies under this triangle's plane where the surface bulges.
    const height = [0, 1, 2].reduce(
      (sum, axis) => sum + own[axis] * (places[beyond * 3 + axis] - places[a * 3 + axis]),
      0,
    )
    const bend = height < 0 ? angle : -angle
    const length = distanceBetween(places, a, b)
    for (const place of [a, b]) {
      signed[place] += bend * length
      unsigned[place] += angle * length
      weights[place] += length
    }
  }
  let sum = 0
  let counted = 0
  for (let place = 0; place < count; place++) {
    if (weights[place] === 0) continue
    sum += (unsigned[place] - Math.abs(signed[place])) / weights[place]
    counted++
  }
  return counted > 0 ? sum / counted : 0
}
