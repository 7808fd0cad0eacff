import { MeshoptTangents } from 'meshoptimizer/tangents'
import { mixHash, tableSize } from './position-groups.ts'

/** Tangents of a mesh; corners are split where two triangles need different ones. */
export interface Tangents {
  oldCorner: Uint32Array
  indices: Uint32Array
  /** 4 floats a new corner: direction and the sign of the bitangent, as glTF has it. */
  tangents: Float32Array
}

/**
 * MikkTSpace-compatible tangents (Mikkelsen 2008) by meshoptimizer, one for each triangle corner, joined again
 * where they agree. Its sign is for V downward, glTF's for V as stored, so `w` is negated.
 */
export async function makeTangents(positions: Float32Array, normals: Float32Array, uvs: Float32Array, indices: Uint32Array): Promise<Tangents> {
  await MeshoptTangents.ready
  const perIndex = MeshoptTangents.generateTangents(indices, positions, 3, normals, 3, uvs, 2, ['Compatible'])
  const mask = tableSize(indices.length) - 1
  const table = new Uint32Array(mask + 1).fill(0xffffffff)
  const oldCorner = new Uint32Array(indices.length)
  const tangents = new Float32Array(indices.length * 4)
  const newIndices = new Uint32Array(indices.length)
  let count = 0
  const step = (value: number): number => Math.round(value * 512)
  for (let index = 0; index < indices.length; index++) {
    const values = unitTangent(perIndex, index)
    let slot = mixHash(mixHash(step(values[0]), step(values[1]), step(values[2])), indices[index], values[3]) & mask
    for (;;) {
      const known = table[slot]
      if (known === 0xffffffff) {
        table[slot] = count
        oldCorner[count] = indices[index]
        tangents.set(values, count * 4)
        newIndices[index] = count++
        break
      }
      if (oldCorner[known] === indices[index] && values.every((value, axis) => step(tangents[known * 4 + axis]) === step(value))) {
        newIndices[index] = known
        break
      }
      slot = (slot + 1) & mask
    }
  }
  return { oldCorner: oldCorner.slice(0, count), indices: newIndices, tangents: tangents.slice(0, count * 4) }
}

function unitTangent(perIndex: Float32Array, index: number): [number, number, number, number] {
  const [x, y, z, w] = [perIndex[index * 4], perIndex[index * 4 + 1], perIndex[index * 4 + 2], perIndex[index * 4 + 3]]
  const length = Math.hypot(x, y, z)
  const sign = w > 0 ? -1 : 1
  return length > 1e-6 ? [x / length, y / length, z / length, sign] : [1, 0, 0, sign]
}
