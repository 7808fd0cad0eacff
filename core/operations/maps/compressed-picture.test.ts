import { describe, expect, it } from 'vitest'
import { compressMap, type CompressedMap, type CompressOptions } from '../../pictures/codecs/compress.ts'
import { writeRawPixels } from '../../pictures/formats/raw-pixels.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { compressPicture, pictureCompressor } from './compressed-picture.ts'

const options: CompressOptions = { codec: 'bc7', meaning: 'colour', withMipmaps: true }
const painted = (seed: number, side = 32): Pixels => ({
  width: side,
  height: side,
  data: Uint8Array.from({ length: side * side * 4 }, (_, at) => (at % 4 === 3 ? 255 : (at * seed) % 251)),
})

describe('compressing a picture that was compressed before', () => {
  it('gives what compressing gives', async () => {
    const pixels = painted(7)
    expect((await compressPicture(writeRawPixels(pixels), pixels, options)).dds).toEqual(
      (await compressMap(pixels, options)).dds,
    )
  })

  it('does not compress the same bytes again, though they stand in another array', async () => {
    const first = await compressPicture(writeRawPixels(painted(11)), painted(11), options)
    expect(await compressPicture(writeRawPixels(painted(11)), painted(11), options)).toBe(first)
  })

  it('compresses again for other settings, other pixels and another size of the same bytes', async () => {
    const pixels = painted(13)
    const first = await compressPicture(writeRawPixels(pixels), pixels, options)
    const asData = await compressPicture(writeRawPixels(pixels), pixels, { ...options, meaning: 'data' })
    expect(asData).not.toBe(first)
    const wide = { ...pixels, width: 64, height: 16 }
    expect((await compressPicture(writeRawPixels(wide), wide, options)).dds).not.toEqual(first.dds)
  })

  it('lets the oldest go when more is remembered than may be', async () => {
    const compress = pictureCompressor(4 * 1600)
    const made = async (seed: number): Promise<CompressedMap> =>
      compress(writeRawPixels(painted(seed)), painted(seed), options)
    const [first, second] = [await made(17), await made(19)]
    expect(first.dds.length).toBeLessThan(1600)
    await made(17)
    for (const seed of [23, 29, 31]) await made(seed)
    expect(await made(17)).toBe(first)
    const again = await made(19)
    expect(again).not.toBe(second)
    expect(again.dds).toEqual(second.dds)
  })
})
