import type { Document, Texture } from '@gltf-transform/core'
import { z } from 'zod'
import { rawMimeType, writeRawPixels } from '../../pictures/formats/raw-pixels.ts'
import { isBlockCodec, levelBytes } from '../../pictures/codecs/block-codec.ts'
import { nearestPowerOfTwo, resizePixels } from '../../pictures/resize.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { ddsMimeType } from '../../pictures/codecs/dds.ts'
import { listShownMaps, texelsPerUnit } from '../../operations/maps/shown-maps.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'
import { meaningOf, textureFacts, texturePixels } from '../../operations/maps/texture-pixels.ts'

const parameters = z.object({
  largestPixels: z.number().int().min(4).max(16384),
  /** Textures that show the most texels a unit are made smaller until the item keeps within its memory. */
  shareMemory: z.boolean().default(true),
})
type Parameters = z.infer<typeof parameters>

/** Brings every texture to a size that the game takes. */
export const sizeMaps = defineStep<Parameters>({
  id: 'size-maps',
  version: 2,
  stage: 'surface',
  ofMaps: true,
  title: 'Size maps',
  purpose:
    'Brings every texture to powers of two within the game’s limits, and shares the memory by how finely each ' +
    'texture lies on what one sees.',
  parameters,
  fields: ({ rulebook }) => [
    {
      type: 'choice',
      key: 'largestPixels',
      label: 'Longest side',
      options: powersBetween(rulebook.maps.smallestPixels, rulebook.maps.largestPixels).map((side) => ({
        value: side,
        label: `${side} pixels`,
      })),
    },
    { type: 'toggle', key: 'shareMemory', label: 'Keep within the memory' },
  ],
  defaults: ({ rulebook }) => ({ largestPixels: rulebook.maps.largestPixels, shareMemory: true }),
  propose({ document, rulebook, kind }) {
    const { largestPixels } = rulebook.maps
    const wrong = listShownMaps(document, rulebook)
      .map(({ texture }) => texture)
      .filter((texture) => {
        const { width, height } = textureFacts(texture)
        const fitting = fittingSize(width, height, largestPixels, rulebook)
        return fitting.width !== width || fitting.height !== height
      })
    const planned = planSizes(document, { largestPixels, shareMemory: false }, rulebook, kind)
    const memory = planned.reduce((sum, each) => sum + each.bytes, 0)
    if (wrong.length === 0 && memory <= kind.textureMemoryBytes) return []
    const reasons: string[] = []
    if (wrong.length > 0) {
      const { width, height } = textureFacts(wrong[0])
      reasons.push(
        `${wrong[0].getName()} is ${width} × ${height}; the game takes powers of two from ` +
          `${rulebook.maps.smallestPixels} to ${largestPixels}`,
      )
    }
    if (memory > kind.textureMemoryBytes)
      reasons.push(`the maps would take ${megabytes(memory)} of ${megabytes(kind.textureMemoryBytes)}`)
    return [{ parameters: { largestPixels, shareMemory: true }, reason: `${reasons.join('; ')}.` }]
  },
  async run({ document, parameters: chosen, rulebook, kind, progress }) {
    const planned = planSizes(document, chosen, rulebook, kind)
    const details: string[] = []
    let sized = 0
    for (const [number, plan] of planned.entries()) {
      const { texture, width, height, density } = plan
      await progress(number / planned.length, texture.getName())
      const before = textureFacts(texture)
      const fine = density === null ? '' : `, ${formatDensity(density)} texels a ${rulebook.space.unit.name}`
      if (before.width === width && before.height === height) {
        details.push(`${texture.getName()}: ${width} × ${height}${fine}.`)
        continue
      }
      const resized = resizePixels(await texturePixels(texture), width, height, meaningOf(texture))
      texture.setImage(writeRawPixels(resized)).setMimeType(rawMimeType)
      details.push(`${texture.getName()}: ${before.width} × ${before.height} became ${width} × ${height}${fine}.`)
      sized++
    }
    return {
      headline: plural(sized, 'map'),
      details: details.length > 0 ? details : ['There is no map.'],
      changed: sized > 0,
    }
  },
})

interface PlannedSize {
  texture: Texture
  width: number
  height: number
  bytes: number
  /** Texels on one game unit; null where nothing shows the map. */
  density: number | null
}

/**
 * A size for each map that is not compressed yet: the nearest that the game takes; where they do not fit together, the
 * finest gives way first.
 */
function planSizes(
  document: Document,
  { largestPixels, shareMemory }: Parameters,
  rulebook: Rulebook,
  kind: Kind,
): PlannedSize[] {
  const plans = listShownMaps(document, rulebook)
    .filter(({ texture }) => texture.getMimeType() !== ddsMimeType)
    .map(({ texture, role }): PlannedSize & { codec: string } => {
      const facts = textureFacts(texture)
      const { width, height } = fittingSize(facts.width, facts.height, largestPixels, rulebook)
      const codec = role.preferred
      return {
        texture,
        width,
        height,
        codec,
        bytes: memoryOf(width, height, codec),
        density: texelsPerUnit(document, texture, width, height),
      }
    })
  const taken = listShownMaps(document, rulebook)
    .filter(({ texture }) => texture.getMimeType() === ddsMimeType)
    .reduce((sum, { texture }) => sum + textureFacts(texture).bytes, 0)
  while (shareMemory && taken + plans.reduce((sum, plan) => sum + plan.bytes, 0) > kind.textureMemoryBytes) {
    const room = plans.filter((plan) => Math.min(plan.width, plan.height) > rulebook.maps.smallestPixels)
    const finest = room.sort((a, b) => (b.density ?? Infinity) - (a.density ?? Infinity) || b.bytes - a.bytes)[0]
    if (!finest) break
    finest.width /= 2
    finest.height /= 2
    finest.density = finest.density === null ? null : finest.density / 2
    finest.bytes = memoryOf(finest.width, finest.height, finest.codec)
  }
  return plans
}

/** Bytes on the card with all mipmaps, which add a third. */
const memoryOf = (width: number, height: number, codec: string): number =>
  Math.round(((isBlockCodec(codec) ? levelBytes(codec, width, height) : width * height * 4) * 4) / 3)

const megabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(1)} MB`
const formatDensity = (density: number): string => (density < 10 ? density.toFixed(1) : String(Math.round(density)))

function powersBetween(smallest: number, largest: number): number[] {
  const powers: number[] = []
  for (let side = smallest; side <= largest; side *= 2) powers.push(side)
  return powers
}

/**
 * The nearest size the game takes; the longer side gives way when the aspect would be too wide.
 * @example const { width, height } = fittingSize(79, 256, 1024, rulebook)
 */
export function fittingSize(
  width: number,
  height: number,
  longest: number,
  { maps }: Rulebook,
): { width: number; height: number } {
  const side = (length: number): number =>
    maps.powersOfTwo
      ? nearestPowerOfTwo(length, maps.smallestPixels, Math.min(longest, maps.largestPixels))
      : Math.min(longest, length)
  const fitted = { width: side(width), height: side(height) }
  fitted.width = Math.min(fitted.width, fitted.height * maps.widestAspect)
  fitted.height = Math.min(fitted.height, fitted.width * maps.widestAspect)
  return fitted
}
