import type { Pixels } from '../pixels.ts'
import { limits } from '../../support/limits.ts'

/** One image format. Readers throw Errors whose message ends a sentence: “this image cannot be read (…)”. */
export interface ImageFormat {
  title: string
  /** File endings, lower case. */
  endings: readonly string[]
  /** Whether the bytes begin like this format. */
  begins: (bytes: Uint8Array) => boolean
  /** @param asWritten true for what we wrote ourselves: nothing is put down to a careless program */
  decode: (bytes: Uint8Array, asWritten: boolean) => Promise<DecodedImage>
}

export interface DecodedImage {
  pixels: Pixels
  /** What of the format it is: “24-bit, packed rows”. */
  detail: string
}

/**
 * @throws Error when a picture has no size, or more pixels than are read
 * @example assertSize(header.width, header.height)
 */
export function assertSize(width: number, height: number): void {
  if (!(width >= 1 && height >= 1) || width * height > limits.pixels)
    throw new Error(`its size is ${width} × ${height}; up to 64 million pixels are read`)
}

/**
 * The error of a picture that ends too early.
 * @example if (bytes.length < 18) throw cutOff()
 */
export const cutOff = (): Error => new Error('it is cut off')
