import { blockBytes, type MapLoader } from './loaded-map.ts'

const codecOf: Record<number, string> = {
  71: 'bc1',
  72: 'bc1',
  77: 'bc3',
  78: 'bc3',
  80: 'bc4',
  83: 'bc5',
  98: 'bc7',
  99: 'bc7',
}
const srgbFormats = new Set([72, 78, 99])

/**
 * DDS with the DX10 header, as Microsoft documents it.
 * @example const { width, height } = loadDds(file)
 */
export const loadDds: MapLoader = (file) => {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength)
  if (file.length < 128 || view.getUint32(0, true) !== 0x20534444 || view.getUint32(4, true) !== 124)
    throw new Error('it is not a DDS')
  if (view.getUint32(84, true) !== 0x30315844 || file.length < 148) throw new Error('its header has no DX10 part')
  const codec = codecOf[view.getUint32(128, true)]
  if (!codec) throw new Error('the card cannot read its blocks')
  // Dimension 3 is a flat texture; bit 2 of the next word says cube; then how many stand in a row.
  if (
    view.getUint32(132, true) !== 3 ||
    (view.getUint32(136, true) & 4) !== 0 ||
    view.getUint32(140, true) !== 1 ||
    (view.getUint32(112, true) & 0x200200) !== 0
  )
    throw new Error('it is a cube, a volume or a row of textures')
  const height = view.getUint32(12, true)
  const width = view.getUint32(16, true)
  const levels = view.getUint32(28, true)
  if (width < 1 || height < 1 || width > 16384 || height > 16384 || levels < 1 || levels > 15)
    throw new Error('its size is impossible')
  let bytesOnCard = 0
  for (let level = 0; level < levels; level++) {
    const across = Math.max(1, Math.ceil((width >> level) / 4))
    const down = Math.max(1, Math.ceil((height >> level) / 4))
    bytesOnCard += across * down * blockBytes[codec]
  }
  if (file.length < 148 + bytesOnCard) throw new Error('it is cut off')
  if (file.length > 148 + bytesOnCard) throw new Error(`${file.length - 148 - bytesOnCard} bytes follow its last level`)
  return { width, height, levels, codec, srgb: srgbFormats.has(view.getUint32(128, true)), bytesOnCard }
}
