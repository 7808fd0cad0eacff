/** How a map's numbers are to be averaged. */
export type Meaning = 'colour' | 'normal' | 'data'

/**
 * How a map in some role is averaged: what is meant for the eye as colour, relief as directions, all else as data.
 * @example meaningOfRole('roughness') // 'data'
 */
export const meaningOfRole = (role: string): Meaning =>
  role === 'normal' ? 'normal' : role === 'colour' || role === 'glow' || role === 'other' ? 'colour' : 'data'
