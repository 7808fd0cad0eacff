import { iron, mapPath, rawDds, wood } from './raw-pack.ts'
import {
  type Spoiler,
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
} from './file-changes.ts'

/** Looks and maps. */
export const lookSpoilers: readonly Spoiler[] = [
  [
    'a look that is not JSON',
    'refused',
    (pack) => {
      pack.finish.push((files) => files.set(LOOK, text('look')))
    },
  ],
  [
    'a look that forgets a material',
    'refused',
    (pack) => {
      delete pack.look.materials[iron]
    },
  ],
  [
    'a look with a material too many',
    'silent',
    (pack) => {
      pack.look.materials['keg_rope@rope'] = { shading: 'plain', maps: {} }
    },
  ],
  [
    'a shading that is not there',
    'refused',
    (pack) => {
      pack.look.materials[iron].shading = 'velvet'
    },
  ],
  [
    'a shading without its map',
    'refused',
    (pack) => {
      pack.look.materials[iron].maps = {}
    },
  ],
  [
    'a shading with a map it forbids',
    'refused',
    (pack) => {
      pack.look.materials[wood].shading = 'plain'
    },
  ],
  [
    'a role that is not there',
    'refused',
    (pack) => {
      pack.look.materials[iron].maps['gloss'] = colour
    },
  ],
  [
    'a map that is not in the pack',
    'refused',
    (pack) => {
      pack.look.materials[iron].maps['colour'] = mapPath('keg_lost_col')
    },
  ],
  [
    'a map of the game’s own that is not there',
    'refused',
    (pack) => {
      pack.look.materials[iron].maps['colour'] = 'stock/nothing_col.dds'
    },
  ],
  [
    'a normal map as colour',
    'refused',
    (pack) => {
      pack.look.materials[iron].maps['colour'] = normal
    },
  ],
  [
    'the same map for two materials',
    'silent',
    (pack) => {
      pack.look.materials[iron].maps['colour'] = colour
      pack.maps.delete(mapPath('keg_iron_col'))
    },
  ],
  ['a surface that is not there', 'refused', (pack) => rename(pack, iron, 'keg_iron@cheese')],
  ['a material without a tag', 'refused', (pack) => rename(pack, iron, 'keg_iron')],
  ['a material with two tags', 'refused', (pack) => rename(pack, iron, 'keg_iron@iron@stone')],
  ['a flag that is not there', 'refused', (pack) => rename(pack, iron, 'keg_iron@iron.boht')],
  ['a flag that is there', 'silent', (pack) => rename(pack, iron, 'keg_iron@iron.both')],
  ['a material name that is not accepted', 'refused', (pack) => rename(pack, iron, 'Keg Iron@iron')],
  ['a material without a name', 'refused', (pack) => rename(pack, iron, '')],
  ['a second look that is right', 'silent', (pack) => secondLook(pack, () => undefined)],
  [
    'a second look that forgets a material',
    'refused',
    (pack) =>
      secondLook(pack, (look) => {
        delete look.materials[wood]
      }),
  ],
  [
    'a second look without a map',
    'refused',
    (pack) =>
      secondLook(pack, (look) => {
        look.materials[wood].maps = { colour }
      }),
  ],
  [
    'a second look of another shading',
    'silent',
    (pack) =>
      secondLook(pack, (look) => {
        look.materials[wood] = { shading: 'plain', maps: { colour } }
      }),
  ],
  [
    'a map name that is not accepted',
    'refused',
    (pack) => moveMap(pack, mapPath('keg_iron_col'), mapPath('Keg-Iron_col')),
  ],
  [
    'a map name with another ending',
    'refused',
    (pack) => moveMap(pack, mapPath('keg_iron_col'), mapPath('keg_iron_nrm')),
  ],
  [
    'a map that is a PNG',
    'refused',
    (pack) => {
      pack.maps.set(colour, Uint8Array.from([137, 80, 78, 71, 13, 10, 26, 10, 0, 0, 0, 13]))
    },
  ],
  [
    'an empty map',
    'refused',
    (pack) => {
      pack.maps.set(colour, new Uint8Array(0))
    },
  ],
  [
    'a map that is cut off',
    'refused',
    (pack) => {
      pack.maps.set(colour, rawDds(16, 16, 99).subarray(0, 300))
    },
  ],
  [
    'a map with bytes after its end',
    'refused',
    (pack) => {
      pack.maps.set(colour, Uint8Array.from([...rawDds(16, 16, 99), 1]))
    },
  ],
  ['a map that says one level more', 'refused', (pack) => word(pack, colour, 28, 6)],
  [
    'a map without its small levels',
    'refused',
    (pack) => {
      pack.maps.set(colour, rawDds(16, 16, 99, 1))
    },
  ],
  ['a map of no levels', 'refused', (pack) => word(pack, colour, 28, 0)],
  ['a map of another header size', 'refused', (pack) => word(pack, colour, 4, 100)],
  ['a map with the old header', 'refused', (pack) => word(pack, colour, 84, 0x31545844)],
  ['a cube', 'refused', (pack) => word(pack, colour, 136, 4)],
  ['a cube by its old flags', 'refused', (pack) => word(pack, colour, 112, 0xfe00)],
  ['a volume', 'refused', (pack) => word(pack, colour, 132, 4)],
  ['a volume by its old flags', 'refused', (pack) => word(pack, colour, 112, 0x200000)],
  ['a row of textures', 'refused', (pack) => word(pack, colour, 140, 6)],
  ['plain pixels', 'refused', (pack) => word(pack, colour, 128, 28)],
  ['colour as numbers', 'complaint', (pack) => word(pack, colour, 128, 98)],
  ['numbers as colour', 'complaint', (pack) => word(pack, mixed, 128, 99)],
  [
    'a codec of another role',
    'refused',
    (pack) => {
      pack.maps.set(normal, rawDds(16, 16, 98))
    },
  ],
  [
    'sides that are no powers of two',
    'refused',
    (pack) => {
      pack.maps.set(colour, rawDds(24, 16, 99))
    },
  ],
  [
    'a map that is too large',
    'refused',
    (pack) => {
      pack.maps.set(colour, rawDds(2048, 2048, 72))
    },
  ],
  [
    'a map that is too small',
    'refused',
    (pack) => {
      pack.maps.set(colour, rawDds(2, 2, 99))
    },
  ],
  [
    'a map that is too long',
    'refused',
    (pack) => {
      pack.maps.set(colour, rawDds(64, 8, 99))
    },
  ],
  [
    'more texture memory than there is',
    'refused',
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
  ['five materials', 'refused', (pack) => fiveMaterials(pack)],
]
