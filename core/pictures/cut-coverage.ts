import type { Pixels } from './pixels.ts'

/**
 * Share of pixels whose opacity reaches the threshold (0–255).
 * @example coverageOf(filled(4, [0, 0, 0, 255]), 128) // 1
 */
export function coverageOf({ data }: Pixels, threshold: number): number {
  let there = 0
  for (let at = 3; at < data.length; at += 4) if (data[at] >= threshold) there++
  return there / (data.length / 4)
}

/**
 * Scales a level's opacity so that as large a share of it is drawn as of the first level: without this, cut-out leaves
 * and grids thin out with distance, since averaging pulls opacity below the threshold (Castaño, “Computing alpha
 * mipmaps”, 2010).
 *
 * @example const level = keepCoverage(half, 128, coverageOf(pixels, 128))
 */
export function keepCoverage(level: Pixels, threshold: number, wanted: number): Pixels {
  const count = level.data.length / 4
  const keep = Math.round(wanted * count)
  const sorted = Uint8Array.from({ length: count }, (_, pixel) => level.data[pixel * 4 + 3]).sort()
  // The opacity that the last pixel to be drawn has: it is brought up, or down, to the threshold.
  const last = keep === 0 ? 256 : sorted[count - keep]
  if (last === 0) return level
  const scale = threshold / last
  // Of pixels with just that opacity only so many are drawn, evenly spread, as are still wanted.
  const tied = sorted.reduce((sum, alpha) => sum + (alpha === last ? 1 : 0), 0)
  const share = tied === 0 ? 0 : (keep - sorted.reduce((sum, alpha) => sum + (alpha > last ? 1 : 0), 0)) / tied
  let met = 0
  const data = level.data.slice()
  for (let at = 3; at < data.length; at += 4) {
    const scaled = Math.min(255, Math.round(data[at] * scale))
    const isTied = data[at] === last
    const there = data[at] > last || (isTied && Math.floor((met + 1) * share) > Math.floor(met * share))
    if (isTied) met++
    // Rounding must not carry a pixel over the threshold in either direction.
    data[at] = there ? Math.max(threshold, scaled) : Math.min(threshold - 1, scaled)
  }
  return { ...level, data }
}
