import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { materialMap } from '../../item/source-maps.ts'
import { documentOf } from '../../test-support/meshes.ts'
import { pictureOf } from '../../test-support/pictures.ts'
import { sheet } from '../../test-support/shapes.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { addTexture } from './map-pixels.ts'
import { texturePixels } from './texture-pixels.ts'

describe('Bake into one set', () => {
  /** Two sheets, one with a picture laid on twice across, one plain red and of metal. */
  function twoSheets(): Document {
    const document = documentOf({ board: sheet(4, 4), rail: sheet(4, 4) })
    const [first] = document.getRoot().listMaterials()
    const second = document
      .createMaterial('Rail')
      .setBaseColorFactor([1, 0, 0, 1])
      .setMetallicFactor(1)
      .setRoughnessFactor(0.5)
    first
      .setName('Board')
      .setMetallicFactor(0)
      .setRoughnessFactor(1)
      .setBaseColorTexture(
        addTexture(
          document,
          'halves',
          'colour',
          pictureOf(32, 32, (x) => (x < 16 ? [250, 250, 250] : [0, 90, 0])),
          'test',
        ),
      )
    listViewParts(document).forEach((part, index) => {
      const [primitive] = part.mesh.listPrimitives()
      const { positions } = readPrimitive(primitive)
      const uvs = document
        .createAccessor()
        .setType('VEC2')
        .setArray(
          Float32Array.from(
            { length: (positions.length / 3) * 2 },
            (_, at) => positions[Math.floor(at / 2) * 3 + (at % 2)] * 2,
          ),
        )
        .setBuffer(document.getRoot().listBuffers()[0])
      primitive.setAttribute('TEXCOORD_0', uvs).setMaterial(index === 0 ? first : second)
      part.node.setTranslation([index * 5, 0, 0])
    })
    return document
  }
  it('shows on every place of the surface what it showed before', async () => {
    const before = twoSheets()
    const { after, summary } = await runStep('bake-maps', before, {
      materials: ['Board', 'Rail'],
      name: 'one',
      sidePixels: 256,
      supersampling: 2,
    })
    expect(summary.headline).toBe('2 → 1')
    expect(listUsedMaterials(after).map((material) => material.getName())).toEqual(['one'])
    const colour = await texturePixels(materialMap(listUsedMaterials(after)[0], 'colour') as never)
    const mixed = await texturePixels(materialMap(listUsedMaterials(after)[0], 'packed:mixed') as never)
    let right = 0
    let looked = 0
    for (const [number, part] of listViewParts(after).entries()) {
      const { positions, uvs, indices } = readPrimitive(part.mesh.listPrimitives()[0])
      for (let at = 0; at < indices.length; at += 3) {
        // The middle of each triangle, well away from the edge between the picture's halves.
        const middle = (array: Float32Array, size: number, axis: number): number =>
          [0, 1, 2].reduce((sum, corner) => sum + array[indices[at + corner] * size + axis], 0) / 3
        const oldU = (middle(positions, 3, 0) * 2) % 1
        if (Math.abs(((oldU + 1) % 0.5) - 0.25) > 0.12) continue
        const pixel =
          (Math.floor(middle(uvs as Float32Array, 2, 1) * 256) * 256 +
            Math.floor(middle(uvs as Float32Array, 2, 0) * 256)) *
          4
        const wanted = number === 1 ? [255, 0, 0] : (oldU + 1) % 1 < 0.5 ? [250, 250, 250] : [0, 90, 0]
        looked++
        if (
          wanted.every((value, channel) => Math.abs(value - colour.data[pixel + channel]) < 12) &&
          Math.abs(mixed.data[pixel + 2] - number * 255) < 12
        )
          right++
      }
    }
    expect(looked).toBeGreaterThan(10)
    expect(right).toBe(looked)
  })
  it('bakes a normal map so that it points as before, on islands that lie otherwise', async () => {
    const document = twoSheets()
    const [first] = listUsedMaterials(document)
    // Everywhere leaning to the picture's right.
    first.setNormalTexture(
      addTexture(
        document,
        'lean',
        'normal',
        pictureOf(8, 8, () => [218, 128, 218]),
        'test',
      ),
    )
    const { after } = await runStep('bake-maps', document, {
      materials: ['Board', 'Rail'],
      name: 'one',
      sidePixels: 128,
      supersampling: 1,
    })
    const normal = await texturePixels(materialMap(listUsedMaterials(after)[0], 'normal') as never)
    const { positions, uvs, indices } = readPrimitive(listViewParts(after)[0].mesh.listPrimitives()[0])
    const [a, b, c] = [indices[0], indices[1], indices[2]]
    const texture = uvs as Float32Array
    const u = (texture[a * 2] + texture[b * 2] + texture[c * 2]) / 3
    const v = (texture[a * 2 + 1] + texture[b * 2 + 1] + texture[c * 2 + 1]) / 3
    const at = (Math.floor(v * 128) * 128 + Math.floor(u * 128)) * 4
    const [x, y] = [normal.data[at] / 127.5 - 1, normal.data[at + 1] / 127.5 - 1]
    // The new picture's right and up on the surface, from the triangle itself.
    const [du1, dv1, du2, dv2] = [
      texture[b * 2] - texture[a * 2],
      texture[b * 2 + 1] - texture[a * 2 + 1],
      texture[c * 2] - texture[a * 2],
      texture[c * 2 + 1] - texture[a * 2 + 1],
    ]
    const area = du1 * dv2 - du2 * dv1
    const edge = (corner: number, axis: number): number => positions[corner * 3 + axis] - positions[a * 3 + axis]
    const right = [0, 1].map((axis) => (edge(b, axis) * dv2 - edge(c, axis) * dv1) / area)
    const up = [0, 1].map((axis) => -(edge(c, axis) * du1 - edge(b, axis) * du2) / area)
    const length = (vector: number[]): number => Math.hypot(vector[0], vector[1])
    const inSpace = [0, 1].map((axis) => (x * right[axis]) / length(right) + (y * up[axis]) / length(up))
    expect(inSpace[0]).toBeCloseTo(0.71, 1)
    expect(Math.abs(inSpace[1])).toBeLessThan(0.08)
  })
})
