/**
 * A place on a line that begins again after so many, as tiled pictures do.
 *
 * @example wrapped(-1, 4) // 3
 */
export const wrapped = (at: number, length: number): number => ((at % length) + length) % length
