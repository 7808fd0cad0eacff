import type { Pixels } from '../../pixels.ts'

/**
 * Where the 16 pixels of a block lie in a picture; pixels past its edges repeat the last ones. Written into `offsets`.
 */
export function blockOffsets({ width, height }: Pixels, blockX: number, blockY: number, offsets: Int32Array): void {
  for (let row = 0; row < 4; row++) {
    const y = Math.min(blockY * 4 + row, height - 1)
    for (let column = 0; column < 4; column++)
      offsets[row * 4 + column] = (y * width + Math.min(blockX * 4 + column, width - 1)) * 4
  }
}

/**
 * Calls `encode` for each block in reading order with the offsets of its 16 pixels; it writes `bytes` bytes at its
 * place.
 *
 * @example encodeEachBlock(pixels, 8, (offsets, out, at) => encode(pixels.data, offsets, out, at))
 */
export function encodeEachBlock(
  pixels: Pixels,
  bytes: number,
  encode: (offsets: Int32Array, out: Uint8Array, at: number) => void,
): Uint8Array {
  const across = Math.ceil(pixels.width / 4)
  const down = Math.ceil(pixels.height / 4)
  const out = new Uint8Array(across * down * bytes)
  const offsets = new Int32Array(16)
  for (let block = 0; block < across * down; block++) {
    blockOffsets(pixels, block % across, Math.floor(block / across), offsets)
    encode(offsets, out, block * bytes)
  }
  return out
}
