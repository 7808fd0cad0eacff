import { zlibSync } from 'fflate'
import { createDefaultContainer, write as writeKtx2 } from 'ktx-parse'
import { describe, expect, it } from 'vitest'
import { bmpFile, oldDds, tgaFile } from '../../test-support/binary-files.ts'
import { compressMap } from '../codecs/compress.ts'
import { peakSignalToNoise } from '../loss.ts'
import { encodeBlocks } from '../codecs/block-codec.ts'
import { writeDds } from '../codecs/dds.ts'
import { decodeAnyImage, openImage } from '../open-image.ts'
import type { Pixels } from '../pixels.ts'

const pixelsOf = async (bytes: Uint8Array): Promise<number[][]> => {
  const { pixels } = await decodeAnyImage(bytes)
  return Array.from({ length: pixels.width * pixels.height }, (_, pixel) => [
    ...pixels.data.subarray(pixel * 4, pixel * 4 + 4),
  ])
}
const red = [255, 0, 0, 255]
const green = [0, 255, 0, 255]
const blue = [0, 0, 255, 255]
const white = [255, 255, 255, 255]
/** Red and green above, blue and white below, as blue, green, red. */
const [R, G, B, W] = [
  [0, 0, 255],
  [0, 255, 0],
  [255, 0, 0],
  [255, 255, 255],
]

describe('TGA', () => {
  const square = { width: 2, height: 2, type: 2, bits: 24 }
  it.each([
    ['lower left', 0, [B, W, R, G]],
    ['lower right', 16, [W, B, G, R]],
    ['upper left', 32, [R, G, B, W]],
    ['upper right', 48, [G, R, W, B]],
  ])('has its origin at the %s', async (_where, descriptor, rows) => {
    expect(await pixelsOf(tgaFile({ ...square, descriptor, data: rows.flat() }))).toEqual([red, green, blue, white])
  })

  it('is read in packets that repeat and packets that do not, across rows', async () => {
    const data = [128 + 2, ...R, 0, ...W]
    expect(await pixelsOf(tgaFile({ ...square, type: 10, descriptor: 32, data }))).toEqual([red, red, red, white])
  })

  it('is read with a colour map, in grey, and in 15, 16 and 32 bits', async () => {
    expect(
      await pixelsOf(
        tgaFile({
          ...square,
          type: 1,
          bits: 8,
          descriptor: 32,
          map: { bits: 24, colours: [R, G, B, W] },
          data: [3, 2, 1, 0],
        }),
      ),
    ).toEqual([white, blue, green, red])
    expect(await pixelsOf(tgaFile({ ...square, type: 3, bits: 8, descriptor: 32, data: [0, 50, 100, 255] }))).toEqual([
      [0, 0, 0, 255],
      [50, 50, 50, 255],
      [100, 100, 100, 255],
      white,
    ])
    const packed = (value: number): number[] => [value & 255, value >> 8]
    expect(
      await pixelsOf(
        tgaFile({ ...square, bits: 15, descriptor: 32, data: [31 << 10, 31 << 5, 31, 0x7fff].flatMap(packed) }),
      ),
    ).toEqual([red, green, blue, white])
    expect(
      await pixelsOf(
        tgaFile({
          ...square,
          bits: 16,
          descriptor: 33,
          data: [0x8000 | (31 << 10), 31 << 5, 0x801f, 0xffff].flatMap(packed),
        }),
      ),
    ).toEqual([red, [0, 255, 0, 0], blue, white])
    expect(
      await pixelsOf(
        tgaFile({
          ...square,
          bits: 32,
          descriptor: 40,
          data: [
            [...R, 9],
            [...G, 0],
            [...B, 255],
            [...W, 1],
          ].flat(),
        }),
      ),
    ).toEqual([[255, 0, 0, 9], [0, 255, 0, 0], blue, [255, 255, 255, 1]])
  })

  it('takes 32 bits whose last eight are all zero as opaque', async () => {
    expect(
      (
        await pixelsOf(
          tgaFile({ ...square, bits: 32, descriptor: 32, data: [R, G, B, W].flatMap((colour) => [...colour, 0]) }),
        )
      )[0],
    ).toEqual(red)
  })

  it('is refused when it is cut off, too large, or asks for colours that are not there', async () => {
    await expect(decodeAnyImage(tgaFile({ ...square, descriptor: 32, data: [1, 2, 3] }))).rejects.toThrow(/cut off/)
    await expect(
      decodeAnyImage(tgaFile({ ...square, width: 65535, height: 65535, descriptor: 32, data: [] })),
    ).rejects.toThrow(/none of/)
    await expect(
      decodeAnyImage(
        tgaFile({ ...square, type: 1, bits: 8, descriptor: 32, map: { bits: 24, colours: [R] }, data: [0, 1, 0, 0] }),
      ),
    ).rejects.toThrow(/not in its map/)
  })
})

describe('BMP', () => {
  it('is read from below in 24 bits, with rows padded, and from above when its height is negative', async () => {
    expect(await pixelsOf(bmpFile(2, 2, 24, 0, [], [...B, ...W, 0, 0, ...R, ...G, 0, 0]))).toEqual([
      red,
      green,
      blue,
      white,
    ])
    expect(await pixelsOf(bmpFile(2, -2, 24, 0, [], [...R, ...G, 0, 0, ...B, ...W, 0, 0]))).toEqual([
      red,
      green,
      blue,
      white,
    ])
  })

  it('is read with palettes of 1, 4 and 8 bits and in runs', async () => {
    const palette = [
      [...R, 0],
      [...G, 0],
      [...B, 0],
      [...W, 0],
    ]
    expect(await pixelsOf(bmpFile(2, 2, 8, 0, palette, [2, 3, 0, 0, 0, 1, 0, 0]))).toEqual([red, green, blue, white])
    expect(await pixelsOf(bmpFile(2, 2, 4, 0, palette, [0x23, 0, 0, 0, 0x01, 0, 0, 0]))).toEqual([
      red,
      green,
      blue,
      white,
    ])
    expect(await pixelsOf(bmpFile(2, 2, 1, 0, palette.slice(0, 2), [0x40, 0, 0, 0, 0x80, 0, 0, 0]))).toEqual([
      green,
      red,
      red,
      green,
    ])
    expect(await pixelsOf(bmpFile(2, 2, 8, 1, palette, [2, 3, 0, 0, 1, 0, 1, 1, 0, 1]))).toEqual([
      red,
      green,
      white,
      white,
    ])
  })

  it('is refused when it is cut off, or asks for a colour beyond its palette', async () => {
    await expect(decodeAnyImage(bmpFile(64, 64, 24, 0, [], [1, 2, 3]))).rejects.toThrow(/cut off/)
    await expect(decodeAnyImage(bmpFile(1, 1, 8, 0, [[...R, 0]], [7, 0, 0, 0]))).rejects.toThrow(/not in its palette/)
    await expect(decodeAnyImage(bmpFile(100_000, 100_000, 24, 0, [], []))).rejects.toThrow(
      /100000 × 100000; up to 64 million/,
    )
  })
})

/** A picture without hard edges, which every block codec keeps well. */
const gradient = (size: number): Pixels => ({
  width: size,
  height: size,
  data: Uint8Array.from({ length: size * size * 4 }, (_, at) => {
    const [x, y] = [Math.floor(at / 4) % size, Math.floor(at / 4 / size)]
    return [120 + x * 3, 130 + y * 3, 200, 255][at % 4]
  }),
})

describe('DDS', () => {
  it.each(['bc1', 'bc3', 'bc7'] as const)('is read from %s with the header that we write', async (codec) => {
    const picture = gradient(32)
    const { pixels, detail } = await decodeAnyImage(
      (await compressMap(picture, { codec, meaning: 'colour', withMipmaps: true })).dds,
    )
    expect(detail).toBe(`${codec.toUpperCase()}, DX10 header`)
    expect(peakSignalToNoise(picture, pixels, 3)).toBeGreaterThan(38)
  })

  it('makes grey of one channel, and the third number of a normal of two', async () => {
    const picture = gradient(16)
    const grey = (await decodeAnyImage(writeDds('bc4', false, 16, 16, [await encodeBlocks(picture, 'bc4')]))).pixels
      .data
    expect([grey[0], grey[1], grey[2]]).toEqual([grey[0], grey[0], grey[0]])
    const normal = (await decodeAnyImage(writeDds('bc5', false, 16, 16, [await encodeBlocks(picture, 'bc5')]))).pixels
      .data
    const [x, y, z] = [0, 1, 2].map((channel) => normal[channel] / 127.5 - 1)
    expect(Math.hypot(x, y, z)).toBeCloseTo(1, 1)
  })

  it('is read from BC2 and from blocks with the old header', async () => {
    const colours = [0x00, 0xf8, 0x1f, 0x00, 0b11100100, 0, 0, 0]
    const bc2 = await pixelsOf(oldDds(4, 4, 'DXT3', [0xf0, 0x0f, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, ...colours]))
    expect(bc2[0]).toEqual([255, 0, 0, 0])
    expect(bc2[1]).toEqual([0, 0, 255, 255])
    expect(bc2[2]).toEqual([170, 0, 85, 255])
    expect(bc2[4][3]).toBe(255)
    expect((await pixelsOf(oldDds(4, 4, 'DXT1', colours)))[0]).toEqual(red)
  })

  it('is read from plain pixels by their masks', async () => {
    expect(
      await pixelsOf(
        oldDds(2, 1, { bits: 16, masks: [0xf800, 0x7e0, 0x1f, 0], flags: 0x40 }, [0x00, 0xf8, 0xe0, 0x07]),
      ),
    ).toEqual([red, green])
    expect(
      await pixelsOf(
        oldDds(1, 1, { bits: 32, masks: [0xff0000, 0xff00, 0xff, 0xff000000], flags: 0x41 }, [1, 2, 3, 4]),
      ),
    ).toEqual([[3, 2, 1, 4]])
    expect(await pixelsOf(oldDds(1, 1, { bits: 8, masks: [0xff, 0, 0, 0], flags: 0x20000 }, [77]))).toEqual([
      [77, 77, 77, 255],
    ])
  })

  it('is refused when it is cut off or of a kind that is not read', async () => {
    await expect(decodeAnyImage(oldDds(64, 64, 'DXT1', [1, 2, 3]))).rejects.toThrow(/cut off/)
    await expect(decodeAnyImage(oldDds(4, 4, 'YUY2', new Array<number>(64).fill(0)))).rejects.toThrow(
      /“YUY2” is not read/,
    )
    await expect(decodeAnyImage(oldDds(100_000, 100_000, 'DXT1', []))).rejects.toThrow(/up to 64 million/)
  })
})

describe('KTX2', () => {
  const container = (vkFormat: number, level: Uint8Array, unpacked: number, scheme: 0 | 3) => ({
    ...createDefaultContainer(),
    vkFormat,
    pixelWidth: 4,
    pixelHeight: 4,
    supercompressionScheme: scheme,
    levels: [{ levelData: level, uncompressedByteLength: unpacked }],
  })

  it('is read from plain channels, blocks, and packed levels', async () => {
    const rgba = Uint8Array.from({ length: 64 }, (_, at) => (at * 3) & 255)
    expect((await pixelsOf(writeKtx2(container(37, rgba, 64, 0) as Parameters<typeof writeKtx2>[0])))[1]).toEqual([
      12, 15, 18, 21,
    ])
    expect((await pixelsOf(writeKtx2(container(44, rgba, 64, 0) as Parameters<typeof writeKtx2>[0])))[1]).toEqual([
      18, 15, 12, 21,
    ])
    const blocks = await encodeBlocks(gradient(4), 'bc7')
    expect(
      (
        await decodeAnyImage(
          writeKtx2(container(145, zlibSync(blocks), blocks.length, 3) as Parameters<typeof writeKtx2>[0]),
        )
      ).detail,
    ).toBe('BC7')
  })

  it('is refused when a level claims more than the picture can hold', async () => {
    await expect(
      decodeAnyImage(
        writeKtx2(container(37, zlibSync(new Uint8Array(64)), 2 ** 31, 3) as Parameters<typeof writeKtx2>[0]),
      ),
    ).rejects.toThrow(/unpack to more than its size allows/)
  })
})

describe('WebP', () => {
  // Two pixels of red at 40 % without loss, written by another program.
  const twoPixels = Uint8Array.from(atob('UklGRhwAAABXRUJQVlA4TA8AAAAvAQAAEAcQ/Y+aBSKi/wEA'), (character) =>
    character.charCodeAt(0),
  )

  it('is read without loss', async () => {
    const { pixels, detail } = await decodeAnyImage(twoPixels)
    expect([pixels.width, pixels.height, detail]).toEqual([2, 1, 'without loss'])
    expect([...pixels.data]).toEqual([255, 0, 0, 102, 255, 0, 0, 102])
  })

  it('is refused when it is cut off, and before it is decoded when it is too large', async () => {
    await expect(decodeAnyImage(twoPixels.slice(0, 24))).rejects.toThrow(/cut off/)
    const huge = twoPixels.slice()
    huge.set([0xff, 0xff, 0xff, 0x0f], 21)
    await expect(decodeAnyImage(huge)).rejects.toThrow(/16384 × 16384; up to 64 million/)
  })
})

describe('images in an item', () => {
  it('become PNG, pixel for pixel, unless they are PNG or JPEG already', async () => {
    const file = tgaFile({
      width: 2,
      height: 2,
      type: 2,
      bits: 32,
      descriptor: 40,
      data: [
        [...R, 9],
        [...G, 0],
        [...B, 255],
        [...W, 1],
      ].flat(),
    })
    const opened = await openImage(file)
    expect(opened).toMatchObject({
      mimeType: 'image/png',
      facts: { title: 'TGA 32-bit', width: 2, height: 2, hasAlpha: true },
    })
    expect(await pixelsOf(opened.bytes)).toEqual(await pixelsOf(file))
    expect((await openImage(opened.bytes)).bytes).toBe(opened.bytes)
  })

  it('are known by what they begin like, not by their name', async () => {
    await expect(openImage(new TextEncoder().encode('this is text, and no picture'))).rejects.toThrow(
      /none of PNG, JPEG, WebP, BMP, DDS, KTX2, TGA/,
    )
  })
})
