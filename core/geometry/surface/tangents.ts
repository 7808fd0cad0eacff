import { lengthOfXyz } from '../../maths/vectors.ts'
import { MeshoptTangents } from 'meshoptimizer/tangents'
import { splitCorners } from '../mesh/split-corners.ts'

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
 *
 * @example const { tangents } = await makeTangents(positions, normals, uvs, indices)
 */
export async function makeTangents(
  positions: Float32Array,
  normals: Float32Array,
  uvs: Float32Array,
  indices: Uint32Array,
): Promise<Tangents> {
  await MeshoptTangents.ready
  const perIndex = MeshoptTangents.generateTangents(indices, positions, 3, normals, 3, uvs, 2, ['Compatible'])
  for (let at = 0; at < perIndex.length; at += 4) {
    const length = lengthOfXyz(perIndex[at], perIndex[at + 1], perIndex[at + 2])
    const usable = length > 1e-6
    perIndex[at] = usable ? perIndex[at] / length : 1
    perIndex[at + 1] = usable ? perIndex[at + 1] / length : 0
    perIndex[at + 2] = usable ? perIndex[at + 2] / length : 0
    perIndex[at + 3] = perIndex[at + 3] > 0 ? -1 : 1
  }
  const split = splitCorners(indices, perIndex, 4, 512)
  return { oldCorner: split.oldCorner, indices: split.indices, tangents: split.values }
}
