import { describe, it } from 'vitest'
import { agreeAbout, type Spoiler } from '../../test-support/spoiled/agree-about.ts'
import { body } from '../../test-support/spoiled/mesh-changes.ts'
import { addAccessor, wholeOf } from '../../test-support/spoiled/raw-pack.ts'

/** Where numbers lie in a mesh file, and of what sort they are. */
const spoilers: readonly Spoiler[] = [
  [
    'a view past the end',
    'refuses',
    (pack) => {
      pack.gltf.bufferViews[0].byteLength = pack.binary.length + 64
    },
  ],
  [
    'an accessor past the end',
    'refuses',
    (pack) => {
      pack.gltf.accessors[0].count += 1
    },
  ],
  [
    'an accessor of a billion',
    'refuses',
    (pack) => {
      pack.gltf.accessors[0].count = 1e9
    },
  ],
  [
    'an accessor of none',
    'refuses',
    (pack) => {
      pack.gltf.accessors[0].count = 0
    },
  ],
  [
    'an accessor off the grid',
    'refuses',
    (pack) => {
      pack.gltf.accessors[0].byteOffset = 2
      pack.gltf.accessors[0].count -= 1
    },
  ],
  [
    'an accessor without a view',
    'refuses',
    (pack) => {
      delete (pack.gltf.accessors[0] as { bufferView?: number }).bufferView
    },
  ],
  [
    'a sparse accessor',
    'refuses',
    (pack) => {
      Object.assign(pack.gltf.accessors[0], { sparse: { count: 1 } })
    },
  ],
  [
    'places of two numbers',
    'refuses',
    (pack) => {
      pack.gltf.accessors[0].type = 'VEC2'
    },
  ],
  [
    'places in whole numbers',
    'refuses',
    (pack) => {
      pack.gltf.accessors[0].componentType = 5123
    },
  ],
  [
    'a view that is stepped too closely',
    'refuses',
    (pack) => {
      pack.gltf.bufferViews[0].byteStride = 4
    },
  ],
  [
    'no places',
    'refuses',
    (pack) => {
      delete body(pack).attributes['POSITION']
    },
  ],
  [
    'normals for fewer corners',
    'refuses',
    (pack) => {
      pack.gltf.accessors[body(pack).attributes['NORMAL']].count -= 1
    },
  ],
  [
    'corners that are not there',
    'refuses',
    (pack) => {
      wholeOf(pack, body(pack).indices ?? 0)[0] = 60_000
    },
  ],
  [
    'a triangle that is not whole',
    'refuses',
    (pack) => {
      pack.gltf.accessors[body(pack).indices ?? 0].count -= 1
    },
  ],
  [
    'corner numbers that are floats',
    'refuses',
    (pack) => {
      body(pack).indices = addAccessor(pack, new Float32Array([0, 1, 2]), 'SCALAR')
    },
  ],
]

describe('check and the loader about views and accessors', () => {
  it.each(spoilers)('agree about %s', agreeAbout)
})
