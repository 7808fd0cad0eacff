import { decodeDdsLevel, levelBytes, type BlockCodec } from '../codecs/block-codec.ts'
import { writeDds } from '../codecs/dds.ts'
import type { Pixels } from '../pixels.ts'
import { assertSize, cutOff } from './image-format.ts'

/** Block codecs that are read: those that are written, and BC2, which only older files hold. */
export type ReadableBlocks = BlockCodec | 'bc2'

/**
 * Pixels of one level of blocks. One channel becomes grey; of two, taken for a normal's x and y, the third is made.
 * @throws Error when there are too few bytes
 *
 * @example const pixels = await decodeBlocks(blocks, 'bc5', 256, 256)
 */
export async function decodeBlocks(
  blocks: Uint8Array,
  codec: ReadableBlocks,
  width: number,
  height: number,
): Promise<Pixels> {
  assertSize(width, height)
  const size = levelBytes(codec === 'bc2' ? 'bc3' : codec, width, height)
  if (blocks.length < size) throw cutOff()
  if (codec === 'bc2') return decodeBc2(blocks, width, height)
  const pixels = await decodeDdsLevel(
    writeDds(codec, false, width, height, [blocks.subarray(0, size)]),
    0,
    width,
    height,
  )
  if (codec === 'bc4')
    for (let at = 0; at < pixels.data.length; at += 4) pixels.data[at + 1] = pixels.data[at + 2] = pixels.data[at]
  if (codec === 'bc5') makeThirdOfNormal(pixels.data)
  return pixels
}

function makeThirdOfNormal(data: Uint8Array): void {
  for (let at = 0; at < data.length; at += 4) {
    const x = data[at] / 127.5 - 1
    const y = data[at + 1] / 127.5 - 1
    data[at + 2] = Math.round((Math.sqrt(Math.max(0, 1 - x * x - y * y)) + 1) * 127.5)
  }
}

/**
 * BC2 (Microsoft, “Texture block compression”): 64 bits of plain 4-bit alpha, then the colours of BC1 with four steps.
 */
function decodeBc2(blocks: Uint8Array, width: number, height: number): Pixels {
  const view = new DataView(blocks.buffer, blocks.byteOffset, blocks.byteLength)
  const data = new Uint8Array(width * height * 4)
  const across = Math.ceil(width / 4)
  for (let block = 0; block < across * Math.ceil(height / 4); block++) {
    const offset = block * 16
    const ends = [view.getUint16(offset + 8, true), view.getUint16(offset + 10, true)].map((value) => [
      ((value >> 11) / 31) * 255,
      (((value >> 5) & 63) / 63) * 255,
      ((value & 31) / 31) * 255,
    ])
    const choices = view.getUint32(offset + 12, true)
    for (let pixel = 0; pixel < 16; pixel++) {
      const [x, y] = [(block % across) * 4 + (pixel % 4), Math.floor(block / across) * 4 + (pixel >> 2)]
      if (x >= width || y >= height) continue
      const share = [0, 1, 1 / 3, 2 / 3][(choices >>> (pixel * 2)) & 3]
      const at = (y * width + x) * 4
      for (let channel = 0; channel < 3; channel++)
        data[at + channel] = Math.round(ends[0][channel] * (1 - share) + ends[1][channel] * share)
      data[at + 3] = ((blocks[offset + (pixel >> 1)] >> ((pixel & 1) * 4)) & 15) * 17
    }
  }
  return { width, height, data }
}
