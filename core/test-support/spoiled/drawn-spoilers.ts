import type { Spoiler } from './file-changes.ts'
import { addAccessor, NODE, primitiveOf, wholeOf } from './raw-pack.ts'
import { body, node } from './mesh-changes.ts'

/** Names, places, sizes and numbers of what is drawn. */
export const drawnSpoilers: readonly Spoiler[] = [
  [
    'names that are numbers',
    'refused',
    (pack) => {
      Object.assign(node(pack, NODE.lid), { name: 7 })
    },
  ],
  [
    'two roots',
    'refused',
    (pack) => {
      pack.gltf.nodes.push({ name: 'other' })
      pack.gltf.scenes[0].nodes.push(pack.gltf.nodes.length - 1)
    },
  ],
  [
    'no root',
    'refused',
    (pack) => {
      pack.gltf.scenes[0].nodes = []
    },
  ],
  [
    'a root that is moved',
    'refused',
    (pack) => {
      node(pack, NODE.root)['translation'] = [0, 1, 0]
    },
  ],
  [
    'a root that is turned',
    'refused',
    (pack) => {
      node(pack, NODE.root)['rotation'] = [0, 1, 0, 0]
    },
  ],
  [
    'a root with a mesh',
    'refused',
    (pack) => {
      node(pack, NODE.root).mesh = node(pack, NODE.lid).mesh
    },
  ],
  [
    'a root of another name',
    'silent',
    (pack) => {
      node(pack, NODE.root).name = 'barrel'
    },
  ],
  [
    'a root whose name is not accepted',
    'refused',
    (pack) => {
      node(pack, NODE.root).name = 'Keg'
    },
  ],
  [
    'a part whose name is not accepted',
    'refused',
    (pack) => {
      node(pack, NODE.lid).name = 'lid.001'
    },
  ],
  [
    'a part with a reserved name',
    'refused',
    (pack) => {
      node(pack, NODE.lid).name = 'con'
    },
  ],
  [
    'an empty without a name',
    'refused',
    (pack) => {
      pack.gltf.nodes.push({ name: '' })
      node(pack, NODE.root).children?.push(pack.gltf.nodes.length - 1)
    },
  ],
  [
    'two parts of one name',
    'refused',
    (pack) => {
      node(pack, NODE.lid).name = 'body'
    },
  ],
  [
    'nothing that is drawn',
    'refused',
    (pack) => {
      node(pack, NODE.root).children = []
    },
  ],
  [
    'too many triangles',
    'refused',
    (pack) => {
      const { indices } = body(pack)
      const many = wholeOf(pack, indices ?? 0)
      body(pack).indices = addAccessor(
        pack,
        Uint16Array.from({ length: many.length * 40 }, (_, at) => many[at % many.length]),
        'SCALAR',
      )
    },
  ],
  [
    'a part that is turned',
    'complaint',
    (pack) => {
      node(pack, NODE.lid)['rotation'] = [0, 0.7071068, 0, 0.7071068]
    },
  ],
  [
    'a part that is scaled',
    'complaint',
    (pack) => {
      node(pack, NODE.lid)['scale'] = [1, 1.5, 1]
    },
  ],
  [
    'a part that is turned by a matrix',
    'complaint',
    (pack) => {
      node(pack, NODE.lid)['matrix'] = [0, 0, -1, 0, 0, 1, 0, 0, 1, 0, 0, 0, 0, 0, 0, 1]
    },
  ],
  [
    'a part that is mirrored',
    'complaint',
    (pack) => {
      node(pack, NODE.lid)['scale'] = [-1, 1, 1]
    },
  ],
  [
    'a part that is moved',
    'silent',
    (pack) => {
      node(pack, NODE.lid)['translation'] = [0, 0.2, 0]
    },
  ],
  [
    'a part without normals',
    'complaint',
    (pack) => {
      delete body(pack).attributes['NORMAL']
    },
  ],
  [
    'a part without tangents',
    'complaint',
    (pack) => {
      delete body(pack).attributes['TANGENT']
    },
  ],
  [
    'a part without UVs',
    'refused',
    (pack) => {
      delete body(pack).attributes['TEXCOORD_0']
    },
  ],
  [
    'a level without UVs',
    'refused',
    (pack) => {
      delete primitiveOf(pack, NODE.bodyLevel1).attributes['TEXCOORD_0']
    },
  ],
  [
    'a level without normals',
    'silent',
    (pack) => {
      delete primitiveOf(pack, NODE.bodyLevel1).attributes['NORMAL']
    },
  ],
  [
    'a part without a material',
    'refused',
    (pack) => {
      delete primitiveOf(pack, NODE.lid).material
    },
  ],
  [
    'a level without a material',
    'refused',
    (pack) => {
      delete primitiveOf(pack, NODE.lidLevel1).material
    },
  ],
  [
    'a shadow in a material of its own',
    'refused',
    (pack) => {
      pack.gltf.materials.push({ name: 'shade@cloth' })
      primitiveOf(pack, NODE.bodyShadow).material = 2
    },
  ],
]
