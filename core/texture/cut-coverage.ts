import type { Pixels } from './pixels.ts'

/** Share of pixels whose opacity reaches the threshold (0–255). */
export function coverageOf({ data }: Pixels, threshold: number): number {
  let there = 0
  for (let at = 3; at < data.length; at += 4) if (data[at] >= threshold) there++
  return there / (data.length / 4)
}

/**
 * Scales a level's opacity so that as large a share of it is drawn as of the first level: without this, cut-out leaves and
 * grids thin out with distance, since averaging pulls opacity below the threshold (Castaño, “Computing alpha mipmaps”, 2010).
 */
export function keepCoverage(level: Pixels, threshold: number, wanted: number): Pixels {
  const count = level.data.length / 4
  const keep = Math.round(wanted * count)
  const sorted = Uint8Array.from({ length: count }, (_, pixel) => level.data[pixel * 4 + 3]).sort()
  // The opacity that the last pixel to be drawn has: it is brought up, or down, to the threshold.
  const last = keep === 0 ? 256 : sorted[count - keep]
  if (last === 0) return level
  const scale = threshold / last
  const data = level.data.slice()
  for (let at = 3; at < data.length; at += 4) {
    const scaled = Math.min(255, Math.round(data[at] * scale))
    // Rounding must not carry a pixel over the threshold in either direction.
    data[at] = data[at] >= last ? Math.max(threshold, scaled) : Math.min(threshold - 1, scaled)
  }
  return { ...level, data }
}
