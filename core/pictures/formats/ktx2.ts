import { decompress as unpackZstandard } from 'fzstd'
import { unzlibSync } from 'fflate'
import { read as readKtx2, type KTX2Container } from 'ktx-parse'
import { decodeBasisKtx2, isBlockCodec } from '../codecs/block-codec.ts'
import { writeDds } from '../codecs/dds.ts'
import { decodeBlocks, type ReadableBlocks } from './blocks.ts'
import { assertSize, cutOff, type DecodedImage, type ImageFormat } from './image-format.ts'

const SIGNATURE = [0xab, 0x4b, 0x54, 0x58, 0x20, 0x32, 0x30, 0xbb, 0x0d, 0x0a, 0x1a, 0x0a]

/** KTX 2.0 (Khronos): the largest level of the first picture, Basis Universal, blocks or plain 8-bit channels. */
export const ktx2: ImageFormat = {
  title: 'KTX2',
  endings: ['ktx2'],
  begins: (bytes) => SIGNATURE.every((byte, index) => bytes[index] === byte),
  decode: decodeKtx2,
}

/** Vulkan format numbers. */
const vulkanBlocks: Record<number, ReadableBlocks> = {
  131: 'bc1',
  132: 'bc1',
  133: 'bc1',
  134: 'bc1',
  135: 'bc2',
  136: 'bc2',
  137: 'bc3',
  138: 'bc3',
  139: 'bc4',
  141: 'bc5',
  145: 'bc7',
  146: 'bc7',
}
/** For each plain format, which byte of a pixel is red, green, blue, alpha; null where there is none. */
const vulkanPlain: Record<number, { bytes: number; from: (number | null)[] }> = {
  9: { bytes: 1, from: [0, 0, 0, null] },
  15: { bytes: 1, from: [0, 0, 0, null] },
  16: { bytes: 2, from: [0, 1, null, null] },
  22: { bytes: 2, from: [0, 1, null, null] },
  23: { bytes: 3, from: [0, 1, 2, null] },
  29: { bytes: 3, from: [0, 1, 2, null] },
  30: { bytes: 3, from: [2, 1, 0, null] },
  36: { bytes: 3, from: [2, 1, 0, null] },
  37: { bytes: 4, from: [0, 1, 2, 3] },
  43: { bytes: 4, from: [0, 1, 2, 3] },
  44: { bytes: 4, from: [2, 1, 0, 3] },
  50: { bytes: 4, from: [2, 1, 0, 3] },
}

async function decodeKtx2(bytes: Uint8Array): Promise<DecodedImage> {
  const container = openContainer(bytes)
  const [width, height] = [container.pixelWidth, Math.max(1, container.pixelHeight)]
  assertSize(width, height)
  if (container.vkFormat === 0)
    return { pixels: await decodeBasisKtx2(bytes, width, height), detail: 'Basis Universal' }
  const blocks = vulkanBlocks[container.vkFormat]
  const pixel = vulkanPlain[container.vkFormat]
  const level = firstLevel(container, width * height)
  if (blocks) return { pixels: await decodeBlocks(level, blocks, width, height), detail: blocks.toUpperCase() }
  if (!pixel) throw new Error(`its pixel format (number ${container.vkFormat}) is not read`)
  if (level.length < width * height * pixel.bytes) throw cutOff()
  const data = new Uint8Array(width * height * 4)
  for (let at = 0; at < width * height; at++) {
    pixel.from.forEach((byte, channel) => {
      data[at * 4 + channel] = byte === null ? (channel === 3 ? 255 : 0) : level[at * pixel.bytes + byte]
    })
  }
  return { pixels: { width, height, data }, detail: `${pixel.bytes * 8}-bit` }
}

/** Vulkan format numbers of the codecs that are written, as sRGB and as they are. */
const srgbFormats: ReadonlySet<number> = new Set([132, 134, 138, 146])

/**
 * The blocks of a KTX2 file with all its levels, as a DDS file holds them; null where it holds something else, or
 * packed once more.
 * @throws Error when the file is damaged
 *
 * @example const dds = ktx2AsDds(bytes)
 */
export function ktx2AsDds(bytes: Uint8Array): Uint8Array | null {
  const container = openContainer(bytes)
  const { pixelWidth: width, pixelHeight: height, vkFormat, levels } = container
  const codec = vulkanBlocks[vkFormat]
  if (!codec || !isBlockCodec(codec) || container.supercompressionScheme !== 0) return null
  const data = levels.map(({ levelData }) => levelData)
  return writeDds(codec, srgbFormats.has(vkFormat), width, Math.max(1, height), data)
}

function openContainer(bytes: Uint8Array): KTX2Container {
  const levels = bytes.length >= 80 ? new DataView(bytes.buffer, bytes.byteOffset).getUint32(40, true) : 0
  if (bytes.length < 80 || levels > 32) throw new Error('its header is damaged')
  try {
    return readKtx2(bytes)
  } catch {
    throw new Error('its header is damaged')
  }
}

/** Bytes of the largest level, unpacked; what they unpack to is bounded by the picture's size. */
function firstLevel(container: KTX2Container, pixelCount: number): Uint8Array {
  const level = container.levels[0]
  if (!level) throw new Error('it holds no picture')
  const most = pixelCount * 16 + 4096
  if (level.uncompressedByteLength > most) throw new Error('it would unpack to more than its size allows')
  const room = new Uint8Array(level.uncompressedByteLength)
  if (container.supercompressionScheme === 0) return level.levelData
  if (container.supercompressionScheme === 2) return unpackZstandard(level.levelData, room)
  if (container.supercompressionScheme === 3) return unzlibSync(level.levelData, { out: room })
  throw new Error('its supercompression is not read')
}
