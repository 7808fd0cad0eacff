import { describe, it } from 'vitest'
import { agreeAbout, type Spoiler } from '../../test-support/spoiled/agree-about.ts'
import { ball } from '../../test-support/meshes.ts'
import { addMesh, NODE, primitiveOf } from '../../test-support/spoiled/raw-pack.ts'
import { node, asKind, hold, drop, solid, gateway } from '../../test-support/spoiled/mesh-changes.ts'

/** Levels, shadow meshes and solids. */
const spoilers: readonly Spoiler[] = [
  ['no first level', 'complains', (pack) => drop(pack, NODE.body, [NODE.bodyLevel1], NODE.lid, [NODE.lidLevel1])],
  ['no second level', 'complains', (pack) => drop(pack, NODE.body, [NODE.bodyLevel2], NODE.lid, [NODE.lidLevel2])],
  ['a part without its level', 'complains', (pack) => drop(pack, NODE.body, [NODE.bodyLevel1])],
  ['a small part without its level', 'complains', (pack) => drop(pack, NODE.lid, [NODE.lidLevel1])],
  [
    'a level in another material',
    'complains',
    (pack) => {
      primitiveOf(pack, NODE.bodyLevel1).material = 1
    },
  ],
  [
    'all levels in one material',
    'complains',
    (pack) => {
      primitiveOf(pack, NODE.lidLevel1).material = 0
    },
  ],
  [
    'a level as dense as the first',
    'complains',
    (pack) => {
      node(pack, NODE.bodyLevel1).mesh = node(pack, NODE.body).mesh
    },
  ],
  [
    'a level of another thing',
    'complains',
    (pack) => {
      node(pack, NODE.bodyLevel2).mesh = addMesh(pack, ball(0.5, 6, [0, 0.5, 0]), 0)
    },
  ],
  [
    'a level that stands elsewhere',
    'complains',
    (pack) => {
      node(pack, NODE.bodyLevel2)['translation'] = [3, 0, 0]
    },
  ],
  [
    'a level held by bones',
    'complains',
    (pack) => {
      hold(pack, 2, [1, 0, 0, 0])
      delete pack.gltf.nodes[NODE.lid]['skin']
      asKind(pack, 'bender')
    },
  ],
  [
    'a level beside its part',
    'refuses',
    (pack) => {
      drop(pack, NODE.body, [NODE.bodyLevel1])
      node(pack, NODE.root).children?.push(NODE.bodyLevel1)
      node(pack, NODE.bodyLevel1).name = 'body_l1'
      pack.entry['kind'] = 'loose'
    },
  ],
  [
    'a seventh level',
    'takes',
    (pack) => {
      pack.gltf.nodes.push({ name: 'body_l7', mesh: node(pack, NODE.bodyLevel2).mesh })
      node(pack, NODE.body).children?.push(pack.gltf.nodes.length - 1)
    },
  ],
  ['no shadow mesh', 'complains', (pack) => drop(pack, NODE.body, [NODE.bodyShadow], NODE.lid, [NODE.lidShadow])],
  [
    'a shadow mesh that is too dense',
    'complains',
    (pack) => {
      node(pack, NODE.bodyShadow).mesh = addMesh(pack, ball(2, 20, [0, 2, 0]), null)
    },
  ],
  ['a solid without surface', 'complains', (pack) => solid(pack, { surface: null })],
  ['a solid whose surface is a number', 'complains', (pack) => solid(pack, { surface: 3 })],
  [
    'a solid without facts',
    'complains',
    (pack) => {
      delete node(pack, NODE.solid).extras
    },
  ],
  ['a solid of a surface that is not there', 'refuses', (pack) => solid(pack, { surface: 'cheese' })],
  ['a solid on a layer that is not there', 'complains', (pack) => solid(pack, { layers: ['ground', 'celing'] })],
  ['a solid whose layers are one word', 'takes', (pack) => solid(pack, { layers: 'ground' })],
  [
    'a solid of a shape that is not there',
    'refuses',
    (pack) => {
      node(pack, NODE.solid).name = 'solid_cylinder_01'
    },
  ],
  [
    'a solid with a letter too few, drawn without a material',
    'refuses',
    (pack) => {
      node(pack, NODE.solid).name = 'solid_hul_01'
    },
  ],
  [
    'a solid with one digit, drawn in the body’s material',
    'complains',
    (pack) => {
      node(pack, NODE.solid).name = 'solid_hull_1'
      primitiveOf(pack, NODE.solid).material = 0
    },
  ],
  [
    'a hull with too many points',
    'refuses',
    (pack) => {
      node(pack, NODE.solid).mesh = addMesh(pack, ball(1.9, 9, [0, 2, 0]), null)
    },
  ],
  [
    'a solid beside the parts',
    'refuses',
    (pack) => {
      drop(pack, NODE.body, [NODE.solid])
      node(pack, NODE.root).children?.push(NODE.solid)
    },
  ],
  [
    'a solid far from its part',
    'complains',
    (pack) => {
      node(pack, NODE.solid)['translation'] = [0, 0, 60]
    },
  ],
  [
    'forty-nine solids',
    'refuses',
    (pack) => {
      for (let number = 2; number < 50; number++) {
        pack.gltf.nodes.push({
          name: `solid_hull_${String(number).padStart(2, '0')}`,
          mesh: node(pack, NODE.solid).mesh,
          extras: node(pack, NODE.solid).extras,
        })
        node(pack, NODE.body).children?.push(pack.gltf.nodes.length - 1)
      }
    },
  ],
  ['a wall across a way through', 'complains', (pack) => gateway(pack)],
  [
    'a loose thing without mass',
    'refuses',
    (pack) => {
      asKind(pack, 'loose')
    },
  ],
  [
    'a loose thing with a mass',
    'takes',
    (pack) => {
      asKind(pack, 'loose')
      solid(pack, { mass: 20 })
    },
  ],
  [
    'a loose thing that is too heavy',
    'refuses',
    (pack) => {
      asKind(pack, 'loose')
      solid(pack, { mass: 2000 })
    },
  ],
  [
    'a loose thing of less than no mass',
    'refuses',
    (pack) => {
      asKind(pack, 'loose')
      solid(pack, { mass: -5 })
    },
  ],
  [
    'solids of a kind without them',
    'refuses',
    (pack) => {
      asKind(pack, 'ground')
    },
  ],
]

describe('check and the loader about levels, shadows and solids', () => {
  it.each(spoilers)('agree about %s', agreeAbout)
})
