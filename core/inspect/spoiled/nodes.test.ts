import { describe, it } from 'vitest'
import { agreeAbout, type Spoiler } from '../../test-support/spoiled/agree-about.ts'
import { NODE } from '../../test-support/spoiled/raw-pack.ts'
import { body, node } from '../../test-support/spoiled/mesh-changes.ts'

/** What is drawn, and the tree of nodes. */
const spoilers: readonly Spoiler[] = [
  [
    'lines',
    'refuses',
    (pack) => {
      body(pack).mode = 1
    },
  ],
  [
    'a strip',
    'refuses',
    (pack) => {
      body(pack).mode = 5
    },
  ],
  [
    'a mesh without surfaces',
    'refuses',
    (pack) => {
      pack.gltf.meshes[0].primitives = []
    },
  ],
  [
    'a mesh that is not there',
    'refuses',
    (pack) => {
      node(pack, NODE.lid).mesh = 99
    },
  ],
  [
    'a material that is not there',
    'refuses',
    (pack) => {
      body(pack).material = 9
    },
  ],
  [
    'a node that is not there',
    'refuses',
    (pack) => {
      node(pack, NODE.root).children?.push(99)
    },
  ],
  [
    'a node below itself',
    'refuses',
    (pack) => {
      node(pack, NODE.lidLevel1).children = [NODE.lid]
    },
  ],
  [
    'a node below two',
    'refuses',
    (pack) => {
      node(pack, NODE.lid).children?.push(NODE.bodyLevel1)
    },
  ],
  [
    'a scene that is not there',
    'refuses',
    (pack) => {
      pack.gltf.scene = 4
    },
  ],
  [
    'a node placed twice',
    'refuses',
    (pack) => {
      Object.assign(node(pack, NODE.lid), {
        matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1],
        translation: [0, 0, 0],
      })
    },
  ],
  [
    'a place beyond all numbers',
    'refuses',
    (pack) => {
      node(pack, NODE.lid)['translation'] = ['<huge>', 0, 0]
    },
  ],
  [
    'a scale that is no number',
    'refuses',
    (pack) => {
      node(pack, NODE.lid)['scale'] = [null, 1, 1]
    },
  ],
  [
    'a turn that is none',
    'refuses',
    (pack) => {
      node(pack, NODE.lid)['rotation'] = [0, 0, 0, 0]
    },
  ],
]

describe('check and the loader about meshes and nodes', () => {
  it.each(spoilers)('agree about %s', agreeAbout)
})
