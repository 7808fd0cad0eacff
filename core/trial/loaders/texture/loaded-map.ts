/** What the loader needs to know of a map file. */
export interface LoadedMap {
  width: number
  height: number
  levels: number
  /** `none` for plain pixels. */
  codec: string
  /** Whether its numbers are sRGB, as the file says; null where a format cannot say. */
  srgb: boolean | null
  bytesOnCard: number
}

/** Reads a map file. @throws Error with a short reason when the game’s card would not */
export type MapLoader = (file: Uint8Array) => LoadedMap

/**
 * @throws Error when nobody has pictures of that size
 * @example checkSides(width, height)
 */
export function checkSides(width: number, height: number): void {
  if (width < 1 || height < 1 || width > 16384 || height > 16384) throw new Error('its size is impossible')
}

/**
 * What plain pixels take on the card, which makes no smaller levels of its own.
 * @example return plainMap(width, height)
 */
export const plainMap = (width: number, height: number): LoadedMap => ({
  width,
  height,
  levels: 1,
  codec: 'none',
  srgb: null,
  bytesOnCard: width * height * 4,
})

export const blockBytes: Record<string, number> = { bc1: 8, bc3: 16, bc4: 8, bc5: 16, bc7: 16 }

/**
 * Bytes of one level of blocks.
 * @example levelSize('bc7', 8, 8, 1) // 16
 */
export const levelSize = (codec: string, width: number, height: number, level: number): number =>
  Math.max(1, Math.ceil((width >> level) / 4)) * Math.max(1, Math.ceil((height >> level) / 4)) * blockBytes[codec]
