import { decode as decodePngFile, encode as encodePngFile, convertIndexedToRgb, type DecodedPng } from 'fast-png'
import { limits } from '../support/limits.ts'
import type { Pixels } from './pixels.ts'

export type ImageType = 'image/png' | 'image/jpeg'
export interface ImageHeader {
  type: ImageType
  width: number
  height: number
  /** Components of a JPEG's frame: 4 for pictures in inks. */
  inks: number
}

/**
 * What kind of image the bytes begin as, by its signature; null for anything else.
 * @example sniffImage(Uint8Array.of(1, 2, 3)) // null
 */
export function sniffImage(bytes: Uint8Array): ImageType | null {
  if (bytes.length > 8 && bytes[0] === 0x89 && bytes[1] === 0x50 && bytes[2] === 0x4e && bytes[3] === 0x47)
    return 'image/png'
  if (bytes.length > 3 && bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return 'image/jpeg'
  return null
}

/**
 * Type and size from the first bytes, without decoding (PNG: IHDR; JPEG: the first start-of-frame).
 * @throws Error when the bytes are neither, or end too early
 *
 * @example readImageHeader(encodePng(filled(4, [0, 0, 0, 255]), false)).width // 4
 */
export function readImageHeader(bytes: Uint8Array): ImageHeader {
  const type = sniffImage(bytes)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (type === 'image/png' && bytes.length >= 24)
    return { type, width: view.getUint32(16), height: view.getUint32(20), inks: 0 }
  if (type === 'image/jpeg') {
    let offset = 2
    while (offset + 9 < bytes.length && bytes[offset] === 0xff) {
      const marker = bytes[offset + 1]
      const frame = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)
      if (frame)
        return { type, width: view.getUint16(offset + 7), height: view.getUint16(offset + 5), inks: bytes[offset + 9] }
      offset += 2 + Math.max(2, view.getUint16(offset + 2))
    }
    throw new Error('the JPEG ends before its picture begins')
  }
  throw new Error('it is neither PNG nor JPEG')
}

/**
 * Decodes a PNG to RGBA; 16-bit samples are rounded to 8.
 * @throws Error when the bytes are broken or the picture is larger than is read
 *
 * @example decodePng(encodePng(filled(2, [160, 60, 40, 255]), false)).data[0] // 160
 */
export function decodePng(bytes: Uint8Array): Pixels {
  const header = readImageHeader(bytes)
  if (header.width < 1 || header.height < 1 || header.width * header.height > limits.pixels) {
    throw new Error(`its size is ${header.width} × ${header.height}; up to 64 million pixels are read`)
  }
  if (header.type !== 'image/png') throw new Error('it is no PNG')
  return pngToRgba(decodePngFile(bytes))
}

function pngToRgba(png: DecodedPng): Pixels {
  const { width, height } = png
  const pixelCount = width * height
  const data = new Uint8Array(pixelCount * 4)
  let samples: ArrayLike<number> = png.data
  let { channels } = png
  let peak = 2 ** png.depth - 1
  if (png.palette) {
    samples = convertIndexedToRgb(png)
    channels = samples.length / pixelCount
    peak = 255
  } else if (png.depth < 8) samples = unpackBits(png)
  const level = (value: number): number => (peak === 255 ? value : Math.round((value / peak) * 255))
  // One grey or colour may stand for “clear” (PNG specification, 11.3.1.1 tRNS).
  const key = png.palette || !png.transparency || png.transparency.length < channels ? null : png.transparency
  const isKey = (from: number): boolean =>
    key !== null &&
    samples[from] === key[0] &&
    (channels < 3 || (samples[from + 1] === key[1] && samples[from + 2] === key[2]))
  // Most pictures lie there as they are wanted, or nearly so.
  if (channels === 4 && peak === 255) {
    data.set(samples)
    return { width, height, data }
  }
  if (channels === 3 && peak === 255 && key === null) {
    for (let pixel = 0; pixel < pixelCount; pixel++) {
      data[pixel * 4] = samples[pixel * 3]
      data[pixel * 4 + 1] = samples[pixel * 3 + 1]
      data[pixel * 4 + 2] = samples[pixel * 3 + 2]
      data[pixel * 4 + 3] = 255
    }
    return { width, height, data }
  }
  for (let pixel = 0; pixel < pixelCount; pixel++) {
    const from = pixel * channels
    const grey = channels < 3
    data[pixel * 4] = level(samples[from])
    data[pixel * 4 + 1] = level(samples[from + (grey ? 0 : 1)])
    data[pixel * 4 + 2] = level(samples[from + (grey ? 0 : 2)])
    data[pixel * 4 + 3] = channels === 2 || channels === 4 ? level(samples[from + channels - 1]) : isKey(from) ? 0 : 255
  }
  return { width, height, data }
}

/** 1-, 2- and 4-bit grey rows come packed, most significant bits first (PNG specification, 7.2). */
function unpackBits(png: DecodedPng): Uint8Array {
  const { width, height, depth } = png
  const rowBytes = Math.ceil((width * depth) / 8)
  const samples = new Uint8Array(width * height)
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const bit = x * depth
      const byte = Number(png.data[y * rowBytes + (bit >> 3)])
      samples[y * width + x] = (byte >> (8 - depth - (bit & 7))) & ((1 << depth) - 1)
    }
  }
  return samples
}

/**
 * RGBA, or RGB where nothing is see-through, as PNG. The same pixels give the same bytes.
 * @example writeFileSync('oak.png', encodePng(pixels, hasTransparency(pixels)))
 */
export function encodePng({ width, height, data }: Pixels, keepAlpha: boolean): Uint8Array {
  if (keepAlpha) return encodePngFile({ width, height, data, depth: 8, channels: 4 }, { zlib: { level: 3 } })
  const rgb = new Uint8Array(width * height * 3)
  for (let pixel = 0; pixel < width * height; pixel++) {
    rgb[pixel * 3] = data[pixel * 4]
    rgb[pixel * 3 + 1] = data[pixel * 4 + 1]
    rgb[pixel * 3 + 2] = data[pixel * 4 + 2]
  }
  return encodePngFile({ width, height, data: rgb, depth: 8, channels: 3 }, { zlib: { level: 3 } })
}
