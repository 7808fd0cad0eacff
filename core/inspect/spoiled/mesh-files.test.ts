import { describe, it } from 'vitest'
import { agreeAbout, type Spoiler } from '../../test-support/spoiled/agree-about.ts'
import { NODE } from '../../test-support/spoiled/raw-pack.ts'
import { body, extension, header } from '../../test-support/spoiled/mesh-changes.ts'

/** The file as it lies: header, chunks, extensions, buffers. */
const spoilers: readonly Spoiler[] = [
  [
    'a mesh file longer than it says',
    'refuses',
    (pack) => {
      pack.finishMesh.push((glb) => Uint8Array.from([...glb, 0, 0, 0, 0]))
    },
  ],
  [
    'a mesh file that is cut off',
    'refuses',
    (pack) => {
      pack.finishMesh.push((glb) => glb.subarray(0, glb.length - 40))
    },
  ],
  [
    'an empty mesh file',
    'refuses',
    (pack) => {
      pack.finishMesh.push(() => new Uint8Array(0))
    },
  ],
  ['a mesh file of version 1', 'refuses', (pack) => header(pack, 4, 1)],
  ['a text chunk that is called otherwise', 'refuses', (pack) => header(pack, 16, 0x12345678)],
  ['a text chunk longer than the file', 'refuses', (pack) => header(pack, 12, 0x7fffffff)],
  [
    'glTF 1',
    'refuses',
    (pack) => {
      pack.gltf['asset'] = { version: '1.0' }
    },
  ],
  [
    'no word of its version',
    'refuses',
    (pack) => {
      delete pack.gltf['asset']
    },
  ],
  [
    'an extension that is needed',
    'refuses',
    (pack) => {
      pack.gltf['extensionsRequired'] = ['KHR_draco_mesh_compression']
    },
  ],
  [
    'an extension that is used alone',
    'takes',
    (pack) => {
      pack.gltf['extensionsUsed'] = ['KHR_materials_unlit']
    },
  ],
  ['instances left in', 'complains', (pack) => extension(pack, NODE.body, 'EXT_mesh_gpu_instancing')],
  ['lamps', 'complains', (pack) => extension(pack, NODE.body, 'KHR_lights_punctual')],
  [
    'squeezed triangles',
    'complains',
    (pack) => {
      body(pack)['extensions'] = { KHR_draco_mesh_compression: {} }
    },
  ],
  [
    'pictures',
    'refuses',
    (pack) => {
      pack.gltf['images'] = [{ uri: 'keg.png' }]
    },
  ],
  [
    'a buffer in another file',
    'refuses',
    (pack) => {
      pack.gltf.buffers = [{ byteLength: 4, uri: 'keg.bin' }]
    },
  ],
  [
    'a buffer longer than its chunk',
    'refuses',
    (pack) => {
      pack.gltf.buffers = [{ byteLength: pack.binary.length + 4 }]
    },
  ],
  [
    'two buffers',
    'refuses',
    (pack) => {
      pack.gltf.buffers = [{ byteLength: pack.binary.length }, { byteLength: 4 }]
    },
  ],
]

describe('check and the loader about a mesh file as it lies', () => {
  it.each(spoilers)('agree about %s', agreeAbout)
})
