import type { Pixels } from '../pixels.ts'

export interface TgaOptions {
  /** Whether the first row of the file is the top one. */
  topDown: boolean
  /** Whether rows are packed in packets. */
  packed: boolean
  /** 32 bits a pixel with opacity, or 24 without. */
  withAlpha: boolean
}

const HEADER_BYTES = 18
const LONGEST_PACKET = 128

/**
 * A true-colour TGA (Truevision, File Format Specification 2.0, 1991) of 24 or 32 bits a pixel. Packets do not cross
 * rows.
 *
 * @example const tga = writeTga(pixels, { topDown: false, packed: true, withAlpha: false })
 */
export function writeTga({ width, height, data }: Pixels, { topDown, packed, withAlpha }: TgaOptions): Uint8Array {
  if (width > 65535 || height > 65535) throw new Error('a TGA has at most 65,535 pixels a side')
  const bytes = withAlpha ? 4 : 3
  // At worst each row needs one byte more for every 128 pixels.
  const out = new Uint8Array(HEADER_BYTES + height * (width * bytes + Math.ceil(width / LONGEST_PACKET)))
  out[2] = packed ? 10 : 2
  out[12] = width & 255
  out[13] = width >> 8
  out[14] = height & 255
  out[15] = height >> 8
  out[16] = bytes * 8
  out[17] = (withAlpha ? 8 : 0) | (topDown ? 32 : 0)
  let at = HEADER_BYTES
  const put = (from: number): void => {
    out[at++] = data[from + 2]
    out[at++] = data[from + 1]
    out[at++] = data[from]
    if (withAlpha) out[at++] = data[from + 3]
  }
  const alike = (first: number, second: number): boolean =>
    data[first] === data[second] &&
    data[first + 1] === data[second + 1] &&
    data[first + 2] === data[second + 2] &&
    (!withAlpha || data[first + 3] === data[second + 3])
  for (let row = 0; row < height; row++) {
    const start = (topDown ? row : height - 1 - row) * width * 4
    if (!packed) {
      for (let x = 0; x < width; x++) put(start + x * 4)
      continue
    }
    for (let x = 0; x < width;) {
      let run = 1
      while (run < LONGEST_PACKET && x + run < width && alike(start + x * 4, start + (x + run) * 4)) run++
      if (run > 1) {
        out[at++] = 127 + run
        put(start + x * 4)
        x += run
        continue
      }
      let plain = 1
      while (
        plain < LONGEST_PACKET &&
        x + plain < width &&
        !(x + plain + 1 < width && alike(start + (x + plain) * 4, start + (x + plain + 1) * 4))
      )
        plain++
      out[at++] = plain - 1
      for (let each = 0; each < plain; each++) put(start + (x + each) * 4)
      x += plain
    }
  }
  return out.slice(0, at)
}
