import { colourRole } from '../../game/map-roles.ts'
import { readsBlocks } from '../../game/formats.ts'
import { z } from 'zod'
import { getTextureExtras, setTextureExtras } from '../../item/extras.ts'
import { blockCodecs, type BlockCodec } from '../../pictures/codecs/block-codec.ts'
import { compressPicture } from '../../operations/maps/compressed-picture.ts'
import { ddsMimeType, fullMipmapCount } from '../../pictures/codecs/dds.ts'
import { opacityKind } from '../../pictures/opacity.ts'
import { hasTransparency } from '../../pictures/pixels.ts'
import type { MapRole, Rulebook } from '../../game/schema.ts'
import { listShownMaps, type ShownMap } from '../../operations/maps/shown-maps.ts'
import { defineStep } from '../step.ts'
import { PlainError } from '../../support/plain-error.ts'
import { plural } from '../../support/wording.ts'
import { meaningOf, textureFacts, textureMemory, texturePixels } from '../../operations/maps/texture-pixels.ts'

const codec = z.enum(blockCodecs)
/** A codec for each role of the game, by the role’s name. */
const parameters = z.record(z.string().max(64), codec)
type Parameters = z.infer<typeof parameters>

/** Compresses every map into blocks the card reads, with mipmaps, and measures what was lost. */
export const compressMaps = defineStep<Parameters>({
  id: 'compress-maps',
  version: 4,
  stage: 'surface',
  ofMaps: true,
  title: 'Compress maps',
  purpose: 'Makes mipmaps and blocks that the card reads, reads them back and measures the loss.',
  parameters,
  fields: ({ rulebook }) =>
    rulebook.maps.roles.map((role) => ({
      type: 'choice',
      key: role.role,
      label: role.title,
      options: role.codecs
        .filter((each) => each !== 'none')
        .map((each) => ({ value: each, label: each.toUpperCase() })),
    })),
  defaults: ({ rulebook }) => preferredCodecs(rulebook),
  propose(context) {
    if (!readsBlocks(context.rulebook)) return []
    const raw = listShownMaps(context.document, context.rulebook)
      .filter((map) => !isAsRead(map, context.rulebook))
      .map(({ texture }) => texture)
    if (raw.length === 0) return []
    const memory = raw.reduce((sum, texture) => sum + textureMemory(textureFacts(texture)), 0)
    return [
      {
        parameters: this.defaults(context) as Parameters,
        reason:
          `${plural(raw.length, 'map')} would take ${megabytes(memory)} as they are; the game reads ` +
          `${context.rulebook.files.texture.writer.toUpperCase()} with ` +
          `${context.rulebook.maps.mipmaps === 'none' ? 'no' : 'all'} mipmaps.`,
      },
    ]
  },
  async run({ document, parameters: chosen, rulebook, progress }) {
    const maps = listShownMaps(document, rulebook).filter((map) => !isAsRead(map, rulebook))
    const details: string[] = []
    let before = 0
    let after = 0
    for (const [number, map] of maps.entries()) {
      await progress(number / maps.length, map.texture.getName())
      before += textureMemory(textureFacts(map.texture))
      details.push(await compressTexture(map, codecFor(map.role, chosen), rulebook))
      after += textureMemory(textureFacts(map.texture))
    }
    return {
      headline: before > 0 ? `−${megabytes(before - after)}` : 'none left',
      details: details.length > 0 ? details : ['Every map was compressed already.'],
      changed: before > 0,
    }
  },
})

/** Whether a map is in blocks as the game reads them: what came out of another game's pack may be in others. */
function isAsRead({ texture, role }: ShownMap, { maps }: Rulebook): boolean {
  const { format, codec, srgb, width, height, mipmaps } = textureFacts(texture)
  return (
    format === 'dds' &&
    (codec === null || role.codecs.some((each) => each === codec)) &&
    (srgb === null || srgb === (role.colourSpace === 'srgb')) &&
    (maps.mipmaps !== 'all' || mipmaps >= fullMipmapCount(width, height))
  )
}

async function compressTexture(
  { texture, role, materials }: ShownMap,
  wanted: BlockCodec,
  rulebook: Rulebook,
): Promise<string> {
  const image = texture.getImage()
  if (!image) throw new PlainError('it has no picture', texture.getName(), 'Point to its file.')
  const pixels = await texturePixels(texture)
  const isColour = role === colourRole(rulebook)
  const cut = isColour && materials.some((material) => material.getAlphaMode() === 'MASK')
  // BC1 keeps one bit of opacity: enough where the game cuts; what is blended takes the role's preferred codec instead.
  const losesOpacity = wanted === 'bc1' && !cut && hasTransparency(pixels) && role.preferred !== 'none'
  const codecUsed = losesOpacity ? (role.preferred as BlockCodec) : wanted
  const made = await compressPicture(image, pixels, {
    codec: codecUsed,
    meaning: meaningOf(texture),
    withMipmaps: rulebook.maps.mipmaps !== 'none',
    cut,
  })
  texture.setImage(made.dds as Uint8Array<ArrayBuffer>).setMimeType(ddsMimeType)
  const { psnrDecibels, meanAngleDegrees, worstBlock } = made
  setTextureExtras(texture, {
    ...getTextureExtras(texture),
    ...(isColour ? { opacity: opacityKind(pixels) } : {}),
    quality: { codec: codecUsed, psnrDecibels, meanAngleDegrees, worstBlock },
  })
  const loss =
    meanAngleDegrees !== null
      ? `${meanAngleDegrees.toFixed(2)}° off on average`
      : psnrDecibels === null
        ? 'nothing lost'
        : `${psnrDecibels.toFixed(1)} dB, ` +
          `${worstBlock ? `${worstBlock.psnrDecibels.toFixed(1)} dB in the worst block (${worstBlock.x}, ${worstBlock.y})` : ''}`
  return (
    `${texture.getName()}: ` +
    `${codecUsed.toUpperCase()}${losesOpacity ? ' (it is blended)' : ''}${cut ? ', cut with its coverage kept' : ''}, ${plural(made.mipmaps, 'level')}, ${megabytes(made.dds.length)}, ${loss}.`
  )
}

/** The codec that was chosen for a role; a role that the settings do not know gets the one that the game prefers. */
const codecFor = (role: MapRole, chosen: Parameters): BlockCodec => chosen[role.role] ?? preferredCodec(role)

const preferredCodec = ({ preferred, codecs }: MapRole): BlockCodec =>
  blockCodecs.find((each) => each === preferred) ?? blockCodecs.find((each) => codecs.includes(each)) ?? 'bc7'

const preferredCodecs = ({ maps }: Rulebook): Parameters =>
  Object.fromEntries(maps.roles.map((role) => [role.role, preferredCodec(role)]))

const megabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(1)} MB`
