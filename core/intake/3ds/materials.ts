import type { ByteReader } from '../../support/byte-reader.ts'
import type { TextureRole } from '../../item/extras.ts'
import {
  linearOf,
  placeRising,
  roughnessOfExponent,
  type SourceMap,
  type SourceMaterial,
} from '../scene/source-scene.ts'
import type { ChunkWalker } from './chunks.ts'

const mapChunks: Record<number, TextureRole> = {
  0xa200: 'colour',
  0xa33a: 'colour',
  0xa230: 'normal',
  0xa204: 'specular',
  0xa210: 'opacity',
  0xa220: 'other',
  0xa33c: 'gloss',
  0xa33d: 'other',
}
const LONGEST_NAME = 4096

/**
 * A material block (0xAFFF).
 * @example materials.push(readMaterial(walker, block))
 */
export function readMaterial(walker: ChunkWalker, block: ByteReader): SourceMaterial {
  const material: SourceMaterial = {
    name: 'material',
    colour: [0.6, 0.6, 0.6, 1],
    metalness: 0,
    roughness: 0.9,
    maps: [],
  }
  walker.each(block, (id, content) => {
    if (id === 0xa000) material.name = content.textToZero(LONGEST_NAME)
    else if (id === 0xa020) material.colour = [...readColour(walker, content), material.colour[3]]
    else if (id === 0xa040) material.roughness = roughnessOfExponent(readShare(walker, content) * 128)
    else if (id === 0xa050) material.colour[3] = 1 - readShare(walker, content)
    else if (id === 0xa081) material.twoSided = true
    else if (mapChunks[id]) {
      const map = readMap(walker, content, mapChunks[id])
      if (map) material.maps.push(map)
    }
  })
  return material
}

/**
 * A map block: its file, how its edges end (bit 1 mirrors, bit 4 ends the picture), and what its UVs are scaled and
 * moved by.
 */
function readMap(walker: ChunkWalker, content: ByteReader, role: TextureRole): SourceMap | null {
  let path: string | null = null
  let wrap: Pick<SourceMap, 'wrap'> = {}
  const [scale, moves]: [[number, number], [number, number]] = [
    [1, 1],
    [0, 0],
  ]
  walker.each(content, (id, inner) => {
    if (id === 0xa300) path = inner.textToZero(LONGEST_NAME)
    else if (id === 0xa351) {
      const flags = inner.uint16()
      if (flags & 0x10) wrap = { wrap: 'clamp' }
      else if (flags & 0x2) wrap = { wrap: 'mirror' }
    } else if (id === 0xa354 || id === 0xa356) scale[id === 0xa354 ? 0 : 1] = inner.float32() || 1
    else if (id === 0xa358 || id === 0xa35a) moves[id === 0xa358 ? 0 : 1] = inner.float32()
  })
  const whole = [...scale, ...moves].every(Number.isFinite)
  return path === null ? null : { role, path, ...wrap, ...(whole ? placeRising(scale, moves) : {}) }
}

/**
 * A colour in one of the four ways it may be written, as linear RGB.
 * @example const diffuse = readColour(walker, content)
 */
export function readColour(walker: ChunkWalker, content: ByteReader): [number, number, number] {
  let colour: [number, number, number] = [0.6, 0.6, 0.6]
  walker.each(content, (id, numbers) => {
    if (id === 0x0010 || id === 0x0013) colour = [numbers.float32(), numbers.float32(), numbers.float32()]
    if (id === 0x0011 || id === 0x0012) colour = [numbers.uint8() / 255, numbers.uint8() / 255, numbers.uint8() / 255]
  })
  return colour.map(linearOf) as [number, number, number]
}

function readShare(walker: ChunkWalker, content: ByteReader): number {
  let share = 0
  walker.each(content, (id, number) => {
    if (id === 0x0030) share = number.int16() / 100
    if (id === 0x0031) share = number.float32() / 100
  })
  return Math.min(1, Math.max(0, share))
}
