import type { Pixels } from './pixels.ts'

/** Pixels of files that are in use, by their bytes: states share pictures, so that each is decoded once. */
const inUse = new WeakMap<Uint8Array, Pixels>()

/** Pixels of files that were just read, and may be asked for next or never: the latest, up to a bound. */
const justRead = new Map<Uint8Array, Pixels>()
const MOST_BYTES = 96 * 1024 * 1024
let bytesRead = 0

/**
 * Keeps what a file was decoded to when it was read, so that whoever works on it next does not decode it again. Of many
 * files only the latest are kept.
 * @param pixels not to be written to from now on
 *
 * @example keepReadPixels(bytes, await decodePng(bytes))
 */
export function keepReadPixels(file: Uint8Array, pixels: Pixels): void {
  if (pixels.data.byteLength > MOST_BYTES) return
  letGo(file)
  justRead.set(file, pixels)
  bytesRead += pixels.data.byteLength
  for (const oldest of justRead.keys()) {
    if (bytesRead <= MOST_BYTES) break
    letGo(oldest)
  }
}

function letGo(file: Uint8Array): void {
  const known = justRead.get(file)
  if (!known) return
  justRead.delete(file)
  bytesRead -= known.data.byteLength
}

/**
 * What a file was decoded to before, as long as the file itself is in use; decoded now where it was not.
 * @returns pixels that are shared, and must not be written to
 *
 * @example const { data } = await pixelsOf(image, (bytes) => decodePng(bytes))
 */
export async function pixelsOf(
  file: Uint8Array,
  decode: (file: Uint8Array) => Pixels | Promise<Pixels>,
): Promise<Pixels> {
  const pixels = inUse.get(file) ?? justRead.get(file) ?? (await decode(file))
  letGo(file)
  inUse.set(file, pixels)
  return pixels
}
