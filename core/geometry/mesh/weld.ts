import { groupPositions, mixHash, tableSize, type PositionGroups } from './position-groups.ts'

export interface WeldTolerances {
  /** Distance in scene units. */
  position: number
  /** Largest difference of one UV or normal component at which two corners are still one. */
  attribute: number
}

export interface Weld {
  /** Corners by place, at the given distance. */
  groups: PositionGroups
  /** New corner of each old corner. */
  newCorner: Uint32Array
  /** Old corner that each new corner is taken from. */
  oldCorner: Uint32Array
}

const EMPTY = 0xffffffff

/**
 * Joins corners that stand in one place and agree in every other attribute.
 * @param positions 3 floats a corner
 * @param attributes further per-corner floats (UVs, normals, …) with their sizes
 *
 * @example const { newCorner, oldCorner } = weldCorners(positions, [{ array: uvs, size: 2 }], tolerances)
 */
export function weldCorners(
  positions: Float32Array,
  attributes: readonly { array: ArrayLike<number>; size: number }[],
  tolerances: WeldTolerances,
): Weld {
  const groups = groupPositions(positions, tolerances.position)
  const { groupOfCorner } = groups
  const cornerCount = groupOfCorner.length
  const steps = attributes.map(({ array, size }) => quantise(array, size, cornerCount, tolerances.attribute))
  const mask = tableSize(cornerCount) - 1
  const table = new Uint32Array(mask + 1).fill(EMPTY)
  const newCorner = new Uint32Array(cornerCount)
  const oldCorner = new Uint32Array(cornerCount)
  let count = 0
  const same = (first: number, second: number): boolean => {
    if (groupOfCorner[first] !== groupOfCorner[second]) return false
    for (let each = 0; each < steps.length; each++) {
      const { size } = attributes[each]
      const values = steps[each]
      for (let axis = 0; axis < size; axis++)
        if (values[first * size + axis] !== values[second * size + axis]) return false
    }
    return true
  }
  for (let corner = 0; corner < cornerCount; corner++) {
    let hash = groupOfCorner[corner]
    for (let each = 0; each < steps.length; each++) {
      const { size } = attributes[each]
      for (let axis = 0; axis < size; axis++) hash = mixHash(hash, steps[each][corner * size + axis], axis)
    }
    let slot = mixHash(hash, 0, 1) & mask
    while (table[slot] !== EMPTY && !same(oldCorner[table[slot]], corner)) slot = (slot + 1) & mask
    if (table[slot] === EMPTY) {
      table[slot] = count
      oldCorner[count++] = corner
    }
    newCorner[corner] = table[slot]
  }
  return { groups, newCorner, oldCorner: oldCorner.slice(0, count) }
}

function quantise(array: ArrayLike<number>, size: number, cornerCount: number, tolerance: number): Int32Array {
  const steps = new Int32Array(cornerCount * size)
  for (let index = 0; index < steps.length; index++) steps[index] = Math.round(array[index] / tolerance)
  return steps
}

/**
 * Triangles whose three corners are different places; the others are dropped.
 * @example [...dropCollapsed(Uint32Array.of(0, 1, 2, 2, 1, 3), [0, 1, 2, 1])] // [0, 1, 2]
 */
export function dropCollapsed(indices: Uint32Array, placeOfCorner: ArrayLike<number>): Uint32Array {
  const kept = new Uint32Array(indices.length)
  let count = 0
  for (let index = 0; index < indices.length; index += 3) {
    const [a, b, c] = [indices[index], indices[index + 1], indices[index + 2]]
    const [pa, pb, pc] = [placeOfCorner[a], placeOfCorner[b], placeOfCorner[c]]
    if (pa === pb || pb === pc || pc === pa) continue
    kept[count++] = a
    kept[count++] = b
    kept[count++] = c
  }
  return kept.slice(0, count)
}
