import { describe, it } from 'vitest'
import { agreeAbout, type Spoiler } from '../../test-support/spoiled/agree-about.ts'
import { addAccessor, NODE, primitiveOf, wholeOf } from '../../test-support/spoiled/raw-pack.ts'
import { body, node } from '../../test-support/spoiled/mesh-changes.ts'

/** Names, places, sizes and numbers of what is drawn. */
const spoilers: readonly Spoiler[] = [
  [
    'names that are numbers',
    'refuses',
    (pack) => {
      Object.assign(node(pack, NODE.lid), { name: 7 })
    },
  ],
  [
    'two roots',
    'refuses',
    (pack) => {
      pack.gltf.nodes.push({ name: 'other' })
      pack.gltf.scenes[0].nodes.push(pack.gltf.nodes.length - 1)
    },
  ],
  [
    'no root',
    'refuses',
    (pack) => {
      pack.gltf.scenes[0].nodes = []
    },
  ],
  [
    'a root that is moved',
    'refuses',
    (pack) => {
      node(pack, NODE.root)['translation'] = [0, 1, 0]
    },
  ],
  [
    'a root that is turned',
    'refuses',
    (pack) => {
      node(pack, NODE.root)['rotation'] = [0, 1, 0, 0]
    },
  ],
  [
    'a root with a mesh',
    'refuses',
    (pack) => {
      node(pack, NODE.root).mesh = node(pack, NODE.lid).mesh
    },
  ],
  [
    'a root of another name',
    'takes',
    (pack) => {
      node(pack, NODE.root).name = 'barrel'
    },
  ],
  [
    'a root whose name is not accepted',
    'refuses',
    (pack) => {
      node(pack, NODE.root).name = 'Keg'
    },
  ],
  [
    'a part whose name is not accepted',
    'refuses',
    (pack) => {
      node(pack, NODE.lid).name = 'lid.001'
    },
  ],
  [
    'a part with a reserved name',
    'refuses',
    (pack) => {
      node(pack, NODE.lid).name = 'con'
    },
  ],
  [
    'an empty without a name',
    'refuses',
    (pack) => {
      pack.gltf.nodes.push({ name: '' })
      node(pack, NODE.root).children?.push(pack.gltf.nodes.length - 1)
    },
  ],
  [
    'two parts of one name',
    'refuses',
    (pack) => {
      node(pack, NODE.lid).name = 'body'
    },
  ],
  [
    'nothing that is drawn',
    'refuses',
    (pack) => {
      node(pack, NODE.root).children = []
    },
  ],
  [
    'too many triangles',
    'refuses',
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
    'complains',
    (pack) => {
      node(pack, NODE.lid)['rotation'] = [0, 0.7071068, 0, 0.7071068]
    },
  ],
  [
    'a part that is scaled',
    'complains',
    (pack) => {
      node(pack, NODE.lid)['scale'] = [1, 1.5, 1]
    },
  ],
  [
    'a part that is turned by a matrix',
    'complains',
    (pack) => {
      node(pack, NODE.lid)['matrix'] = [0, 0, -1, 0, 0, 1, 0, 0, 1, 0, 0, 0, 0, 0, 0, 1]
    },
  ],
  [
    'a part that is mirrored',
    'complains',
    (pack) => {
      node(pack, NODE.lid)['scale'] = [-1, 1, 1]
    },
  ],
  [
    'a part that is moved',
    'takes',
    (pack) => {
      node(pack, NODE.lid)['translation'] = [0, 0.2, 0]
    },
  ],
  [
    'a part without normals',
    'complains',
    (pack) => {
      delete body(pack).attributes['NORMAL']
    },
  ],
  [
    'a part without tangents',
    'complains',
    (pack) => {
      delete body(pack).attributes['TANGENT']
    },
  ],
  [
    'a part without UVs',
    'refuses',
    (pack) => {
      delete body(pack).attributes['TEXCOORD_0']
    },
  ],
  [
    'a level without UVs',
    'refuses',
    (pack) => {
      delete primitiveOf(pack, NODE.bodyLevel1).attributes['TEXCOORD_0']
    },
  ],
  [
    'a level without normals',
    'takes',
    (pack) => {
      delete primitiveOf(pack, NODE.bodyLevel1).attributes['NORMAL']
    },
  ],
  [
    'a part without a material',
    'refuses',
    (pack) => {
      delete primitiveOf(pack, NODE.lid).material
    },
  ],
  [
    'a level without a material',
    'refuses',
    (pack) => {
      delete primitiveOf(pack, NODE.lidLevel1).material
    },
  ],
  [
    'a shadow in a material of its own',
    'refuses',
    (pack) => {
      pack.gltf.materials.push({ name: 'shade@cloth' })
      primitiveOf(pack, NODE.bodyShadow).material = 2
    },
  ],
]

describe('check and the loader about what is drawn', () => {
  it.each(spoilers)('agree about %s', agreeAbout)
})
