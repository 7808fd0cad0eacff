import type { Document, Material } from '@gltf-transform/core'
import { placeOfMap } from '../../item/material-meaning.ts'
import { accessorToFloats, readPrimitive } from '../../item/primitive-arrays.ts'
import { materialMap } from '../../item/source-maps.ts'
import { triangleAreas } from '../../geometry/surface/sample-surface.ts'
import { sampleWithEdges } from '../../pictures/sample.ts'
import { linearOfByte } from '../../pictures/srgb.ts'
import { texturePixels } from './texture-pixels.ts'
import { placedUvs, surfacesOfMaterial } from './unsettled.ts'

/**
 * The one colour (linear, 0 to 1) that a material shows taken over its surfaces: its picture, the colours of corners
 * and its own, each triangle counted by its area. Pixels that are cut out do not count.
 *
 * @example const [red, green, blue] = await averageColour(document, material)
 */
export async function averageColour(document: Document, material: Material): Promise<[number, number, number]> {
  const texture = materialMap(material, 'colour')
  const pixels = texture ? await texturePixels(texture) : null
  const place = placeOfMap(material, 'colour')
  const sum = [0, 0, 0]
  let weight = 0
  const pixel = new Float32Array(4)
  for (const surface of surfacesOfMaterial(document, material)) {
    const { positions, indices } = readPrimitive(surface)
    const areas = triangleAreas(positions, indices)
    const uvs = pixels ? placedUvs(surface, place) : null
    const accessor = surface.getAttribute('COLOR_0')
    const colours = accessor ? accessorToFloats(accessor) : null
    const size = accessor?.getElementSize() ?? 3
    for (let triangle = 0; triangle < areas.length; triangle++) {
      const corners = indices.subarray(triangle * 3, triangle * 3 + 3)
      for (const [a, b, c] of BARYCENTRIC) {
        const mixed = (values: Float32Array, width: number, axis: number): number =>
          values[corners[0] * width + axis] * a +
          values[corners[1] * width + axis] * b +
          values[corners[2] * width + axis] * c
        let share = areas[triangle]
        if (pixels && uvs) {
          sampleWithEdges(pixels, mixed(uvs, 2, 0), mixed(uvs, 2, 1), place.wrap, pixel)
          if (material.getAlphaMode() !== 'OPAQUE') share *= pixel[3] / 255
        }
        for (let axis = 0; axis < 3; axis++)
          sum[axis] +=
            share *
            (pixels && uvs ? linearOfByte[Math.round(pixel[axis])] : 1) *
            (colours ? mixed(colours, size, axis) : 1)
        weight += share
      }
    }
  }
  const factor = material.getBaseColorFactor()
  return [0, 1, 2].map((axis) => Math.min(1, Math.max(0, (weight > 0 ? sum[axis] / weight : 1) * factor[axis]))) as [
    number,
    number,
    number,
  ]
}

/** Where a triangle is looked at: near each of its corners and in its middle. */
const BARYCENTRIC: readonly (readonly [number, number, number])[] = [
  [2 / 3, 1 / 6, 1 / 6],
  [1 / 6, 2 / 3, 1 / 6],
  [1 / 6, 1 / 6, 2 / 3],
  [1 / 3, 1 / 3, 1 / 3],
]
