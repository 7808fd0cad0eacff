/** Numbers that a surface shows at one place, all linear, 0 to 1. Null where nothing says it. */
export interface Shown {
  colour: [number, number, number]
  opacity: number
  roughness: number | null
  metalness: number | null
  occlusion: number | null
  glow: [number, number, number] | null
}

/** A decoded picture: straight RGBA, 4 bytes a pixel, the first row on top. */
export interface Picture {
  width: number
  height: number
  rgba: Uint8Array
}

/**
 * Triangles of one material as they are drawn, in the space of their file; winding already turned over under mirrored
 * nodes.
 */
export interface DrawnSurface {
  name: string
  /** 9 floats a triangle. */
  positions: Float32Array
  /** 9 floats a triangle; null where the file has none. */
  normals: Float32Array | null
  /** What is seen at a place: a triangle and two barycentric weights (of its second and third corner). */
  shown: ((triangle: number, b: number, c: number) => Shown) | null
  twoSided: boolean
  cut: number | null
  blended: boolean
}

/** Everything that is drawn, run together. */
export interface DrawnItem {
  surfaces: DrawnSurface[]
}

export const triangleCount = (item: DrawnItem): number =>
  item.surfaces.reduce((sum, surface) => sum + surface.positions.length / 9, 0)

/** Linear light of sRGB bytes (IEC 61966-2-1). */
export const linearOfByte: readonly number[] = Array.from({ length: 256 }, (_, byte) =>
  byte / 255 <= 0.04045 ? byte / 255 / 12.92 : ((byte / 255 + 0.055) / 1.055) ** 2.4,
)

/** sRGB, 0 to 255, of linear light. */
export const byteOfLinear = (value: number): number => {
  const bounded = Math.min(1, Math.max(0, value))
  return 255 * (bounded <= 0.0031308 ? bounded * 12.92 : 1.055 * bounded ** (1 / 2.4) - 0.055)
}

export type Wrap = 'repeat' | 'mirror' | 'clamp'

const wrapped = (value: number, size: number, wrap: Wrap): number => {
  if (wrap === 'clamp') return Math.min(size - 1, Math.max(0, value))
  if (wrap === 'repeat') return ((value % size) + size) % size
  const folded = ((value % (2 * size)) + 2 * size) % (2 * size)
  return folded < size ? folded : 2 * size - 1 - folded
}

/** Four numbers, 0 to 1, between the four nearest pixels; the first three from sRGB where `srgb`. */
export function sampleAt(
  { width, height, rgba }: Picture,
  u: number,
  v: number,
  wrapS: Wrap,
  wrapT: Wrap,
  srgb: boolean,
): [number, number, number, number] {
  const [x, y] = [u * width - 0.5, v * height - 0.5]
  const [x0, y0] = [Math.floor(x), Math.floor(y)]
  const out: [number, number, number, number] = [0, 0, 0, 0]
  for (const [dx, dy] of [
    [0, 0],
    [1, 0],
    [0, 1],
    [1, 1],
  ]) {
    const weight = (dx ? x - x0 : 1 - x + x0) * (dy ? y - y0 : 1 - y + y0)
    const at = (wrapped(y0 + dy, height, wrapT) * width + wrapped(x0 + dx, width, wrapS)) * 4
    for (let channel = 0; channel < 4; channel++)
      out[channel] += weight * (channel < 3 && srgb ? linearOfByte[rgba[at + channel]] : rgba[at + channel] / 255)
  }
  return out
}

/** A picture averaged over blocks, so that it is no larger than asked: what a finer one shows at that size. */
export function averagedTo(picture: Picture, mostPixels: number): Picture {
  let { width, height, rgba } = picture
  while (Math.max(width, height) > mostPixels && width % 2 === 0 && height % 2 === 0) {
    const half = new Uint8Array((width / 2) * (height / 2) * 4)
    for (let y = 0; y < height / 2; y++) {
      for (let x = 0; x < width / 2; x++) {
        for (let channel = 0; channel < 4; channel++) {
          const at = (row: number, column: number): number =>
            rgba[((y * 2 + row) * width + x * 2 + column) * 4 + channel]
          half[(y * (width / 2) + x) * 4 + channel] = Math.round((at(0, 0) + at(0, 1) + at(1, 0) + at(1, 1)) / 4)
        }
      }
    }
    width /= 2
    height /= 2
    rgba = half
  }
  return { width, height, rgba }
}
