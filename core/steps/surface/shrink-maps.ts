import type { Document, Texture } from '@gltf-transform/core'
import { z } from 'zod'
import { rawMimeType, writeRawPixels } from '../../pictures/formats/raw-pixels.ts'
import { ddsMimeType } from '../../pictures/codecs/dds.ts'
import { resizePixels } from '../../pictures/resize.ts'
import { meaningOf, textureFacts, texturePixels } from '../../operations/maps/texture-pixels.ts'
import { formatCount, plural } from '../../support/wording.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({ largestPixels: z.number().int().min(4).max(16384) })

/** Brings pictures that are far larger than the game takes down to that, before anything else is done with them. */
export const shrinkMaps = defineStep<z.infer<typeof parameters>>({
  id: 'shrink-maps',
  version: 1,
  stage: 'surface',
  ofMaps: true,
  title: 'Shrink maps',
  purpose:
    'Makes pictures that are far larger than the game takes smaller, so that every step after it works on a ' +
    'fraction of the pixels.',
  parameters,
  fields: ({ rulebook }) => [
    {
      type: 'number',
      key: 'largestPixels',
      label: 'Longest side',
      unit: 'pixels',
      least: rulebook.maps.smallestPixels,
      most: 16384,
      step: 1,
    },
  ],
  defaults: ({ rulebook }) => ({ largestPixels: rulebook.maps.largestPixels }),
  propose({ document, rulebook }) {
    const large = tooLarge(document, rulebook.maps.largestPixels).filter(
      ({ longest }) => longest >= FAR_LARGER * rulebook.maps.largestPixels,
    )
    if (large.length === 0) return []
    const [{ texture, longest }] = large
    return [
      {
        parameters: { largestPixels: rulebook.maps.largestPixels },
        reason:
          `${plural(large.length, 'map is', 'maps are')} far larger than the ` +
          `${formatCount(rulebook.maps.largestPixels)} pixels that the game takes: ${texture.getName() || 'one'} ` +
          `has ${formatCount(longest)}.`,
      },
    ]
  },
  async run({ document, parameters: { largestPixels }, progress }) {
    const large = tooLarge(document, largestPixels)
    const details: string[] = []
    for (const [number, { texture, longest }] of large.entries()) {
      await progress(number / large.length, texture.getName())
      const pixels = await texturePixels(texture)
      const [width, height] = [pixels.width, pixels.height].map((side) =>
        Math.max(1, Math.round((side * largestPixels) / longest)),
      )
      texture.setImage(writeRawPixels(resizePixels(pixels, width, height, meaningOf(texture)))).setMimeType(rawMimeType)
      details.push(`${texture.getName()}: ${pixels.width} × ${pixels.height} became ${width} × ${height}.`)
    }
    return {
      headline: plural(large.length, 'map'),
      details: details.length > 0 ? details : ['No map is larger than that.'],
      changed: large.length > 0,
    }
  },
})

/** Those that are only a little larger are sized once, at the end, which is kinder to them. */
const FAR_LARGER = 2

function tooLarge(document: Document, largestPixels: number): { texture: Texture; longest: number }[] {
  return document
    .getRoot()
    .listTextures()
    .filter((texture) => texture.getImage() !== null && texture.getMimeType() !== ddsMimeType)
    .map((texture) => {
      const { width, height } = textureFacts(texture)
      return { texture, longest: Math.max(width, height) }
    })
    .filter(({ longest }) => longest > largestPixels)
}
