import { getMaterialExtras, setMaterialExtras } from '../../item/extras.ts'
import { itemScene } from '../../item/parts.ts'
import { listShadowParts } from '../../item/annotations/shadow/list.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { partBounds } from '../../item/measure.ts'
import { soupMesh } from '../../operations/meshes/derived-meshes.ts'
import { encodePng } from '../../pictures/image-codecs.ts'
import {
  type RuleSpoiler,
  part,
  surface,
  stone,
  solid,
  plainPixels,
  withDds,
  renameAll,
  retag,
  moveOut,
  alterSolid,
} from './item-changes.ts'

/** Names, textures, materials, solids and what else a part stands for. */
export const nameSpoilers: readonly RuleSpoiler[] = [
  {
    rule: 'shadow-missing',
    severity: 'risky',
    spoil: ({ document }) => {
      for (const shadow of listShadowParts(document)) shadow.node.dispose()
    },
  },
  {
    rule: 'shadow-too-dense',
    severity: 'risky',
    spoil: ({ rulebook }) => {
      rulebook.levels.shadow.mostShare = 0.05
    },
  },
  {
    rule: 'name-form',
    severity: 'blocks',
    spoil: ({ document }) => {
      stone(document).setName('Gate Stone')
    },
  },
  {
    rule: 'name-repeats',
    severity: 'blocks',
    spoil: ({ document }) => {
      part(document, 'hinge_pins').node.setName('arch_stone')
    },
  },
  {
    rule: 'texture-ending',
    severity: 'blocks',
    spoil: ({ document }) => {
      stone(document).getBaseColorTexture()?.setName('gate_stone_colour')
    },
  },
  {
    rule: 'material-path-map',
    severity: 'blocks',
    spoil: ({ document, rulebook }) => {
      rulebook.materials.naming = { form: 'path', ofRole: 'colour', longest: 200 }
      stone(document).setBaseColorTexture(null)
    },
  },
  {
    rule: 'material-path-long',
    severity: 'blocks',
    spoil: ({ rulebook }) => {
      rulebook.materials.naming = { form: 'path', ofRole: 'colour', longest: 20 }
    },
  },
  {
    rule: 'material-count',
    severity: 'blocks',
    spoil: ({ rulebook }) => {
      rulebook.materials.largestCount = 2
    },
  },
  {
    rule: 'material-missing',
    severity: 'blocks',
    spoil: ({ document }) => {
      surface(document, 'hinge_pins').setMaterial(null)
    },
  },
  {
    rule: 'material-tag',
    severity: 'blocks',
    spoil: ({ document }) => {
      retag(stone(document), undefined)
    },
  },
  {
    rule: 'material-surface',
    severity: 'blocks',
    spoil: ({ document }) => {
      retag(stone(document), { surface: 'cheese', flags: [] })
    },
  },
  {
    rule: 'material-flag',
    severity: 'blocks',
    spoil: ({ document }) => {
      retag(stone(document), { surface: 'stone', flags: ['bothh'] })
    },
  },
  {
    rule: 'map-missing',
    severity: 'blocks',
    spoil: ({ document }) => {
      stone(document).setBaseColorTexture(null)
    },
  },
  {
    rule: 'map-forbidden',
    severity: 'blocks',
    spoil: ({ document }) => {
      setMaterialExtras(stone(document), { ...getMaterialExtras(stone(document)), shadingModel: 'flat' })
    },
  },
  {
    rule: 'texture-missing',
    severity: 'blocks',
    spoil: ({ document }) => {
      setMaterialExtras(stone(document).setBaseColorTexture(null), {
        references: [{ role: 'colour', path: 'lost.png', found: null }],
      })
    },
  },
  {
    rule: 'stock-texture',
    severity: 'blocks',
    spoil: ({ document }) => {
      setMaterialExtras(stone(document).setBaseColorTexture(null), {
        references: [{ role: 'colour', path: 'x.png', found: null, stock: 'stock/not_there_col.dds' }],
      })
    },
  },
  {
    rule: 'texture-memory',
    severity: 'blocks',
    spoil: ({ kind }) => {
      kind.textureMemoryBytes = 100_000
    },
  },
  {
    rule: 'texture-power-of-two',
    severity: 'blocks',
    spoil: ({ document }) => withDds(stone(document).getBaseColorTexture(), 96, 64, true),
  },
  {
    rule: 'texture-size',
    severity: 'blocks',
    spoil: ({ rulebook }) => {
      rulebook.maps.largestPixels = 512
    },
  },
  {
    rule: 'texture-aspect',
    severity: 'blocks',
    spoil: ({ document }) => withDds(stone(document).getBaseColorTexture(), 64, 8, true),
  },
  {
    rule: 'texture-format',
    severity: 'blocks',
    spoil: ({ document }) => {
      stone(document)
        .getBaseColorTexture()
        ?.setImage(encodePng(plainPixels(64, 64), false) as Uint8Array<ArrayBuffer>)
        .setMimeType('image/png')
    },
  },
  {
    rule: 'texture-codec',
    severity: 'blocks',
    spoil: ({ rulebook }) => {
      rulebook.maps.roles[0].codecs = ['bc3']
    },
  },
  {
    rule: 'texture-space',
    severity: 'risky',
    spoil: ({ document }) => {
      const texture = stone(document).getBaseColorTexture()
      const image = (texture?.getImage() ?? new Uint8Array(0)).slice()
      // BC7 in numbers, where it was BC7 in sRGB.
      new DataView(image.buffer).setUint32(128, 98, true)
      texture?.setImage(image)
    },
  },
  {
    rule: 'texture-mipmaps',
    severity: 'blocks',
    spoil: ({ document }) => withDds(stone(document).getBaseColorTexture(), 64, 64, false),
  },
  {
    rule: 'solid-missing',
    severity: 'blocks',
    spoil: ({ document }) => {
      for (const each of listSolids(document)) each.node.dispose()
    },
  },
  {
    rule: 'solid-count',
    severity: 'blocks',
    spoil: ({ rulebook }) => {
      rulebook.solids.mostPerItem = 2
    },
  },
  {
    rule: 'solid-name',
    severity: 'blocks',
    spoil: ({ document }) => {
      solid(document, 'mesh').node.setName('solid_mesch_01')
    },
  },
  {
    rule: 'solid-place',
    severity: 'blocks',
    spoil: ({ document }) => {
      itemScene(document).addChild(moveOut(solid(document, 'mesh')))
    },
  },
  {
    rule: 'solid-shape',
    severity: 'blocks',
    spoil: ({ kind }) => {
      if (kind.solids) kind.solids.shapes = ['box', 'hull']
    },
  },
  {
    rule: 'hull-points',
    severity: 'blocks',
    spoil: ({ rulebook }) => {
      rulebook.solids.hullPoints = 8
    },
  },
  {
    rule: 'solid-not-read',
    severity: 'risky',
    spoil: ({ document }) => alterSolid(solid(document, 'hull'), { surface: null }),
  },
  {
    rule: 'solid-surface',
    severity: 'blocks',
    spoil: ({ document }) => alterSolid(solid(document, 'hull'), { surface: 'cheese' }),
  },
  {
    rule: 'solid-layer',
    severity: 'risky',
    spoil: ({ document }) => alterSolid(solid(document, 'hull'), { layers: ['ground', 'celing'] }),
  },
  {
    rule: 'solid-near-name',
    severity: 'risky',
    spoil: ({ document }) => renameAll(part(document, 'hinge_pins'), 'solid_bx_01'),
  },
  {
    rule: 'opening-closed',
    severity: 'risky',
    spoil: ({ document }) => {
      const arch = solid(document, 'mesh')
      arch.node.setMesh(soupMesh(document, arch.name, boxMesh(partBounds(arch)))).setTranslation([0, 0, 0])
    },
  },
  {
    rule: 'solid-mass',
    severity: 'blocks',
    spoil: ({ document, kind }) => {
      if (kind.solids) kind.solids.massKilograms = { least: 1, most: 5 }
      alterSolid(solid(document, 'hull'), { massKilograms: 50 })
    },
  },
]
