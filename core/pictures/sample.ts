import type { EdgeMode } from './lay-out.ts'
import type { Pixels } from './pixels.ts'

/**
 * One point of a tiled picture, between its four nearest pixels.
 * @param u to the right, 0 to 1 across the picture; @param v downwards
 * @param target gets red, green, blue, alpha, 0 to 255
 */
export function sampleWrapped({ width, height, data }: Pixels, u: number, v: number, target: Float32Array): void {
  const x = (u - Math.floor(u)) * width - 0.5
  const y = (v - Math.floor(v)) * height - 0.5
  const left = Math.floor(x)
  const top = Math.floor(y)
  const [fx, fy] = [x - left, y - top]
  const x0 = left < 0 ? left + width : left
  const x1 = left + 1 >= width ? left + 1 - width : left + 1
  const y0 = top < 0 ? top + height : top
  const y1 = top + 1 >= height ? top + 1 - height : top + 1
  for (let channel = 0; channel < 4; channel++) {
    const above = data[(y0 * width + x0) * 4 + channel] * (1 - fx) + data[(y0 * width + x1) * 4 + channel] * fx
    const below = data[(y1 * width + x0) * 4 + channel] * (1 - fx) + data[(y1 * width + x1) * 4 + channel] * fx
    target[channel] = above * (1 - fy) + below * fy
  }
}

/**
 * The same for a picture that is mirrored or ends at its edges.
 * @example sampleWithEdges(picture, 1.25, 0.5, ['mirror', 'clamp'], target)
 */
export function sampleWithEdges(
  picture: Pixels,
  u: number,
  v: number,
  [across, down]: readonly [EdgeMode, EdgeMode],
  target: Float32Array,
): void {
  sampleWrapped(picture, insideEdges(u, picture.width, across), insideEdges(v, picture.height, down), target)
}

/**
 * Where a repeating picture shows what another would show there; half a pixel within its edges, so that the far side
 * does not bleed in.
 */
function insideEdges(value: number, size: number, mode: EdgeMode): number {
  if (mode === 'repeat') return value
  const folded = mode === 'clamp' ? value : value - 2 * Math.floor(value / 2)
  const mirrored = mode === 'mirror' && folded > 1 ? 2 - folded : folded
  return Math.min(1 - 0.5 / size, Math.max(0.5 / size, mirrored))
}
