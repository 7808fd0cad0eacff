import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { ball, turnedOver } from '../meshes.ts'
import type { Spoiler } from './file-changes.ts'
import { addAccessor, addMesh, floatsOf, NODE, primitiveOf, wholeOf } from './raw-pack.ts'
import { body, node, addPart, asKind, addClip, hold } from './mesh-changes.ts'

/** Values at corners, materials, motion and bones of what is drawn. */
export const cornerSpoilers: readonly Spoiler[] = [
  [
    'a place that is no number',
    'refused',
    (pack) => {
      floatsOf(pack, body(pack).attributes['POSITION'])[7] = NaN
    },
  ],
  [
    'a normal that is no number',
    'refused',
    (pack) => {
      floatsOf(pack, body(pack).attributes['NORMAL'])[7] = Infinity
    },
  ],
  [
    'a UV that is no number',
    'refused',
    (pack) => {
      floatsOf(pack, body(pack).attributes['TEXCOORD_0'])[3] = NaN
    },
  ],
  [
    'a normal without length',
    'complaint',
    (pack) => {
      floatsOf(pack, body(pack).attributes['NORMAL']).fill(0, 30, 33)
    },
  ],
  [
    'a normal twice as long',
    'complaint',
    (pack) => {
      floatsOf(pack, body(pack).attributes['NORMAL']).set([0, 2, 0], 30)
    },
  ],
  [
    'a level’s normal without length',
    'complaint',
    (pack) => {
      floatsOf(pack, primitiveOf(pack, NODE.bodyLevel2).attributes['NORMAL']).fill(0, 0, 3)
    },
  ],
  [
    'a tangent without hand',
    'complaint',
    (pack) => {
      floatsOf(pack, body(pack).attributes['TANGENT'])[3] = 0
    },
  ],
  [
    'a tangent without length',
    'complaint',
    (pack) => {
      floatsOf(pack, body(pack).attributes['TANGENT']).fill(0, 4, 7)
    },
  ],
  [
    'a surface of lines',
    'complaint',
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
    'complaint',
    (pack) => {
      pack.gltf.meshes[node(pack, NODE.lid).mesh ?? 0].primitives.push(
        pack.gltf.meshes[
          addMesh(pack, { positions: new Float32Array(9).fill(0.5), indices: new Uint32Array([0, 0, 0]) }, 1)
        ].primitives[0],
      )
    },
  ],
  ['a thin part', 'complaint', (pack) => addPart(pack, 'wire', boxMesh({ min: [0, 0, 0], max: [0.001, 0.001, 3] }))],
  [
    'a giant',
    'complaint',
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
    'complaint',
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
    'complaint',
    (pack) => {
      wholeOf(pack, body(pack).indices ?? 0).reverse()
    },
  ],
  [
    'a ball mirrored by its node',
    'complaint',
    (pack) => {
      node(pack, NODE.body)['scale'] = [1, 1, -1]
    },
  ],
  [
    'an open bowl',
    'complaint',
    (pack) => {
      const indices = wholeOf(pack, body(pack).indices ?? 0)
      body(pack).indices = addAccessor(pack, indices.slice(0, indices.length / 2), 'SCALAR')
      node(pack, NODE.lid)['translation'] = [0, 3, 0]
    },
  ],
  [
    'a ball in a ball',
    'silent',
    (pack) => {
      addPart(pack, 'core', ball(1, 12, [0, 2, 0]))
    },
  ],
  [
    'a ball turned over in a ball',
    'silent',
    (pack) => {
      addPart(pack, 'core', turnedOver(ball(1, 12, [0, 2, 0])))
    },
  ],
  [
    'shapes to morph to',
    'complaint',
    (pack) => {
      body(pack)['targets'] = [{ POSITION: body(pack).attributes['POSITION'] }]
    },
  ],
  ['a clip', 'complaint', (pack) => addClip(pack, [0, 1])],
  ['a clip whose keys go back', 'refused', (pack) => addClip(pack, [1, 0])],
  [
    'a clip for a mover',
    'silent',
    (pack) => {
      asKind(pack, 'mover')
      addClip(pack, [0, 1])
    },
  ],
  ['a clip of what is not there', 'refused', (pack) => addClip(pack, [0, 1], 99)],
  ['bones of a thing that has none', 'complaint', (pack) => hold(pack, 2, [1, 0, 0, 0])],
  [
    'bones that follow no part',
    'complaint',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 2, [0.5, 0.5, 0, 0])
    },
  ],
  [
    'too many bones',
    'refused',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 25, [1, 0, 0, 0])
    },
  ],
  [
    'weights that do not make 1',
    'complaint',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 2, [0.5, 0.2, 0, 0])
    },
  ],
  [
    'weights of none',
    'complaint',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 2, [0, 0, 0, 0])
    },
  ],
  [
    'a weight that is no number',
    'refused',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 2, [NaN, 1, 0, 0])
    },
  ],
  [
    'a bone that is not there',
    'refused',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 2, [1, 0, 0, 0])
      ;(pack.gltf['skins'] as { joints: number[] }[])[0].joints = [NODE.lid]
    },
  ],
  [
    'five bones a corner',
    'complaint',
    (pack) => {
      asKind(pack, 'bender')
      hold(pack, 8, [0.2, 0.2, 0.2, 0.2], 0.2)
    },
  ],
]
