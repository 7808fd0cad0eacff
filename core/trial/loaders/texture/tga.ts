import { checkSides, plainMap, type MapLoader } from './loaded-map.ts'

/**
 * True-colour TGA of 24 or 32 bits a pixel (Truevision, File Format Specification 2.0), plain or in packets.
 * @example const { width, height } = loadTga(file)
 */
export const loadTga: MapLoader = (file) => {
  if (file.length < 18) throw new Error('it is cut off')
  const [, colourTable, kind] = file
  const width = file[12] | (file[13] << 8)
  const height = file[14] | (file[15] << 8)
  const bits = file[16]
  if (colourTable !== 0 || (kind !== 2 && kind !== 10)) throw new Error('it is no true-colour TGA')
  if (bits !== 24 && bits !== 32) throw new Error(`it has ${bits} bits a pixel`)
  checkSides(width, height)
  const start = 18 + file[0]
  if (kind === 2 && file.length < start + (width * height * bits) / 8) throw new Error('it is cut off')
  return plainMap(width, height)
}

/**
 * Whether rows stand from the bottom up, and whether they are in packets.
 * @example const { topDown } = tgaOrder(file)
 */
export const tgaOrder = (file: Uint8Array): { topDown: boolean; packed: boolean } => ({
  topDown: (file[17] & 0x20) !== 0,
  packed: file[2] === 10,
})
