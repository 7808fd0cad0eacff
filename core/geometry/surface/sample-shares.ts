/** So many meshes may have as many samples as they like; what there is beyond shares. */
const FULL_MESHES = 6
/** What every mesh gets, by its triangles: a box needs fewer places than a bust. */
const LEAST = 10
const MOST_OF_LEAST = 40

/**
 * How many samples each of several meshes is measured at, by its share of all triangles: as many as one likes where
 * there are few meshes, so that the work grows with the triangles of an item and not with its parts.
 * @param triangles of each mesh
 * @param most samples of one mesh
 * @param full how many meshes may have as many
 *
 * @example sampleShares([500], 1000) // [1000]
 */
export function sampleShares(triangles: readonly number[], most: number, full = FULL_MESHES): number[] {
  const total = triangles.reduce((sum, count) => sum + count, 0)
  return triangles.map((count) =>
    Math.min(most, Math.max(leastOf(count), Math.round((most * full * count) / Math.max(1, total)))),
  )
}

const leastOf = (triangles: number): number => Math.max(LEAST, Math.min(MOST_OF_LEAST, triangles))
