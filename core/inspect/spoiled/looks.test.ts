import { describe, it } from 'vitest'
import { agreeAbout, type Spoiler } from '../../test-support/spoiled/agree-about.ts'
import { iron, mapPath, rawDds, wood } from '../../test-support/spoiled/raw-pack.ts'
import {
  LOOK,
  text,
  colour,
  normal,
  mixed,
  rename,
  moveMap,
  word,
  secondLook,
  fiveMaterials,
} from '../../test-support/spoiled/file-changes.ts'

/** Looks and maps. */
const spoilers: readonly Spoiler[] = [
  [
    'a look that is not JSON',
    'refuses',
    (pack) => {
      pack.finish.push((files) => files.set(LOOK, text('look')))
    },
  ],
  [
    'a look that forgets a material',
    'refuses',
    (pack) => {
      delete pack.look.materials[iron]
    },
  ],
  [
    'a look with a material too many',
    'takes',
    (pack) => {
      pack.look.materials['keg_rope@rope'] = { shading: 'plain', maps: {} }
    },
  ],
  [
    'a shading that is not there',
    'refuses',
    (pack) => {
      pack.look.materials[iron].shading = 'velvet'
    },
  ],
  [
    'a shading without its map',
    'refuses',
    (pack) => {
      pack.look.materials[iron].maps = {}
    },
  ],
  [
    'a shading with a map it forbids',
    'refuses',
    (pack) => {
      pack.look.materials[wood].shading = 'plain'
    },
  ],
  [
    'a role that is not there',
    'refuses',
    (pack) => {
      pack.look.materials[iron].maps['gloss'] = colour
    },
  ],
  [
    'a map that is not in the pack',
    'refuses',
    (pack) => {
      pack.look.materials[iron].maps['colour'] = mapPath('keg_lost_col')
    },
  ],
  [
    'a map of the game’s own that is not there',
    'refuses',
    (pack) => {
      pack.look.materials[iron].maps['colour'] = 'stock/nothing_col.dds'
    },
  ],
  [
    'a normal map as colour',
    'refuses',
    (pack) => {
      pack.look.materials[iron].maps['colour'] = normal
    },
  ],
  [
    'the same map for two materials',
    'takes',
    (pack) => {
      pack.look.materials[iron].maps['colour'] = colour
      pack.maps.delete(mapPath('keg_iron_col'))
    },
  ],
  ['a surface that is not there', 'refuses', (pack) => rename(pack, iron, 'keg_iron@cheese')],
  ['a material without a tag', 'refuses', (pack) => rename(pack, iron, 'keg_iron')],
  ['a material with two tags', 'refuses', (pack) => rename(pack, iron, 'keg_iron@iron@stone')],
  ['a flag that is not there', 'refuses', (pack) => rename(pack, iron, 'keg_iron@iron.boht')],
  ['a flag that is there', 'takes', (pack) => rename(pack, iron, 'keg_iron@iron.both')],
  ['a material name that is not accepted', 'refuses', (pack) => rename(pack, iron, 'Keg Iron@iron')],
  ['a material without a name', 'refuses', (pack) => rename(pack, iron, '')],
  ['a second look that is right', 'takes', (pack) => secondLook(pack, () => undefined)],
  [
    'a second look that forgets a material',
    'refuses',
    (pack) =>
      secondLook(pack, (look) => {
        delete look.materials[wood]
      }),
  ],
  [
    'a second look without a map',
    'refuses',
    (pack) =>
      secondLook(pack, (look) => {
        look.materials[wood].maps = { colour }
      }),
  ],
  [
    'a second look of another shading',
    'takes',
    (pack) =>
      secondLook(pack, (look) => {
        look.materials[wood] = { shading: 'plain', maps: { colour } }
      }),
  ],
  [
    'a map name that is not accepted',
    'refuses',
    (pack) => moveMap(pack, mapPath('keg_iron_col'), mapPath('Keg-Iron_col')),
  ],
  [
    'a map name with another ending',
    'refuses',
    (pack) => moveMap(pack, mapPath('keg_iron_col'), mapPath('keg_iron_nrm')),
  ],
  [
    'a map that is a PNG',
    'refuses',
    (pack) => {
      pack.maps.set(colour, Uint8Array.from([137, 80, 78, 71, 13, 10, 26, 10, 0, 0, 0, 13]))
    },
  ],
  [
    'an empty map',
    'refuses',
    (pack) => {
      pack.maps.set(colour, new Uint8Array(0))
    },
  ],
  [
    'a map that is cut off',
    'refuses',
    (pack) => {
      pack.maps.set(colour, rawDds(16, 16, 99).subarray(0, 300))
    },
  ],
  [
    'a map with bytes after its end',
    'refuses',
    (pack) => {
      pack.maps.set(colour, Uint8Array.from([...rawDds(16, 16, 99), 1]))
    },
  ],
  ['a map that says one level more', 'refuses', (pack) => word(pack, colour, 28, 6)],
  [
    'a map without its small levels',
    'refuses',
    (pack) => {
      pack.maps.set(colour, rawDds(16, 16, 99, 1))
    },
  ],
  ['a map of no levels', 'refuses', (pack) => word(pack, colour, 28, 0)],
  ['a map of another header size', 'refuses', (pack) => word(pack, colour, 4, 100)],
  ['a map with the old header', 'refuses', (pack) => word(pack, colour, 84, 0x31545844)],
  ['a cube', 'refuses', (pack) => word(pack, colour, 136, 4)],
  ['a cube by its old flags', 'refuses', (pack) => word(pack, colour, 112, 0xfe00)],
  ['a volume', 'refuses', (pack) => word(pack, colour, 132, 4)],
  ['a volume by its old flags', 'refuses', (pack) => word(pack, colour, 112, 0x200000)],
  ['a row of textures', 'refuses', (pack) => word(pack, colour, 140, 6)],
  ['plain pixels', 'refuses', (pack) => word(pack, colour, 128, 28)],
  ['colour as numbers', 'complains', (pack) => word(pack, colour, 128, 98)],
  ['numbers as colour', 'complains', (pack) => word(pack, mixed, 128, 99)],
  [
    'a codec of another role',
    'refuses',
    (pack) => {
      pack.maps.set(normal, rawDds(16, 16, 98))
    },
  ],
  [
    'sides that are no powers of two',
    'refuses',
    (pack) => {
      pack.maps.set(colour, rawDds(24, 16, 99))
    },
  ],
  [
    'a map that is too large',
    'refuses',
    (pack) => {
      pack.maps.set(colour, rawDds(2048, 2048, 72))
    },
  ],
  [
    'a map that is too small',
    'refuses',
    (pack) => {
      pack.maps.set(colour, rawDds(2, 2, 99))
    },
  ],
  [
    'a map that is too long',
    'refuses',
    (pack) => {
      pack.maps.set(colour, rawDds(64, 8, 99))
    },
  ],
  [
    'more texture memory than there is',
    'refuses',
    (pack) => {
      for (let number = 0; number < 6; number++)
        secondLook(
          pack,
          (look) => {
            look.materials[iron].maps = { colour: mapPath(`keg_${'abcdef'[number]}_col`) }
          },
          `look_${'abcdef'[number]}`,
          () => pack.maps.set(mapPath(`keg_${'abcdef'[number]}_col`), rawDds(1024, 1024, 99)),
        )
    },
  ],
  ['five materials', 'refuses', (pack) => fiveMaterials(pack)],
]

describe('check and the loader about looks and maps', () => {
  it.each(spoilers)('agree about %s', agreeAbout)
})
