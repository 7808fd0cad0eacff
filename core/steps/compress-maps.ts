import type { Texture } from '@gltf-transform/core'
import { z } from 'zod'
import { getTextureExtras, setTextureExtras } from '../document/extras.ts'
import { blockCodecs, type BlockCodec } from '../texture/block-codec.ts'
import { compressMap } from '../texture/compress.ts'
import { ddsMimeType } from '../texture/dds.ts'
import { hasTransparency } from '../texture/pixels.ts'
import type { MapRole, Rulebook } from '../rulebook/schema.ts'
import { defineStep, plural } from './step.ts'
import { meaningOf, textureFacts, textureMemory, texturePixels } from './texture-pixels.ts'

const codec = z.enum(blockCodecs)
const parameters = z.object({ colour: codec, normal: codec, mixed: codec })
type Parameters = z.infer<typeof parameters>

/** Compresses every map into blocks the card reads, with mipmaps, and measures what was lost. */
export const compressMaps = defineStep<Parameters>({
  id: 'compress-maps',
  version: 1,
  stage: 'surface',
  title: 'Compress maps',
  purpose: 'Makes mipmaps and block-compressed DDS files, reads them back and measures the loss.',
  parameters,
  fields: ({ rulebook }) =>
    rulebook.maps.roles.map((role) => ({
      type: 'choice',
      key: role.role,
      label: role.title,
      options: role.codecs.filter((each) => each !== 'none').map((each) => ({ value: each, label: each.toUpperCase() })),
    })),
  defaults: ({ rulebook }) => ({ colour: preferred(rulebook, 'colour', 'bc7'), normal: preferred(rulebook, 'normal', 'bc5'), mixed: preferred(rulebook, 'mixed', 'bc7') }),
  propose(context) {
    const raw = context.document.getRoot().listTextures().filter((texture) => texture.getMimeType() !== ddsMimeType)
    if (raw.length === 0) return []
    const memory = raw.reduce((sum, texture) => sum + textureMemory(textureFacts(texture)), 0)
    return [{ parameters: this.defaults(context) as Parameters, reason: `${plural(raw.length, 'map')} would take ${megabytes(memory)} as they are; the game reads DDS with all mipmaps.` }]
  },
  async run({ document, parameters: chosen, rulebook, progress }) {
    const textures = document.getRoot().listTextures().filter((texture) => texture.getMimeType() !== ddsMimeType)
    const details: string[] = []
    let before = 0
    let after = 0
    for (const [number, texture] of textures.entries()) {
      await progress(number / textures.length, texture.getName())
      const { role } = getTextureExtras(texture)
      const rule = rulebook.maps.roles.find((each) => each.role === role)
      if (!rule || role === 'other') {
        details.push(`${texture.getName()} has no role in this game and stays as it is.`)
        continue
      }
      before += textureMemory(textureFacts(texture))
      details.push(await compressTexture(texture, chosen[role], rule, rulebook))
      after += textureMemory(textureFacts(texture))
    }
    return { headline: before > 0 ? `−${megabytes(before - after)}` : 'none left', details: details.length > 0 ? details : ['Every map was compressed already.'], changed: before > 0 }
  },
})

async function compressTexture(texture: Texture, wanted: BlockCodec, rule: MapRole, rulebook: Rulebook): Promise<string> {
  const pixels = await texturePixels(texture)
  // BC1 keeps no opacity: a see-through map takes the role's preferred codec instead.
  const losesOpacity = wanted === 'bc1' && hasTransparency(pixels) && rule.preferred !== 'none'
  const codecUsed = losesOpacity ? (rule.preferred as BlockCodec) : wanted
  const made = await compressMap(pixels, { codec: codecUsed, meaning: meaningOf(texture), withMipmaps: rulebook.maps.mipmaps !== 'none' })
  texture.setImage(made.dds as Uint8Array<ArrayBuffer>).setMimeType(ddsMimeType)
  setTextureExtras(texture, { ...getTextureExtras(texture), quality: { codec: codecUsed, psnrDecibels: made.psnrDecibels, meanAngleDegrees: made.meanAngleDegrees } })
  const loss = made.meanAngleDegrees !== null ? `${made.meanAngleDegrees.toFixed(2)}° off on average` : made.psnrDecibels === null ? 'nothing lost' : `${made.psnrDecibels.toFixed(1)} dB`
  return `${texture.getName()}: ${codecUsed.toUpperCase()}${losesOpacity ? ' (it is see-through)' : ''}, ${plural(made.mipmaps, 'level')}, ${megabytes(made.dds.length)}, ${loss}.`
}

function preferred(rulebook: Rulebook, role: MapRole['role'], fallback: BlockCodec): BlockCodec {
  const wanted = rulebook.maps.roles.find((each) => each.role === role)?.preferred
  return blockCodecs.find((each) => each === wanted) ?? fallback
}

const megabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(1)} MB`
