import type { Material } from '@gltf-transform/core'
import { z } from 'zod'
import { listUsedMaterials } from '../../item/parts.ts'
import { dropIngredients, materialMap, setMaterialMap } from '../../item/source-maps.ts'
import { foldIntoColour, type FoldedMaps } from '../../pictures/fold.ts'
import { resizePixels } from '../../pictures/resize.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import type { GameMapRole, IngredientRole } from '../../item/map-roles.ts'
import { baseNameOf, putPixels } from '../../operations/maps/map-pixels.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'

const share = z.number().min(0).max(1)
const parameters = z.object({
  occlusion: share,
  relief: share,
  shine: share,
  lightDegrees: z.number().min(0).max(360),
  heightDegrees: z.number().min(5).max(90),
})
type Parameters = z.infer<typeof parameters>

/** Paints into the colour what other maps say. */
export const foldMaps = defineStep<Parameters>({
  id: 'fold-maps',
  version: 1,
  stage: 'surface',
  pixelwise: true,
  title: 'Fold into colour',
  purpose:
    'Paints occlusion, relief and shine into the colour map, for games that read no other, each as strongly as you choose.',
  parameters,
  fields: () => [
    {
      type: 'number',
      key: 'occlusion',
      label: 'Occlusion',
      unit: '0 to 1',
      least: 0,
      most: 1,
      step: 0.05,
      slider: true,
    },
    { type: 'number', key: 'relief', label: 'Relief', unit: '0 to 1', least: 0, most: 1, step: 0.05, slider: true },
    { type: 'number', key: 'shine', label: 'Shine', unit: '0 to 1', least: 0, most: 1, step: 0.05, slider: true },
    {
      type: 'number',
      key: 'lightDegrees',
      label: 'Light from',
      unit: '°, 90 is the top',
      least: 0,
      most: 360,
      step: 5,
    },
    { type: 'number', key: 'heightDegrees', label: 'Light rises', unit: '°', least: 5, most: 90, step: 5 },
  ],
  defaults: () => ({ occlusion: 0.8, relief: 0.6, shine: 0.4, lightDegrees: 110, heightDegrees: 50 }),
  propose(context) {
    const readsMore = context.rulebook.maps.roles.some(({ role }) => role !== 'colour')
    const foldable = listUsedMaterials(context.document).filter(hasMore)
    if (readsMore || foldable.length === 0) return []
    return [
      {
        parameters: this.defaults(context) as Parameters,
        reason: `The game reads one colour map; ${plural(foldable.length, 'material')} ${foldable.length === 1 ? 'has' : 'have'} more.`,
      },
    ]
  },
  async run({ document, rulebook, parameters: strengths, progress }) {
    const materials = listUsedMaterials(document).filter(hasMore)
    const details: string[] = []
    for (const [number, material] of materials.entries()) {
      const name = baseNameOf(material, rulebook)
      await progress(number / materials.length, name)
      const texture = material.getBaseColorTexture()
      if (!texture) continue
      const colour = await texturePixels(texture)
      const maps = await foldedMaps(material, colour)
      putPixels(texture, foldIntoColour(colour, maps, strengths))
      setMaterialMap(document, material, 'normal', null)
      setMaterialMap(document, material, 'mixed', null)
      dropIngredients(document, material)
      details.push(
        `${name}: ${Object.entries(maps)
          .filter(([, map]) => map)
          .map(([role]) => role)
          .join(', ')} are in its colour now.`,
      )
    }
    return {
      headline: plural(details.length, 'material'),
      details: details.length > 0 ? details : ['No material has a colour map and others beside it.'],
      changed: details.length > 0,
    }
  },
})

const hasMore = (material: Material): boolean =>
  material.getBaseColorTexture() !== null &&
  (['normal', 'mixed', 'occlusion', 'roughness', 'gloss', 'metalness'] as const).some(
    (role) => materialMap(material, role) !== null,
  )

/** Channels of a mixed map as glTF has them: red occlusion, green roughness, blue metalness. */
async function foldedMaps(material: Material, { width, height }: Pixels): Promise<FoldedMaps> {
  const sized = async (role: GameMapRole | IngredientRole): Promise<Pixels | null> => {
    const texture = materialMap(material, role)
    return texture
      ? resizePixels(await texturePixels(texture), width, height, role === 'normal' ? 'normal' : 'data')
      : null
  }
  const mixed = await sized('mixed')
  const channel = async (
    role: IngredientRole,
    inMixed: number,
  ): Promise<{ picture: Pixels; channel: number } | null> => {
    const own = await sized(role)
    return own ? { picture: own, channel: 0 } : mixed ? { picture: mixed, channel: inMixed } : null
  }
  const gloss = await sized('gloss')
  const turned = gloss && { picture: { ...gloss, data: gloss.data.map((value) => 255 - value) }, channel: 0 }
  return {
    occlusion: await channel('occlusion', 0),
    normal: await sized('normal'),
    roughness: turned ?? (await channel('roughness', 1)),
    metalness: await channel('metalness', 2),
  }
}
