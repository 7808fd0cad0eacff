import { sameRow, SLOTS, type WeightTable } from './weight-table.ts'

/** Ways of all bones from the mesh at rest to where they hold it, 16 numbers each, column-major. */
export type BoneMatrices = Float64Array

/**
 * Where bones hold each corner: the sum of what each bone makes of it, by weight (linear blend skinning; glTF 2.0
 * specification, section 3.7.3.3). A corner that nothing holds stays where it is.
 * @param positions 3 floats a corner, as the mesh lies at rest
 *
 * @example const bent = skinPoints(positions, table, matrices)
 */
export function skinPoints(positions: Float32Array, table: WeightTable, matrices: BoneMatrices): Float32Array {
  const out = new Float32Array(positions.length)
  const place: [number, number, number] = [0, 0, 0]
  for (let corner = 0; corner < table.corners; corner++) {
    skinPoint(positions, table, corner, matrices, place)
    out.set(place, corner * 3)
  }
  return out
}

function skinPoint(
  positions: Float32Array,
  { boneOf, weightOf }: WeightTable,
  corner: number,
  m: BoneMatrices,
  into: [number, number, number],
): void {
  const [x, y, z] = [positions[corner * 3], positions[corner * 3 + 1], positions[corner * 3 + 2]]
  let [sx, sy, sz, sum] = [0, 0, 0, 0]
  for (let slot = corner * SLOTS; slot < (corner + 1) * SLOTS; slot++) {
    const weight = weightOf[slot]
    if (weight === 0) continue
    const at = boneOf[slot] * 16
    sum += weight
    sx += weight * (m[at] * x + m[at + 4] * y + m[at + 8] * z + m[at + 12])
    sy += weight * (m[at + 1] * x + m[at + 5] * y + m[at + 9] * z + m[at + 13])
    sz += weight * (m[at + 2] * x + m[at + 6] * y + m[at + 10] * z + m[at + 14])
  }
  into[0] = sum > 0 ? sx : x
  into[1] = sum > 0 ? sy : y
  into[2] = sum > 0 ? sz : z
}

/**
 * How far other weights put a mesh elsewhere, at the most, over several poses: measured at every corner whose weights
 * differ, which is where it is largest, since in between it is blended.
 * @returns the distance in the unit of the positions, and the corner
 */
export function largestShift(
  positions: Float32Array,
  before: WeightTable,
  after: WeightTable,
  poses: Iterable<BoneMatrices>,
): { distance: number; corner: number | null } {
  const differing = Array.from({ length: before.corners }, (_, corner) => corner).filter(
    (corner) => !sameRow(before, corner, after, corner),
  )
  const [old, made]: [[number, number, number], [number, number, number]] = [
    [0, 0, 0],
    [0, 0, 0],
  ]
  let largest: { distance: number; corner: number | null } = { distance: 0, corner: null }
  for (const matrices of poses)
    for (const corner of differing) {
      skinPoint(positions, before, corner, matrices, old)
      skinPoint(positions, after, corner, matrices, made)
      const distance = Math.hypot(old[0] - made[0], old[1] - made[1], old[2] - made[2])
      if (distance > largest.distance) largest = { distance, corner }
    }
  return largest
}
