import { SLOTS, type HeldCorners } from '../../maths/bend.ts'

export { SLOTS }

/**
 * Which bones hold each corner, and by how much: `SLOTS` places a corner, strongest first, unused ones weigh 0.
 */
export interface WeightTable extends HeldCorners {
  /** How many bones the skin has; every number in `boneOf` is smaller. */
  bones: number
  corners: number
}

/**
 * A table in which nothing is held yet.
 * @example weightSum(emptyTable(3, 2), 0) // 0
 */
export const emptyTable = (corners: number, bones: number): WeightTable => ({
  bones,
  corners,
  boneOf: new Uint16Array(corners * SLOTS),
  weightOf: new Float32Array(corners * SLOTS),
})

/**
 * A table of its own, with the same weights.
 * @example const before = copyTable(table)
 */
export const copyTable = (table: WeightTable): WeightTable => ({
  ...table,
  boneOf: table.boneOf.slice(),
  weightOf: table.weightOf.slice(),
})

/**
 * Gives a corner to one bone alone.
 * @example for (const corner of rigid) holdByOne(table, corner, lidBone)
 */
export function holdByOne({ boneOf, weightOf }: WeightTable, corner: number, bone: number): void {
  const at = corner * SLOTS
  boneOf.fill(0, at, at + SLOTS)
  weightOf.fill(0, at, at + SLOTS)
  boneOf[at] = bone
  weightOf[at] = 1
}

/**
 * What a corner's weights make together; 1 where all is well, 0 where nothing holds it.
 * @example if (weightSum(table, corner) === 0) unheld.push(corner)
 */
export function weightSum({ weightOf }: WeightTable, corner: number): number {
  let sum = 0
  for (let at = corner * SLOTS; at < (corner + 1) * SLOTS; at++) sum += weightOf[at]
  return sum
}

/**
 * How much one bone holds of a corner, 0 to 1.
 * @example const share = weightOfBone(table, corner, lidBone)
 */
export function weightOfBone({ boneOf, weightOf }: WeightTable, corner: number, bone: number): number {
  for (let at = corner * SLOTS; at < (corner + 1) * SLOTS; at++)
    if (boneOf[at] === bone && weightOf[at] > 0) return weightOf[at]
  return 0
}

/**
 * Copies a corner's row into another table, or another corner.
 * @example copyRow(source, nearestCorner, table, corner)
 */
export function copyRow(from: WeightTable, corner: number, to: WeightTable, target: number): void {
  for (let slot = 0; slot < SLOTS; slot++) {
    to.boneOf[target * SLOTS + slot] = from.boneOf[corner * SLOTS + slot]
    to.weightOf[target * SLOTS + slot] = from.weightOf[corner * SLOTS + slot]
  }
}

/**
 * Whether two corners follow the same bones by the same weights.
 * @example sameRow(emptyTable(2, 1), 0, emptyTable(2, 1), 1) // true
 */
export function sameRow(a: WeightTable, cornerA: number, b: WeightTable, cornerB: number): boolean {
  for (let slot = 0; slot < SLOTS; slot++) {
    const [atA, atB] = [cornerA * SLOTS + slot, cornerB * SLOTS + slot]
    if (a.weightOf[atA] !== b.weightOf[atB]) return false
    if (a.weightOf[atA] > 0 && a.boneOf[atA] !== b.boneOf[atB]) return false
  }
  return true
}

/**
 * Sums weights for one corner at a time and stores the strongest, made to sum to 1. Its room grows with the number of
 * bones, its work with what is added.
 *
 * @example
 * gather.add(0, 0.5); gather.add(3, 0.5); gather.store(table, corner)
 */
export class WeightGatherer {
  private readonly sums: Float64Array
  private readonly touched: number[] = []

  constructor(bones: number) {
    this.sums = new Float64Array(bones)
  }

  add(bone: number, weight: number): void {
    if (!(weight > 0) || !(bone < this.sums.length)) return
    if (this.sums[bone] === 0) this.touched.push(bone)
    this.sums[bone] += weight
  }

  /** Adds a corner's whole row, by a share. */
  addRow({ boneOf, weightOf }: WeightTable, corner: number, share: number): void {
    for (let at = corner * SLOTS; at < (corner + 1) * SLOTS && weightOf[at] > 0; at++)
      this.add(boneOf[at], weightOf[at] * share)
  }

  /**
   * Stores the strongest, and begins anew. What weighs less than `least` of the whole is left out; nothing added leaves
   * the row without a bone.
   */
  store(table: WeightTable, corner: number, most = SLOTS, least = 0): void {
    const { sums, touched } = this
    if (touched.length > 1) touched.sort((a, b) => sums[b] - sums[a] || a - b)
    let whole = 0
    for (const bone of touched) whole += sums[bone]
    const room = Math.min(most, SLOTS)
    let count = 0
    let kept = 0
    while (count < touched.length && count < room && (count === 0 || sums[touched[count]] >= least * whole))
      kept += sums[touched[count++]]
    const at = corner * SLOTS
    for (let slot = 0; slot < SLOTS; slot++) {
      table.boneOf[at + slot] = slot < count ? touched[slot] : 0
      table.weightOf[at + slot] = slot < count ? (count === 1 ? 1 : sums[touched[slot]] / kept) : 0
    }
    for (const bone of touched) sums[bone] = 0
    touched.length = 0
  }
}
