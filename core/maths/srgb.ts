/** sRGB (0 to 1) of linear light from 0 to 1 (IEC 61966-2-1). @example srgbOfLinear(0.2158) // 0.502 */
export const srgbOfLinear = (linear: number): number =>
  linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055
