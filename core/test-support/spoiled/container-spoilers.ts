import type { Spoiler } from './file-changes.ts'
import { addAccessor, NODE, wholeOf } from './raw-pack.ts'
import { body, node, extension, header } from './mesh-changes.ts'

/** The file as it lies: header, chunks, accessors, tree of nodes. */
export const containerSpoilers: readonly Spoiler[] = [
  [
    'a mesh file longer than it says',
    'refused',
    (pack) => {
      pack.finishMesh.push((glb) => Uint8Array.from([...glb, 0, 0, 0, 0]))
    },
  ],
  [
    'a mesh file that is cut off',
    'refused',
    (pack) => {
      pack.finishMesh.push((glb) => glb.subarray(0, glb.length - 40))
    },
  ],
  [
    'an empty mesh file',
    'refused',
    (pack) => {
      pack.finishMesh.push(() => new Uint8Array(0))
    },
  ],
  ['a mesh file of version 1', 'refused', (pack) => header(pack, 4, 1)],
  ['a text chunk that is called otherwise', 'refused', (pack) => header(pack, 16, 0x12345678)],
  ['a text chunk longer than the file', 'refused', (pack) => header(pack, 12, 0x7fffffff)],
  [
    'glTF 1',
    'refused',
    (pack) => {
      pack.gltf['asset'] = { version: '1.0' }
    },
  ],
  [
    'no word of its version',
    'refused',
    (pack) => {
      delete pack.gltf['asset']
    },
  ],
  [
    'an extension that is needed',
    'refused',
    (pack) => {
      pack.gltf['extensionsRequired'] = ['KHR_draco_mesh_compression']
    },
  ],
  [
    'an extension that is used alone',
    'silent',
    (pack) => {
      pack.gltf['extensionsUsed'] = ['KHR_materials_unlit']
    },
  ],
  ['instances left in', 'complaint', (pack) => extension(pack, NODE.body, 'EXT_mesh_gpu_instancing')],
  ['lamps', 'complaint', (pack) => extension(pack, NODE.body, 'KHR_lights_punctual')],
  [
    'squeezed triangles',
    'complaint',
    (pack) => {
      body(pack)['extensions'] = { KHR_draco_mesh_compression: {} }
    },
  ],
  [
    'pictures',
    'refused',
    (pack) => {
      pack.gltf['images'] = [{ uri: 'keg.png' }]
    },
  ],
  [
    'a buffer in another file',
    'refused',
    (pack) => {
      pack.gltf.buffers = [{ byteLength: 4, uri: 'keg.bin' }]
    },
  ],
  [
    'a buffer longer than its chunk',
    'refused',
    (pack) => {
      pack.gltf.buffers = [{ byteLength: pack.binary.length + 4 }]
    },
  ],
  [
    'two buffers',
    'refused',
    (pack) => {
      pack.gltf.buffers = [{ byteLength: pack.binary.length }, { byteLength: 4 }]
    },
  ],
  [
    'a view past the end',
    'refused',
    (pack) => {
      pack.gltf.bufferViews[0].byteLength = pack.binary.length + 64
    },
  ],
  [
    'an accessor past the end',
    'refused',
    (pack) => {
      pack.gltf.accessors[0].count += 1
    },
  ],
  [
    'an accessor of a billion',
    'refused',
    (pack) => {
      pack.gltf.accessors[0].count = 1e9
    },
  ],
  [
    'an accessor of none',
    'refused',
    (pack) => {
      pack.gltf.accessors[0].count = 0
    },
  ],
  [
    'an accessor off the grid',
    'refused',
    (pack) => {
      pack.gltf.accessors[0].byteOffset = 2
      pack.gltf.accessors[0].count -= 1
    },
  ],
  [
    'an accessor without a view',
    'refused',
    (pack) => {
      delete (pack.gltf.accessors[0] as { bufferView?: number }).bufferView
    },
  ],
  [
    'a sparse accessor',
    'refused',
    (pack) => {
      Object.assign(pack.gltf.accessors[0], { sparse: { count: 1 } })
    },
  ],
  [
    'places of two numbers',
    'refused',
    (pack) => {
      pack.gltf.accessors[0].type = 'VEC2'
    },
  ],
  [
    'places in whole numbers',
    'refused',
    (pack) => {
      pack.gltf.accessors[0].componentType = 5123
    },
  ],
  [
    'a view that is stepped too closely',
    'refused',
    (pack) => {
      pack.gltf.bufferViews[0].byteStride = 4
    },
  ],
  [
    'no places',
    'refused',
    (pack) => {
      delete body(pack).attributes['POSITION']
    },
  ],
  [
    'normals for fewer corners',
    'refused',
    (pack) => {
      pack.gltf.accessors[body(pack).attributes['NORMAL']].count -= 1
    },
  ],
  [
    'corners that are not there',
    'refused',
    (pack) => {
      wholeOf(pack, body(pack).indices ?? 0)[0] = 60_000
    },
  ],
  [
    'a triangle that is not whole',
    'refused',
    (pack) => {
      pack.gltf.accessors[body(pack).indices ?? 0].count -= 1
    },
  ],
  [
    'corner numbers that are floats',
    'refused',
    (pack) => {
      body(pack).indices = addAccessor(pack, new Float32Array([0, 1, 2]), 'SCALAR')
    },
  ],
  [
    'lines',
    'refused',
    (pack) => {
      body(pack).mode = 1
    },
  ],
  [
    'a strip',
    'refused',
    (pack) => {
      body(pack).mode = 5
    },
  ],
  [
    'a mesh without surfaces',
    'refused',
    (pack) => {
      pack.gltf.meshes[0].primitives = []
    },
  ],
  [
    'a mesh that is not there',
    'refused',
    (pack) => {
      node(pack, NODE.lid).mesh = 99
    },
  ],
  [
    'a material that is not there',
    'refused',
    (pack) => {
      body(pack).material = 9
    },
  ],
  [
    'a node that is not there',
    'refused',
    (pack) => {
      node(pack, NODE.root).children?.push(99)
    },
  ],
  [
    'a node below itself',
    'refused',
    (pack) => {
      node(pack, NODE.lidLevel1).children = [NODE.lid]
    },
  ],
  [
    'a node below two',
    'refused',
    (pack) => {
      node(pack, NODE.lid).children?.push(NODE.bodyLevel1)
    },
  ],
  [
    'a scene that is not there',
    'refused',
    (pack) => {
      pack.gltf.scene = 4
    },
  ],
  [
    'a node placed twice',
    'refused',
    (pack) => {
      Object.assign(node(pack, NODE.lid), {
        matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1],
        translation: [0, 0, 0],
      })
    },
  ],
  [
    'a place beyond all numbers',
    'refused',
    (pack) => {
      node(pack, NODE.lid)['translation'] = ['<huge>', 0, 0]
    },
  ],
  [
    'a scale that is no number',
    'refused',
    (pack) => {
      node(pack, NODE.lid)['scale'] = [null, 1, 1]
    },
  ],
  [
    'a turn that is none',
    'refused',
    (pack) => {
      node(pack, NODE.lid)['rotation'] = [0, 0, 0, 0]
    },
  ],
]
