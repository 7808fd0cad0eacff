import { encode as encodePngFile } from 'fast-png'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoSources } from '../test-support/sources.ts'
import { decodeDdsLevel } from './codecs/block-codec.ts'
import { compressMap } from './codecs/compress.ts'
import { peakSignalToNoise } from './loss.ts'
import { fullMipmapCount, readDdsHeader } from './codecs/dds.ts'
import { decodeJpeg } from './formats/jpeg.ts'
import { decodePng, encodePng, readImageHeader } from './image-codecs.ts'
import { isPowerOfTwo, mipmapChain, nearestPowerOfTwo, resizePixels } from './resize.ts'
import type { Pixels } from './pixels.ts'

const filled = (width: number, height: number, pixel: number[]): Pixels => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height * 4 }, (_, at) => pixel[at % 4]),
})
const timber = (): Pixels =>
  decodePng(demoSources('boathouse_gate').find((file) => file.path === 'Timber leaf.v2.png')?.bytes ?? new Uint8Array())

describe('decoding images', () => {
  it('brings every PNG depth to the same RGBA', () => {
    const grey = decodePng(
      encodePngFile({ width: 2, height: 1, data: Uint8Array.from([0, 200]), channels: 1, depth: 8 }),
    )
    expect([...grey.data]).toEqual([0, 0, 0, 255, 200, 200, 200, 255])
    const deep = decodePng(
      encodePngFile({ width: 1, height: 1, data: Uint16Array.from([65535, 32768, 0, 65535]), channels: 4, depth: 16 }),
    )
    expect([...deep.data]).toEqual([255, 128, 0, 255])
    const greyAlpha = decodePng(
      encodePngFile({ width: 1, height: 1, data: Uint8Array.from([90, 10]), channels: 2, depth: 8 }),
    )
    expect([...greyAlpha.data]).toEqual([90, 90, 90, 10])
  })
  it('reads the size of a JPEG from its frame and decodes it', async () => {
    const jpeg =
      demoSources('boathouse_gate').find((file) => file.path === 'Gate Stone Albedo.jpg')?.bytes ?? new Uint8Array()
    expect(readImageHeader(jpeg)).toEqual({ type: 'image/jpeg', width: 1500, height: 1100, inks: 3 })
    expect((await decodeJpeg(jpeg)).data.length).toBe(1500 * 1100 * 4)
  })
  it('refuses a picture too large to hold, before decoding it', () => {
    const png = encodePng(filled(4, 4, [1, 2, 3, 255]), false)
    new DataView(png.buffer, png.byteOffset).setUint32(16, 100_000)
    new DataView(png.buffer, png.byteOffset).setUint32(20, 100_000)
    expect(() => decodePng(png)).toThrow(/100000 × 100000; up to 64 million/)
  })
  it('gives back the same pixels from its own PNG', () => {
    const picture = timber()
    expect(decodePng(encodePng(picture, false)).data).toEqual(picture.data)
  })
})

describe('resizing', () => {
  it('keeps a plain colour plain at any size', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
        fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255)),
        (width, height, [r, g, b]) => {
          const sized = resizePixels(filled(13, 7, [r, g, b, 255]), width, height, 'colour')
          return sized.data.every((value, at) => Math.abs(value - [r, g, b, 255][at % 4]) <= 1)
        },
      ),
      { numRuns: 60 },
    )
  })
  it('averages colour in linear light and data as it is', () => {
    const halves: Pixels = { width: 2, height: 1, data: Uint8Array.from([0, 0, 0, 255, 255, 255, 255, 255]) }
    expect(resizePixels(halves, 1, 1, 'colour').data[0]).toBe(188)
    expect(resizePixels(halves, 1, 1, 'data').data[0]).toBe(128)
  })
  it('does not let clear pixels bleed into opaque ones', () => {
    const edge: Pixels = { width: 2, height: 1, data: Uint8Array.from([200, 40, 40, 255, 0, 255, 0, 0]) }
    const [red, green] = resizePixels(edge, 1, 1, 'colour').data
    expect(red).toBeGreaterThan(195)
    expect(green).toBeLessThan(50)
  })
  it('keeps normals at unit length', () => {
    const tilted: Pixels = { width: 2, height: 1, data: Uint8Array.from([255, 128, 128, 255, 128, 255, 128, 255]) }
    const [x, y, z] = [...resizePixels(tilted, 1, 1, 'normal').data].map((value) => value / 127.5 - 1)
    expect(Math.hypot(x, y, z)).toBeCloseTo(1, 1)
  })
  it('makes a whole chain of mipmaps', () => {
    expect(
      mipmapChain(filled(16, 4, [9, 9, 9, 255]), 'colour').map(({ width, height }) => `${width}x${height}`),
    ).toEqual(['16x4', '8x2', '4x1', '2x1', '1x1'])
  })
  it('finds the nearest power of two within limits', () => {
    expect([1500, 1100, 3, 48, 5000].map((length) => nearestPowerOfTwo(length, 4, 1024))).toEqual([
      1024, 1024, 4, 64, 1024,
    ])
    expect([1, 2, 1024, 1000, 0].map(isPowerOfTwo)).toEqual([true, true, true, false, false])
  })
})

describe('block compression', () => {
  it.each([
    ['bc1', 30],
    ['bc3', 30],
    ['bc7', 38],
  ] as const)('%s reads back close to what was given', async (codec, decibels) => {
    const picture = resizePixels(timber(), 128, 128, 'colour')
    const made = await compressMap(picture, { codec, meaning: 'colour', withMipmaps: true })
    expect(made.mipmaps).toBe(8)
    expect(made.psnrDecibels).toBeGreaterThan(decibels)
    const decoded = await decodeDdsLevel(made.dds, 0, 128, 128)
    expect(peakSignalToNoise(picture, decoded, 3)).toBeGreaterThan(decibels)
  })
  it('keeps normals within a degree in BC5', async () => {
    const normals = decodePng(
      demoSources('boathouse_gate').find((file) => file.path === 'gate stone_n.png')?.bytes ?? new Uint8Array(),
    )
    const made = await compressMap(normals, { codec: 'bc5', meaning: 'normal', withMipmaps: true })
    expect(made.meanAngleDegrees).toBeLessThan(1)
  })
  it('gives the same bytes for the same pixels', async () => {
    const picture = resizePixels(timber(), 64, 64, 'colour')
    expect((await compressMap(picture, { codec: 'bc7', meaning: 'colour', withMipmaps: true })).dds).toEqual(
      (await compressMap(picture, { codec: 'bc7', meaning: 'colour', withMipmaps: true })).dds,
    )
  })
  it('writes headers that say what is in the file, and notices when it is cut off', async () => {
    const { dds } = await compressMap(filled(32, 8, [10, 200, 30, 255]), {
      codec: 'bc7',
      meaning: 'colour',
      withMipmaps: true,
    })
    expect(readDdsHeader(dds)).toEqual({ codec: 'bc7', width: 32, height: 8, mipmaps: 6, srgb: true, dataOffset: 148 })
    expect(fullMipmapCount(32, 8)).toBe(6)
    expect(() => readDdsHeader(dds.slice(0, dds.length - 1))).toThrow(/cut off/)
    expect(() => readDdsHeader(new Uint8Array(200))).toThrow(/not a DDS/)
  })
  it('measures nothing lost for a plain picture, and a known loss for a known difference', () => {
    expect(peakSignalToNoise(filled(4, 4, [1, 2, 3, 4]), filled(4, 4, [1, 2, 3, 4]), 4)).toBeNull()
    expect(peakSignalToNoise(filled(4, 4, [0, 0, 0, 255]), filled(4, 4, [255, 255, 255, 255]), 3)).toBeCloseTo(0)
  })
})
