import type { Pixels } from './pixels.ts'

/** How a map's numbers are to be averaged. */
export type Meaning = 'colour' | 'normal' | 'data'

/** sRGB transfer function, byte to linear light (IEC 61966-2-1). */
const toLinear = Float32Array.from({ length: 256 }, (_, value) => {
  const level = value / 255
  return level <= 0.04045 ? level / 12.92 : ((level + 0.055) / 1.055) ** 2.4
})

function toByte(linear: number): number {
  const level = linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055
  return Math.min(255, Math.max(0, Math.round(level * 255)))
}

const clampByte = (value: number): number => Math.min(255, Math.max(0, Math.round(value)))

/**
 * Resamples by a triangle filter as wide as the larger of the two pixel sizes, edges repeating as a tiled
 * map does. Colour is averaged in linear light and weighted by opacity, so that nothing bleeds out of clear
 * pixels; normals are made unit length again.
 */
export function resizePixels(pixels: Pixels, width: number, height: number, meaning: Meaning): Pixels {
  if (pixels.width === width && pixels.height === height) return pixels
  const across = resampleRows(decodeFloats(pixels, meaning), pixels.width, pixels.height, width)
  const turned = transpose(across, width, pixels.height)
  const down = resampleRows(turned, pixels.height, width, height)
  return { width, height, data: encodeFloats(transpose(down, height, width), meaning) }
}

function decodeFloats({ data }: Pixels, meaning: Meaning): Float32Array {
  const floats = new Float32Array(data.length)
  for (let at = 0; at < data.length; at += 4) {
    const alpha = data[at + 3] / 255
    // A little weight is kept on clear pixels so that their colour survives where all are clear.
    const weight = meaning === 'colour' ? Math.max(alpha, 1 / 1024) : 1
    for (let channel = 0; channel < 3; channel++) {
      const value = data[at + channel]
      floats[at + channel] = meaning === 'colour' ? toLinear[value] * weight : meaning === 'normal' ? value / 127.5 - 1 : value
    }
    floats[at + 3] = meaning === 'colour' ? weight : data[at + 3]
  }
  return floats
}

function encodeFloats(floats: Float32Array, meaning: Meaning): Uint8Array {
  const data = new Uint8Array(floats.length)
  for (let at = 0; at < floats.length; at += 4) {
    if (meaning === 'colour') {
      const weight = floats[at + 3]
      for (let channel = 0; channel < 3; channel++) data[at + channel] = weight > 0 ? toByte(floats[at + channel] / weight) : 0
      data[at + 3] = clampByte(weight <= 1 / 1024 + 1e-6 ? 0 : weight * 255)
    } else if (meaning === 'normal') {
      const length = Math.hypot(floats[at], floats[at + 1], floats[at + 2]) || 1
      for (let channel = 0; channel < 3; channel++) data[at + channel] = clampByte((floats[at + channel] / length + 1) * 127.5)
      data[at + 3] = clampByte(floats[at + 3])
    } else for (let channel = 0; channel < 4; channel++) data[at + channel] = clampByte(floats[at + channel])
  }
  return data
}

/** Each row of RGBA floats from `width` to `newWidth` samples. */
function resampleRows(floats: Float32Array, width: number, height: number, newWidth: number): Float32Array {
  if (width === newWidth) return floats
  const out = new Float32Array(newWidth * height * 4)
  const scale = width / newWidth
  const radius = Math.max(1, scale)
  for (let x = 0; x < newWidth; x++) {
    const centre = (x + 0.5) * scale - 0.5
    const first = Math.ceil(centre - radius)
    const last = Math.floor(centre + radius)
    const weights: number[] = []
    const columns: number[] = []
    let total = 0
    for (let source = first; source <= last; source++) {
      const weight = Math.max(0, 1 - Math.abs(source - centre) / radius)
      if (weight === 0) continue
      weights.push(weight)
      columns.push((((source % width) + width) % width) * 4)
      total += weight
    }
    for (let y = 0; y < height; y++) {
      const row = y * width * 4
      let [r, g, b, a] = [0, 0, 0, 0]
      for (let tap = 0; tap < weights.length; tap++) {
        const at = row + columns[tap]
        const weight = weights[tap]
        r += floats[at] * weight
        g += floats[at + 1] * weight
        b += floats[at + 2] * weight
        a += floats[at + 3] * weight
      }
      const target = (y * newWidth + x) * 4
      out[target] = r / total
      out[target + 1] = g / total
      out[target + 2] = b / total
      out[target + 3] = a / total
    }
  }
  return out
}

function transpose(floats: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(floats.length)
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const from = (y * width + x) * 4
      const to = (x * height + y) * 4
      for (let channel = 0; channel < 4; channel++) out[to + channel] = floats[from + channel]
    }
  }
  return out
}

/** The picture and every half-size level below it, down to one pixel. Each is made from the one above. */
export function mipmapChain(pixels: Pixels, meaning: Meaning): Pixels[] {
  const chain = [pixels]
  for (let level = pixels; level.width > 1 || level.height > 1; ) {
    level = resizePixels(level, Math.max(1, level.width >> 1), Math.max(1, level.height >> 1), meaning)
    chain.push(level)
  }
  return chain
}

/** The power of two nearest to a length on a logarithmic scale, between two limits. */
export function nearestPowerOfTwo(length: number, smallest: number, largest: number): number {
  const power = 2 ** Math.round(Math.log2(Math.max(1, length)))
  return Math.min(largest, Math.max(smallest, power))
}

export const isPowerOfTwo = (length: number): boolean => Number.isInteger(Math.log2(length))
