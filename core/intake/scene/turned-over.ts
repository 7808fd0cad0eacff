import type { SourceFaces } from './source-scene.ts'

/**
 * The same faces seen from the other side: each outline backward, with everything that its corners carry. Normals stay.
 *
 * @example const drawn = isMirrored ? turnedOver(faces) : faces
 */
export function turnedOver(faces: SourceFaces): SourceFaces {
  const from = new Uint32Array(faces.corners.length)
  let first = 0
  for (let polygon = 0; polygon < faces.polygonSizes.length; polygon++) {
    const size = faces.polygonSizes[polygon]
    for (let place = 0; place < size; place++) from[first + place] = first + size - 1 - place
    first += size
  }
  const gather = (array: Float32Array, size: number): Float32Array =>
    array.map((_, at) => array[from[Math.floor(at / size)] * size + (at % size)])
  return {
    ...faces,
    corners: Uint32Array.from(from, (corner) => faces.corners[corner]),
    normals: faces.normals && gather(faces.normals, 3),
    uvs: faces.uvs.map((uvs) => gather(uvs, 2)),
    colours: faces.colours && gather(faces.colours, 4),
  }
}
