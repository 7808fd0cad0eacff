import type { Pixels } from './pixels.ts'

export interface NormalDirection {
  /** Whether green rises towards the top of the picture. */
  y: 'up' | 'down'
  /** 0: nothing to go by, 1: every slope agrees. */
  certainty: number
}

/** Below this the picture says nothing about its direction. */
export const LEAST_CERTAINTY = 0.1

/**
 * Finds which way green points. The slopes of a surface have no curl: how the slope across changes downwards equals how
 * the slope down changes across. With green the wrong way round the two are opposite, so the sign of their correlation
 * tells.
 *
 * @example const { y } = findNormalDirection(pixels)
 */
export function findNormalDirection({ width, height, data }: Pixels): NormalDirection {
  let [together, across, down] = [0, 0, 0]
  const slope = (x: number, y: number, channel: number): number => {
    const at = (y * width + x) * 4
    const z = Math.max(0.1, data[at + 2] / 127.5 - 1)
    return (data[at + channel] / 127.5 - 1) / z
  }
  const stride = Math.max(1, Math.floor(Math.sqrt((width * height) / 262_144)))
  for (let y = 1; y < height - 1; y += stride) {
    for (let x = 1; x < width - 1; x += stride) {
      const acrossChangesDown = slope(x, y + 1, 0) - slope(x, y - 1, 0)
      const downChangesAcross = slope(x + 1, y, 1) - slope(x - 1, y, 1)
      together += acrossChangesDown * downChangesAcross
      across += acrossChangesDown ** 2
      down += downChangesAcross ** 2
    }
  }
  const certainty = across * down > 0 ? Math.abs(together) / Math.sqrt(across * down) : 0
  // Rows run downwards: slopes that agree in the picture's own directions point down.
  return { y: together > 0 ? 'down' : 'up', certainty }
}

/**
 * The same normals with green turned the other way.
 * @example flipGreen(filled(1, [128, 55, 255, 255])).data[1] // 200
 */
export function flipGreen({ data, ...size }: Pixels): Pixels {
  const flipped = data.slice()
  for (let at = 1; at < flipped.length; at += 4) flipped[at] = 255 - flipped[at]
  return { ...size, data: flipped }
}
