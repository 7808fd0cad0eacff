import { mixHash, tableSize } from './position-groups.ts'

/** Corners split where triangles that share one need different values there. */
export interface SplitCorners {
  /** Old corner that each new corner is taken from. */
  oldCorner: Uint32Array
  /** 3 a triangle. */
  indices: Uint32Array
  /** `size` floats a new corner. */
  values: Float32Array
}

const EMPTY = 0xffffffff

/**
 * Joins per-triangle-corner values back into per-corner ones: triangle corners of one old corner stay together
 * while their values agree to `1 / steps`.
 * @param perIndex `size` floats for each entry of `indices`
 *
 * @example const { indices, values } = splitCorners(mesh.indices, normalOfIndex, 3, 1000)
 */
export function splitCorners(indices: Uint32Array, perIndex: Float32Array, size: number, steps: number): SplitCorners {
  const mask = tableSize(indices.length) - 1
  const table = new Uint32Array(mask + 1).fill(EMPTY)
  const oldCorner = new Uint32Array(indices.length)
  const values = new Float32Array(indices.length * size)
  const newIndices = new Uint32Array(indices.length)
  let count = 0
  const agrees = (known: number, index: number): boolean => {
    if (oldCorner[known] !== indices[index]) return false
    for (let axis = 0; axis < size; axis++) {
      if (Math.round(values[known * size + axis] * steps) !== Math.round(perIndex[index * size + axis] * steps))
        return false
    }
    return true
  }
  for (let index = 0; index < indices.length; index++) {
    let hash = indices[index]
    for (let axis = 0; axis < size; axis++)
      hash = mixHash(hash, Math.round(perIndex[index * size + axis] * steps), axis)
    let slot = hash & mask
    while (table[slot] !== EMPTY && !agrees(table[slot], index)) slot = (slot + 1) & mask
    if (table[slot] === EMPTY) {
      table[slot] = count
      oldCorner[count] = indices[index]
      for (let axis = 0; axis < size; axis++) values[count * size + axis] = perIndex[index * size + axis]
      count++
    }
    newIndices[index] = table[slot]
  }
  return { oldCorner: oldCorner.slice(0, count), indices: newIndices, values: values.slice(0, count * size) }
}
