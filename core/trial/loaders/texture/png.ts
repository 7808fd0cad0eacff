import { checkSides, plainMap, type MapLoader } from './loaded-map.ts'

const SIGNATURE = [137, 80, 78, 71, 13, 10, 26, 10]

/**
 * The head of a PNG (W3C PNG, third edition, section 11.2.1): 8 bits a channel, with colours.
 * @example const { width, height } = loadPng(file)
 */
export const loadPng: MapLoader = (file) => {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength)
  if (file.length < 45 || SIGNATURE.some((byte, at) => file[at] !== byte) || view.getUint32(12) !== 0x49484452)
    throw new Error('it is not a PNG')
  const [width, height] = [view.getUint32(16), view.getUint32(20)]
  const [bits, colours] = [file[24], file[25]]
  checkSides(width, height)
  if (bits !== 8 || (colours !== 2 && colours !== 6)) throw new Error('it is not of 8 bits a channel')
  if (view.getUint32(file.length - 8) !== 0x49454e44) throw new Error('it is cut off')
  return plainMap(width, height)
}
