import { EXTMeshoptCompression, KHRMeshQuantization } from '@gltf-transform/extensions'
import { meshopt } from '@gltf-transform/functions'
import { MeshoptEncoder } from 'meshoptimizer'
import { WebIO } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { getTextureExtras } from '../item/extras.ts'
import { materialMap } from '../item/source-maps.ts'
import { rawGlb, rawPng } from '../test-support/faithful/raw-files.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { surveyDocument } from './survey.ts'
import { read, sizeOf, firstSurface } from '../test-support/read-source.ts'

describe('glTF', () => {
  it('makes two of a picture that is read as colours and as numbers', async () => {
    const png = rawPng(2, 2, () => [200, 100, 50, 255])
    const glb = rawGlb(
      [
        { values: [0, 0, 0, 1, 0, 0, 0, 1, 0], type: 'VEC3' },
        { values: [0, 0, 1, 0, 0, 1], type: 'VEC2' },
      ],
      [png],
      {
        scenes: [{ nodes: [0] }],
        nodes: [{ mesh: 0, name: 'sheet' }],
        meshes: [{ primitives: [{ attributes: { POSITION: 0, TEXCOORD_0: 1 }, material: 0 }] }],
        textures: [{ source: 0 }],
        materials: [
          {
            name: 'felt',
            pbrMetallicRoughness: { baseColorTexture: { index: 0 }, metallicRoughnessTexture: { index: 0 } },
          },
        ],
      },
    )
    const [felt] = (await read('a.glb', glb)).getRoot().listMaterials()
    expect(
      [materialMap(felt, 'colour'), materialMap(felt, 'metal-rough')].map(
        (texture) => texture && getTextureExtras(texture).role,
      ),
    ).toEqual(['colour', 'metal-rough'])
  })

  it('shows colours at corners white underneath, with or without a material', async () => {
    const glb = rawGlb(
      [
        { values: [0, 0, 0, 1, 0, 0, 0, 1, 0], type: 'VEC3' },
        { values: [1, 0, 0, 1, 0, 1, 0, 1, 0, 0, 1, 1], type: 'VEC4' },
      ],
      [],
      {
        scenes: [{ nodes: [0] }],
        nodes: [{ mesh: 0, name: 'sheet' }],
        meshes: [{ primitives: [{ attributes: { POSITION: 0, COLOR_0: 1 } }] }],
      },
    )
    const document = await read('a.glb', glb)
    expect(firstSurface(document).getMaterial()?.getBaseColorFactor()).toEqual([1, 1, 1, 1])
  })
})

describe('packed glTF', () => {
  it('unpacks meshopt and quantised meshes to whole floats', async () => {
    await MeshoptEncoder.ready
    const document = documentOf({ ball: ball(2, 16) })
    await document.transform(meshopt({ encoder: MeshoptEncoder, level: 'medium' }))
    const io = new WebIO()
      .registerExtensions([EXTMeshoptCompression, KHRMeshQuantization])
      .registerDependencies({ 'meshopt.encoder': MeshoptEncoder })
    const packed = await read('a.glb', await io.writeBinary(document))
    expect(surveyDocument(packed).triangles).toBe(960)
    expect(sizeOf(packed).every((side) => Math.abs(side - 4) < 0.01)).toBe(true)
    expect(packed.getRoot().listExtensionsUsed()).toEqual([])
    expect(firstSurface(packed).getAttribute('POSITION')?.getArray()).toBeInstanceOf(Float32Array)
  })

  it('refuses glTF 1 by its name, in text and as GLB', async () => {
    await expect(
      read(
        'a.gltf',
        JSON.stringify({ asset: { version: '1.0' }, meshes: { m: {} }, accessors: {}, buffers: { b: {} } }),
      ),
    ).rejects.toThrow(/it is glTF 1\.0; glTF 2\.0 is read/)
    await expect(read('a.gltf', JSON.stringify({ asset: {}, meshes: { m: {} }, accessors: {} }))).rejects.toThrow(
      /it is glTF 1; glTF 2\.0 is read/,
    )
    const old = new Uint8Array(40)
    new DataView(old.buffer).setUint32(0, 0x46546c67, true)
    new DataView(old.buffer).setUint32(4, 1, true)
    await expect(read('a.glb', old)).rejects.toThrow(/it is glTF 1; glTF 2\.0 is read/)
  })
})
