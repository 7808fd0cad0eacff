import { colourRole } from '../../game/map-roles.ts'
import { z } from 'zod'
import { addLook, FIRST_LOOK, listLooks } from '../../item/looks.ts'
import { listUsedMaterials } from '../../item/parts.ts'
import { cleanName, cleanTextureName, uniqueName, joinedName } from '../../game/clean-name.ts'
import { blendModes, recolour, type Recolouring } from '../../pictures/recolour.ts'
import { resizePixels } from '../../pictures/resize.ts'
import { pictureByName, pictureNames } from '../../operations/maps/item-pictures.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import { addTexture, materialByBase, materialOptions } from '../../operations/maps/map-pixels.ts'
import { bytesOfHex } from '../../pictures/srgb.ts'
import { materialInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { plural } from '../../support/wording.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'

export const variantSchema = z.object({
  /** Name of the look. */
  name: z.string().min(1).max(40),
  hueDegrees: z.number().min(-180).max(180),
  saturation: z.number().min(-1).max(2),
  lightness: z.number().min(-1).max(1),
  /** A colour that is laid over; strength 0 lays none. */
  colour: z.string().regex(/^#[0-9a-f]{6}$/i),
  mode: z.enum(blendModes),
  strength: z.number().min(0).max(1),
})
export type LookVariant = z.infer<typeof variantSchema>

export const hueRangeSchema = z.object({
  /** Middle of the range on the hue circle. */
  hueDegrees: z.number().min(0).max(360),
  reachDegrees: z.number().min(1).max(180),
})

const parameters = z.object({
  material: materialInItem,
  variants: z.array(variantSchema).max(32),
  /** Which hues change; none given means all. */
  hues: z.array(hueRangeSchema).max(12),
  greyChroma: z.number().min(0).max(0.4),
  /** A picture whose bright places stay as they are; empty for none. */
  protect: z.string().max(400),
})
type Parameters = z.infer<typeof parameters>

/** Makes further looks from one colour map. */
export const recolourLooks = defineStep<Parameters>({
  id: 'recolour-looks',
  version: 3,
  stage: 'surface',
  pixelwise: true,
  title: 'Recolour',
  purpose:
    'Makes looks from one colour map: hues shifted or a colour laid over, greys and a painted mask kept; every ' +
    'model and level of the item gets them.',
  parameters,
  fields: ({ document, rulebook, images }) => [
    { type: 'choice', key: 'material', label: 'Material', options: materialOptions(document, rulebook) },
    {
      type: 'variants',
      key: 'variants',
      label: 'Looks',
      modes: [
        { value: 'tint', label: 'Tint' },
        { value: 'multiply', label: 'Multiply' },
        { value: 'screen', label: 'Screen' },
        { value: 'overlay', label: 'Overlay' },
        { value: 'soft-light', label: 'Soft light' },
      ],
    },
    { type: 'hues', key: 'hues', label: 'Hues that change' },
    { type: 'number', key: 'greyChroma', label: 'Greys below', unit: 'chroma stay', least: 0, most: 0.4, step: 0.01 },
    {
      type: 'choice',
      key: 'protect',
      label: 'Keep where bright',
      options: [
        { value: '', label: 'Nothing' },
        ...pictureNames(document, images).map((name) => ({ value: name, label: name })),
      ],
    },
  ],
  defaults: ({ document, rulebook }) => ({
    material: listUsedMaterials(document).map((material) => baseNameOf(material, rulebook))[0] ?? '',
    variants: startingVariants,
    hues: [],
    greyChroma: 0.02,
    protect: '',
  }),
  propose: () => [],
  async run({ document, rulebook, images, parameters: how, progress }) {
    const material = materialByBase(document, rulebook, how.material)
    const texture = material?.getBaseColorTexture()
    if (!material || !texture) return gonePart(how.material)
    const pixels = await texturePixels(texture)
    const protect =
      how.protect === ''
        ? null
        : resizePixels(await pictureByName(how.protect, document, images), pixels.width, pixels.height, 'data')
    const ending = colourRole(rulebook)?.ending ?? ''
    const details: string[] = []
    for (const [number, variant] of how.variants.entries()) {
      await progress(number / how.variants.length, variant.name)
      const look = cleanName(rulebook, variant.name, 'look')
      if (look === FIRST_LOOK || listLooks(document).includes(look)) {
        details.push(`There is a look “${look}” already; give “${variant.name}” another name.`)
        continue
      }
      const made = recolour(pixels, recolouringOf(variant, how), protect)
      const copy = material.clone().setName(joinedName(rulebook, how.material, look))
      const name = uniqueName(
        rulebook,
        cleanTextureName(rulebook, joinedName(rulebook, how.material, look), ending, 'map'),
        new Set(
          document
            .getRoot()
            .listTextures()
            .map((each) => each.getName()),
        ),
        ending,
      )
      copy.setBaseColorTexture(addTexture(document, name, 'colour', made, 'recoloured'))
      addLook(document, look, new Map([[material, copy]]))
      details.push(`${look}: ${name}, ${made.width} × ${made.height}.`)
    }
    const looks = listLooks(document).length
    return { headline: plural(looks, 'look'), details, changed: looks > 1 }
  },
})

const startingVariants: LookVariant[] = [
  { name: 'blue', hueDegrees: 0, saturation: 0, lightness: 0, colour: '#2f5f9e', mode: 'tint', strength: 1 },
  { name: 'red', hueDegrees: 0, saturation: 0, lightness: 0, colour: '#a8342c', mode: 'tint', strength: 1 },
]

/** What a variant does to pixels. */
export function recolouringOf(
  variant: LookVariant,
  { hues, greyChroma }: Pick<Parameters, 'hues' | 'greyChroma'>,
): Recolouring {
  return {
    ranges: hues,
    greyChroma,
    hueDegrees: variant.hueDegrees,
    saturation: variant.saturation,
    lightness: variant.lightness,
    lay:
      variant.strength > 0
        ? { colour: bytesOfHex(variant.colour), mode: variant.mode, strength: variant.strength }
        : null,
  }
}
