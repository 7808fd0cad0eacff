import { z } from 'zod'
import { encodePng } from '../texture/image-codecs.ts'
import { hasTransparency } from '../texture/pixels.ts'
import { nearestPowerOfTwo, resizePixels } from '../texture/resize.ts'
import type { Rulebook } from '../rulebook/schema.ts'
import { ddsMimeType } from '../texture/dds.ts'
import { defineStep, plural } from './step.ts'
import { meaningOf, textureFacts, texturePixels } from './texture-pixels.ts'

const parameters = z.object({ largestPixels: z.number().int().min(4).max(16384) })

/** Brings every texture to a size that the game takes. */
export const sizeMaps = defineStep<z.infer<typeof parameters>>({
  id: 'size-maps',
  version: 1,
  stage: 'surface',
  title: 'Size maps',
  purpose: 'Brings every texture to powers of two within the game’s limits; colour is averaged in linear light.',
  parameters,
  fields: ({ rulebook }) => [
    {
      type: 'choice',
      key: 'largestPixels',
      label: 'Longest side',
      options: powersBetween(rulebook.maps.smallestPixels, rulebook.maps.largestPixels).map((side) => ({ value: side, label: `${side} pixels` })),
    },
  ],
  defaults: ({ rulebook }) => ({ largestPixels: rulebook.maps.largestPixels }),
  propose({ document, rulebook }) {
    const { largestPixels } = rulebook.maps
    const wrong = document.getRoot().listTextures().filter((texture) => {
      const { width, height } = textureFacts(texture)
      const fitting = fittingSize(width, height, largestPixels, rulebook)
      return fitting.width !== width || fitting.height !== height
    })
    if (wrong.length === 0) return []
    const { width, height } = textureFacts(wrong[0])
    return [{ parameters: { largestPixels }, reason: `${wrong[0].getName()} is ${width} × ${height}; the game takes powers of two from ${rulebook.maps.smallestPixels} to ${largestPixels}.` }]
  },
  async run({ document, parameters: { largestPixels }, rulebook, progress }) {
    const textures = document.getRoot().listTextures()
    const details: string[] = []
    let sized = 0
    for (const [number, texture] of textures.entries()) {
      await progress(number / textures.length, texture.getName())
      const { width, height } = textureFacts(texture)
      const fitting = fittingSize(width, height, largestPixels, rulebook)
      if ((fitting.width === width && fitting.height === height) || texture.getMimeType() === ddsMimeType) continue
      const resized = resizePixels(await texturePixels(texture), fitting.width, fitting.height, meaningOf(texture))
      texture.setImage(encodePng(resized, hasTransparency(resized)) as Uint8Array<ArrayBuffer>).setMimeType('image/png')
      details.push(`${texture.getName()}: ${width} × ${height} became ${fitting.width} × ${fitting.height}.`)
      sized++
    }
    return { headline: plural(sized, 'map'), details: sized > 0 ? details : ['Every map already had a size the game takes.'], changed: sized > 0 }
  },
})

function powersBetween(smallest: number, largest: number): number[] {
  const powers: number[] = []
  for (let side = smallest; side <= largest; side *= 2) powers.push(side)
  return powers
}

/** The nearest size the game takes; the longer side gives way when the aspect would be too wide. */
export function fittingSize(width: number, height: number, longest: number, { maps }: Rulebook): { width: number; height: number } {
  const side = (length: number): number => (maps.powersOfTwo ? nearestPowerOfTwo(length, maps.smallestPixels, Math.min(longest, maps.largestPixels)) : Math.min(longest, length))
  const fitted = { width: side(width), height: side(height) }
  fitted.width = Math.min(fitted.width, fitted.height * maps.widestAspect)
  fitted.height = Math.min(fitted.height, fitted.width * maps.widestAspect)
  return fitted
}
