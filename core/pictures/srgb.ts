import { srgbOfLinear } from '../maths/srgb.ts'

/** sRGB transfer function, byte to linear light (IEC 61966-2-1). */
export const linearOfByte = Float32Array.from({ length: 256 }, (_, value) => {
  const level = value / 255
  return level <= 0.04045 ? level / 12.92 : ((level + 0.055) / 1.055) ** 2.4
})

/** Its inverse on a fine grid: with 65,536 places no byte is off by more than rounding allows. */
const toByteTable = Uint8Array.from({ length: 65_537 }, (_, place) => {
  return Math.min(255, Math.round(srgbOfLinear(place / 65_536) * 255))
})

/**
 * The sRGB byte of linear light, bounded to 0 to 1.
 * @example byteOfLinear(1) // 255
 */
export const byteOfLinear = (linear: number): number =>
  linear >= 1 ? 255 : linear > 0 ? toByteTable[(linear * 65_536 + 0.5) | 0] : 0

/**
 * The bytes of `#a03c28`; mid grey for anything else.
 * @example bytesOfHex('#a03c28') // [160, 60, 40]
 */
export function bytesOfHex(hex: string): [number, number, number] {
  const found = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(hex)
  return found ? [parseInt(found[1], 16), parseInt(found[2], 16), parseInt(found[3], 16)] : [128, 128, 128]
}

/**
 * The colour (linear, 0 to 1, opaque) of `#a03c28`, as a material's factor has it; mid grey for anything else.
 *
 * @example factorOfHex('#ffffff') // [1, 1, 1, 1]
 */
export function factorOfHex(hex: string): [number, number, number, number] {
  const [r, g, b] = bytesOfHex(hex).map((byte) => linearOfByte[byte])
  return [r, g, b, 1]
}
