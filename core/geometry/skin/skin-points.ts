import { blend } from '../../maths/bend.ts'
import { copyRow, emptyTable, sameRow, type WeightTable } from './weight-table.ts'

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
  blend(positions, table, matrices, true, out)
  return out
}

/**
 * How far other weights put a mesh elsewhere, at the most, over several poses: measured at every corner whose weights
 * differ, which is where it is largest, since in between it is blended.
 * @returns the distance in the unit of the positions, and the corner
 *
 * @example const { distance } = largestShift(positions, before, after, poses)
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
  const [old, made] = [before, after].map((table) => rowsOf(table, differing))
  const places = Float32Array.from(differing.flatMap((corner) => [...positions.subarray(corner * 3, corner * 3 + 3)]))
  let largest: { distance: number; corner: number | null } = { distance: 0, corner: null }
  for (const matrices of poses) {
    const [a, b] = [skinPoints(places, old, matrices), skinPoints(places, made, matrices)]
    differing.forEach((corner, at) => {
      const distance = Math.hypot(a[at * 3] - b[at * 3], a[at * 3 + 1] - b[at * 3 + 1], a[at * 3 + 2] - b[at * 3 + 2])
      if (distance > largest.distance) largest = { distance, corner }
    })
  }
  return largest
}

function rowsOf(table: WeightTable, corners: readonly number[]): WeightTable {
  const rows = emptyTable(corners.length, table.bones)
  corners.forEach((corner, at) => copyRow(table, corner, rows, at))
  return rows
}
