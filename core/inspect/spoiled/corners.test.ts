import { describe, it } from 'vitest'
import { agreeAbout, type Spoiler } from '../../test-support/spoiled/agree-about.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { ball, turnedOver } from '../../test-support/meshes.ts'
import { addAccessor, addMesh, floatsOf, NODE, primitiveOf, wholeOf } from '../../test-support/spoiled/raw-pack.ts'
import { body, node, addPart, asKind, addClip, hold } from '../../test-support/spoiled/mesh-changes.ts'

/** Values at corners, materials, motion and bones of what is drawn. */
const spoilers: readonly Spoiler[] = [
  [
    'a place that is no number',
    'refuses',
    (pack) => {
      floatsOf(pack, body(pack).attributes['POSITION'])[7] = NaN
    },
  ],
  [
    'a normal that is no number',
    'refuses',
    (pack) => {
      floatsOf(pack, body(pack).attributes['NORMAL'])[7] = Infinity
    },
  ],
  [
    'a UV that is no number',
    'refuses',
    (pack) => {
      floatsOf(pack, body(pack).attributes['TEXCOORD_0'])[3] = NaN
    },
  ],
  [
    'a normal without length',
    'complains',
    (pack) => {
      floatsOf(pack, body(pack).attributes['NORMAL']).fill(0, 30, 33)
    },
  ],
  [
    'a normal twice as long',
    'complains',
    (pack) => {
      floatsOf(pack, body(pack).attributes['NORMAL']).set([0, 2, 0], 30)
    },
  ],
  [
    'a level’s normal without length',
    'complains',
    (pack) => {
      floatsOf(pack, primitiveOf(pack, NODE.bodyLevel2).attributes['NORMAL']).fill(0, 0, 3)
    },
  ],
  [
    'a tangent without hand',
    'complains',
    (pack) => {
      floatsOf(pack, body(pack).attributes['TANGENT'])[3] = 0
    },
  ],
  [
    'a tangent without length',
    'complains',
    (pack) => {
      floatsOf(pack, body(pack).attributes['TANGENT']).fill(0, 4, 7)
    },
  ],
  [
    'a surface of lines',
    'complains',
    (pack) => {
      pack.gltf.meshes[node(pack, NODE.lid).mesh ?? 0].primitives.push(
        pack.gltf.meshes[
          addMesh(
            pack,
            { positions: new Float32Array([0, 4, 0, 0.5, 4, 0, 1, 4, 0]), indices: new Uint32Array([0, 1, 2]) },
            1,
          )
        ].primitives[0],
      )
    },
  ],
  [
    'a surface of one point',
    'complains',
    (pack) => {
      pack.gltf.meshes[node(pack, NODE.lid).mesh ?? 0].primitives.push(
        pack.gltf.meshes[
          addMesh(pack, { positions: new Float32Array(9).fill(0.5), indices: new Uint32Array([0, 0, 0]) }, 1)
        ].primitives[0],
      )
    },
  ],
  ['a thin part', 'complains', (pack) => addPart(pack, 'wire', boxMesh({ min: [0, 0, 0], max: [0.001, 0.001, 3] }))],
  [
    'a giant',
    'complains',
    (pack) => {
      for (const mesh of pack.gltf.meshes)
        for (const { attributes } of mesh.primitives)
          floatsOf(pack, attributes['POSITION']).forEach((value, at, all) => {
            all[at] = value * 50
          })
    },
  ],
  [
    'a thing far from its origin',
    'complains',
    (pack) => {
      for (const mesh of pack.gltf.meshes)
        for (const { attributes } of mesh.primitives)
          floatsOf(pack, attributes['POSITION']).forEach((value, at, all) => {
            all[at] = value + (at % 3 === 0 ? 10_000 : 0)
          })
    },
  ],
  [
    'a ball inside out',
    'complains',
    (pack) => {
      wholeOf(pack, body(pack).indices ?? 0).reverse()
    },
  ],
  [
    'a ball mirrored by its node',
    'complains',
    (pack) => {
      node(pack, NODE.body)['scale'] = [1, 1, -1]
    },
  ],
  [
    'an open bowl',
    'complains',
    (pack) => {
      const indices = wholeOf(pack, body(pack).indices ?? 0)
      body(pack).indices = addAccessor(pack, indices.slice(0, indices.length / 2), 'SCALAR')
      node(pack, NODE.lid)['translation'] = [0, 3, 0]
    },
  ],
  [
    'a ball in a ball',
    'takes',
    (pack) => {
      addPart(pack, 'core', ball(1, 12, [0, 2, 0]))
    },
  ],
  [
    'a ball turned over in a ball',
    'takes',
    (pack) => {
      addPart(pack, 'core', turnedOver(ball(1, 12, [0, 2, 0])))
    },
  ],
  [
    'shapes to morph to',
    'complains',
    (pack) => {
      body(pack)['targets'] = [{ POSITION: body(pack).attributes['POSITION'] }]
    },
  ],
  ['a clip', 'complains', (pack) => addClip(pack, [0, 1])],
  ['a clip whose keys go back', 'refuses', (pack) => addClip(pack, [1, 0])],
  [
    'a clip for a mover',
    'takes',
    (pack) => {
      asKind(pack, 'mover')
      addClip(pack, [0, 1])
    },
  ],
  ['a clip of what is not there', 'refuses', (pack) => addClip(pack, [0, 1], 99)],
  ['bones of a thing that has none', 'complains', (pack) => hold(pack, 2, [1, 0, 0, 0])],
  [
    'bones that follow no part',
    'complains',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 2, [0.5, 0.5, 0, 0])
    },
  ],
  [
    'too many bones',
    'refuses',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 25, [1, 0, 0, 0])
    },
  ],
  [
    'weights that do not make 1',
    'complains',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 2, [0.5, 0.2, 0, 0])
    },
  ],
  [
    'weights of none',
    'complains',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 2, [0, 0, 0, 0])
    },
  ],
  [
    'a weight that is no number',
    'refuses',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 2, [NaN, 1, 0, 0])
    },
  ],
  [
    'a bone that is not there',
    'refuses',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 2, [1, 0, 0, 0])
      ;(pack.gltf['skins'] as { joints: number[] }[])[0].joints = [NODE.lid]
    },
  ],
  [
    'five bones a corner',
    'complains',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 8, [0.2, 0.2, 0.2, 0.2], 0.2)
    },
  ],
]

describe('check and the loader about what corners, clips and bones say', () => {
  it.each(spoilers)('agree about %s', agreeAbout)
})
