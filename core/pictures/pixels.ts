/** Pixels in memory: RGBA, 8 bits a channel, top row first. */
export interface Pixels {
  width: number
  height: number
  data: Uint8Array
}

/**
 * Whether any pixel is less than fully opaque.
 *
 * @example const codec = hasTransparency(pixels) ? 'bc3' : 'bc1'
 */
export function hasTransparency({ data }: Pixels): boolean {
  for (let offset = 3; offset < data.length; offset += 4) if (data[offset] < 255) return true
  return false
}

/**
 * The nearest of 0 to 255.
 * @example nearestByte(260.2) // 255
 */
export const nearestByte = (value: number): number => (value >= 255 ? 255 : value > 0 ? (value + 0.5) | 0 : 0)
