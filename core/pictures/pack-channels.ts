import type { Meaning } from './meaning.ts'
import { resizePixels } from './resize.ts'
import { nearestByte, type Pixels } from './pixels.ts'

export const channelNames = ['red', 'green', 'blue', 'alpha', 'brightness'] as const
export type ChannelName = (typeof channelNames)[number]

/** What goes into one channel: a channel of a picture, or one value (0 to 1) everywhere. */
export type ChannelSource =
  | { picture: Pixels; channel: ChannelName; meaning: Meaning; inverted: boolean; scale: number; base?: number }
  | { constant: number }

/**
 * Relative luminance of linear light would need decoding; for masks the weights of Rec. 709 on the bytes are what
 * painters see.
 *
 * @example brightness(Uint8Array.of(255, 255, 255, 255), 0) // 255
 */
export const brightness = (data: Uint8Array, at: number): number =>
  0.2126 * data[at] + 0.7152 * data[at + 1] + 0.0722 * data[at + 2]

/**
 * Fills the four channels of a new picture. Pictures of other sizes are brought to the one asked for.
 * @param sources for red, green, blue and alpha
 *
 * @example const orm = packChannels(512, 512, [occlusion, roughness, metalness, { constant: 255 }])
 */
export function packChannels(
  width: number,
  height: number,
  sources: readonly [ChannelSource, ChannelSource, ChannelSource, ChannelSource],
): Pixels {
  const data = new Uint8Array(width * height * 4)
  const sized = new Map<Pixels, Pixels>()
  sources.forEach((source, target) => {
    if ('constant' in source) {
      const value = nearestByte(source.constant * 255)
      for (let at = target; at < data.length; at += 4) data[at] = value
      return
    }
    const picture = sized.get(source.picture) ?? resizePixels(source.picture, width, height, source.meaning)
    sized.set(source.picture, picture)
    const written = (value: number): number =>
      nearestByte((source.inverted ? 255 - value : value) * source.scale + (source.base ?? 0) * 255)
    if (source.channel === 'brightness') {
      for (let at = 0; at < data.length; at += 4) data[at + target] = written(brightness(picture.data, at))
      return
    }
    const from = channelNames.indexOf(source.channel)
    const byByte = Uint8Array.from({ length: 256 }, (_, byte) => written(byte))
    for (let at = 0; at < data.length; at += 4) data[at + target] = byByte[picture.data[at + from]]
  })
  return { width, height, data }
}

/**
 * The sides that hold every picture among the sources without loss; 4 × 4 when all are constants.
 * @example const { width, height } = sizeForAll([occlusion, roughness, metalness])
 */
export function sizeForAll(sources: readonly ChannelSource[]): { width: number; height: number } {
  const pictures = sources.flatMap((source) => ('picture' in source ? [source.picture] : []))
  return {
    width: Math.max(4, ...pictures.map(({ width }) => width)),
    height: Math.max(4, ...pictures.map(({ height }) => height)),
  }
}
