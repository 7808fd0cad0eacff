/**
 * A channel cut out of a pixel by its bit mask, scaled to 0 to 255; `otherwise` where there is no mask.
 * @example channelOf(0xf800, 0xf800, 255) // 255
 */
export function channelOf(value: number, mask: number, otherwise: number): number {
  const bits = mask >>> 0
  if (bits === 0) return otherwise
  const shift = Math.log2(bits & -bits) >>> 0
  const peak = bits >>> shift
  return Math.round((((value & bits) >>> shift) / peak) * 255)
}
