import type { Material } from '@gltf-transform/core'
import { z } from 'zod'
import { listUsedMaterials } from '../../item/parts.ts'
import { listMaterialMaps, materialMap, setMaterialMap } from '../../item/source-maps.ts'
import { foldIntoColour, type FoldedMaps } from '../../pictures/fold.ts'
import { resizePixels } from '../../pictures/resize.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { isPackedRole } from '../../item/map-roles.ts'
import { surfaceQuantities, type MapRole } from '../../item/material-meaning.ts'
import { colourRole, packedChannel } from '../../game/map-roles.ts'
import type { Rulebook } from '../../game/schema.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import { putPixels } from '../../operations/maps/map-pixels.ts'
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
  version: 2,
  stage: 'surface',
  pixelwise: true,
  ofMaps: true,
  title: 'Fold into colour',
  purpose:
    'Paints occlusion, relief and shine into the colour map, for games that read no other, each as strongly as ' +
    'you choose.',
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
    const { rulebook } = context
    const readsMore = rulebook.maps.roles.some((role) => role !== colourRole(rulebook))
    const foldable = listUsedMaterials(context.document).filter(hasMore)
    if (readsMore || foldable.length === 0) return []
    return [
      {
        parameters: this.defaults(context) as Parameters,
        reason:
          `The game reads one colour map; ${plural(foldable.length, 'material')} ` +
          `${foldable.length === 1 ? 'has' : 'have'} more.`,
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
      const maps = await foldedMaps(material, colour, rulebook)
      putPixels(texture, foldIntoColour(colour, maps, strengths))
      for (const { role } of listMaterialMaps(material))
        if (role !== 'colour') setMaterialMap(document, material, role, null)
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
  listMaterialMaps(material).some(({ role }) => foldable.includes(role) || isPackedRole(role))

const foldable: readonly string[] = ['normal', 'metal-rough', 'orm', 'occlusion', 'roughness', 'gloss', 'metalness']

/**
 * What is folded into a colour map, each at its size: relief, and the channels that say the rest, whatever map they are
 * in.
 */
async function foldedMaps(material: Material, { width, height }: Pixels, rulebook: Rulebook): Promise<FoldedMaps> {
  const sized = async (role: MapRole): Promise<Pixels | null> => {
    const texture = materialMap(material, role)
    return texture
      ? resizePixels(await texturePixels(texture), width, height, role === 'normal' ? 'normal' : 'data')
      : null
  }
  const said = surfaceQuantities(material)
  const channel = async (
    meaning: 'occlusion' | 'roughness' | 'metalness',
  ): Promise<{ picture: Pixels; channel: number } | null> => {
    const packed = packedChannel(material, meaning, rulebook)
    const own = said[meaning].map
    const from = own ? { key: own.role, channel: own.channel, inverted: own.inverted } : packed
    const picture = from ? await sized(from.key) : null
    if (!from || !picture) return null
    return {
      picture: from.inverted ? { ...picture, data: picture.data.map((value) => 255 - value) } : picture,
      channel: from.channel,
    }
  }
  return {
    occlusion: await channel('occlusion'),
    normal: await sized('normal'),
    roughness: await channel('roughness'),
    metalness: await channel('metalness'),
  }
}
