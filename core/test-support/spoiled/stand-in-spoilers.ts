import { ball } from '../meshes.ts'
import type { Spoiler } from './file-changes.ts'
import { addMesh, NODE, primitiveOf } from './raw-pack.ts'
import { node, asKind, hold, drop, solid, gateway } from './mesh-changes.ts'

/** Levels, shadow meshes and solids. */
export const standInSpoilers: readonly Spoiler[] = [
  ['no first level', 'complaint', (pack) => drop(pack, NODE.body, [NODE.bodyLevel1], NODE.lid, [NODE.lidLevel1])],
  ['no second level', 'complaint', (pack) => drop(pack, NODE.body, [NODE.bodyLevel2], NODE.lid, [NODE.lidLevel2])],
  ['a part without its level', 'complaint', (pack) => drop(pack, NODE.body, [NODE.bodyLevel1])],
  ['a small part without its level', 'complaint', (pack) => drop(pack, NODE.lid, [NODE.lidLevel1])],
  [
    'a level in another material',
    'complaint',
    (pack) => {
      primitiveOf(pack, NODE.bodyLevel1).material = 1
    },
  ],
  [
    'all levels in one material',
    'complaint',
    (pack) => {
      primitiveOf(pack, NODE.lidLevel1).material = 0
    },
  ],
  [
    'a level as dense as the first',
    'complaint',
    (pack) => {
      node(pack, NODE.bodyLevel1).mesh = node(pack, NODE.body).mesh
    },
  ],
  [
    'a level of another thing',
    'complaint',
    (pack) => {
      node(pack, NODE.bodyLevel2).mesh = addMesh(pack, ball(0.5, 6, [0, 0.5, 0]), 0)
    },
  ],
  [
    'a level that stands elsewhere',
    'complaint',
    (pack) => {
      node(pack, NODE.bodyLevel2)['translation'] = [3, 0, 0]
    },
  ],
  [
    'a level held by bones',
    'complaint',
    (pack) => {
      hold(pack, 2, [1, 0, 0, 0])
      delete pack.gltf.nodes[NODE.lid]['skin']
      asKind(pack, 'bender')
    },
  ],
  [
    'a level beside its part',
    'refused',
    (pack) => {
      drop(pack, NODE.body, [NODE.bodyLevel1])
      node(pack, NODE.root).children?.push(NODE.bodyLevel1)
      node(pack, NODE.bodyLevel1).name = 'body_l1'
      pack.entry['kind'] = 'loose'
    },
  ],
  [
    'a seventh level',
    'silent',
    (pack) => {
      pack.gltf.nodes.push({ name: 'body_l7', mesh: node(pack, NODE.bodyLevel2).mesh })
      node(pack, NODE.body).children?.push(pack.gltf.nodes.length - 1)
    },
  ],
  ['no shadow mesh', 'complaint', (pack) => drop(pack, NODE.body, [NODE.bodyShadow], NODE.lid, [NODE.lidShadow])],
  [
    'a shadow mesh that is too dense',
    'complaint',
    (pack) => {
      node(pack, NODE.bodyShadow).mesh = addMesh(pack, ball(2, 20, [0, 2, 0]), null)
    },
  ],
  ['a solid without surface', 'complaint', (pack) => solid(pack, { surface: null })],
  ['a solid whose surface is a number', 'complaint', (pack) => solid(pack, { surface: 3 })],
  [
    'a solid without facts',
    'complaint',
    (pack) => {
      delete node(pack, NODE.solid).extras
    },
  ],
  ['a solid of a surface that is not there', 'refused', (pack) => solid(pack, { surface: 'cheese' })],
  ['a solid on a layer that is not there', 'complaint', (pack) => solid(pack, { layers: ['ground', 'celing'] })],
  ['a solid whose layers are one word', 'silent', (pack) => solid(pack, { layers: 'ground' })],
  [
    'a solid of a shape that is not there',
    'refused',
    (pack) => {
      node(pack, NODE.solid).name = 'solid_cylinder_01'
    },
  ],
  [
    'a solid with a letter too few, drawn without a material',
    'refused',
    (pack) => {
      node(pack, NODE.solid).name = 'solid_hul_01'
    },
  ],
  [
    'a solid with one digit, drawn in the body’s material',
    'complaint',
    (pack) => {
      node(pack, NODE.solid).name = 'solid_hull_1'
      primitiveOf(pack, NODE.solid).material = 0
    },
  ],
  [
    'a hull with too many points',
    'refused',
    (pack) => {
      node(pack, NODE.solid).mesh = addMesh(pack, ball(1.9, 9, [0, 2, 0]), null)
    },
  ],
  [
    'a solid beside the parts',
    'refused',
    (pack) => {
      drop(pack, NODE.body, [NODE.solid])
      node(pack, NODE.root).children?.push(NODE.solid)
    },
  ],
  [
    'a solid far from its part',
    'complaint',
    (pack) => {
      node(pack, NODE.solid)['translation'] = [0, 0, 60]
    },
  ],
  [
    'forty-nine solids',
    'refused',
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
  ['a wall across a way through', 'complaint', (pack) => gateway(pack)],
  [
    'a loose thing without mass',
    'refused',
    (pack) => {
      asKind(pack, 'loose')
    },
  ],
  [
    'a loose thing with a mass',
    'silent',
    (pack) => {
      asKind(pack, 'loose')
      solid(pack, { mass: 20 })
    },
  ],
  [
    'a loose thing that is too heavy',
    'refused',
    (pack) => {
      asKind(pack, 'loose')
      solid(pack, { mass: 2000 })
    },
  ],
  [
    'a loose thing of less than no mass',
    'refused',
    (pack) => {
      asKind(pack, 'loose')
      solid(pack, { mass: -5 })
    },
  ],
  [
    'solids of a kind without them',
    'refused',
    (pack) => {
      asKind(pack, 'ground')
    },
  ],
]
