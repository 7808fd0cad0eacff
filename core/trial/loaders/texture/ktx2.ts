import { checkSides, levelSize, type MapLoader } from './loaded-map.ts'

const IDENTIFIER = [0xab, 0x4b, 0x54, 0x58, 0x20, 0x32, 0x30, 0xbb, 0x0d, 0x0a, 0x1a, 0x0a]
/** Vulkan’s numbers for the blocks that the card reads, plain and sRGB. */
const codecOf: Record<number, [codec: string, srgb: boolean]> = {
  131: ['bc1', false],
  132: ['bc1', true],
  133: ['bc1', false],
  134: ['bc1', true],
  137: ['bc3', false],
  138: ['bc3', true],
  139: ['bc4', false],
  141: ['bc5', false],
  145: ['bc7', false],
  146: ['bc7', true],
}

/**
 * One flat texture of blocks (Khronos, KTX File Format 2.0, section 3).
 * @example const { width, height } = loadKtx2(file)
 */
export const loadKtx2: MapLoader = (file) => {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength)
  if (file.length < 104 || IDENTIFIER.some((byte, at) => file[at] !== byte)) throw new Error('it is not a KTX 2')
  const word = (offset: number): number => view.getUint32(offset, true)
  const [format, width, height, depth, layers, faces, levels, packed] = [12, 20, 24, 28, 32, 36, 40, 44].map(word)
  const known = codecOf[format]
  if (!known) throw new Error('the card cannot read its blocks')
  if (depth !== 0 || layers !== 0 || faces !== 1) throw new Error('it is a cube, a volume or a row of textures')
  if (packed !== 0) throw new Error('its levels are packed')
  checkSides(width, height)
  if (levels < 1 || levels > 15 || file.length < 80 + levels * 24) throw new Error('its size is impossible')
  const [codec, srgb] = known
  let bytesOnCard = 0
  for (let level = 0; level < levels; level++) {
    const [start, length] = [word(80 + level * 24), word(88 + level * 24)]
    const wanted = levelSize(codec, width, height, level)
    if (length !== wanted || start + length > file.length) throw new Error('it is cut off')
    bytesOnCard += wanted
  }
  return { width, height, levels, codec, srgb: codec === 'bc4' || codec === 'bc5' ? false : srgb, bytesOnCard }
}
