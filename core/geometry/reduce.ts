import { MeshoptSimplifier, type SimplifierFlags } from 'meshoptimizer/simplifier'

export interface ReduceRequest {
  /** 3 floats a corner; corners must be welded. */
  positions: Float32Array
  /** 3 a triangle. */
  indices: Uint32Array
  normals: Float32Array | null
  uvs: Float32Array | null
  targetTriangles: number
  /** Keep the corners along texture and normal seams together. */
  holdSeams: boolean
  /** Keep open borders where they are. */
  holdBorders: boolean
}

export interface Reduction {
  indices: Uint32Array
  /** Furthest shift of the surface, in the units of `positions`. */
  worstShift: number
}

/**
 * Fewer triangles by edge collapse with quadrics (Garland and Heckbert 1997), by meshoptimizer.
 * Never more than asked where the topology allows; never none at all.
 */
export async function reduceTriangles(request: ReduceRequest): Promise<Reduction> {
  await MeshoptSimplifier.ready
  const { indices, positions, targetTriangles } = request
  if (indices.length / 3 <= targetTriangles || indices.length === 0) return { indices, worstShift: 0 }
  const scale = MeshoptSimplifier.getScale(positions, 3)
  const flags: SimplifierFlags[] = []
  if (request.holdBorders) flags.push('LockBorder')
  if (!request.holdSeams) flags.push('Permissive')
  for (const errorLimit of [1, 0.3, 0.05]) {
    const [reduced, error] = simplify(request, flags, errorLimit)
    if (reduced.length > 0) return { indices: reduced, worstShift: error * scale }
  }
  return { indices, worstShift: 0 }
}

/** Weights after trials on curved and hard-edged meshes: UVs count as much as place, normals half. */
const NORMAL_WEIGHT = 0.5
const UV_WEIGHT = 1

function simplify(request: ReduceRequest, flags: SimplifierFlags[], errorLimit: number): [Uint32Array, number] {
  const { indices, positions, normals, uvs } = request
  const target = Math.max(1, Math.floor(request.targetTriangles)) * 3
  if (!normals && !uvs) return MeshoptSimplifier.simplify(indices, positions, 3, target, errorLimit, flags)
  const weights = [...(normals ? [NORMAL_WEIGHT, NORMAL_WEIGHT, NORMAL_WEIGHT] : []), ...(uvs ? [UV_WEIGHT, UV_WEIGHT] : [])]
  const stride = weights.length
  const cornerCount = positions.length / 3
  const attributes = new Float32Array(cornerCount * stride)
  for (let corner = 0; corner < cornerCount; corner++) {
    if (normals) for (let axis = 0; axis < 3; axis++) attributes[corner * stride + axis] = normals[corner * 3 + axis]
    if (uvs) for (let axis = 0; axis < 2; axis++) attributes[corner * stride + stride - 2 + axis] = uvs[corner * 2 + axis]
  }
  return MeshoptSimplifier.simplifyWithAttributes(indices, positions, 3, attributes, stride, weights, null, target, errorLimit, flags)
}

/** Corners that triangles use, in order of first use, and the index into them. */
export function compactCorners(indices: Uint32Array, cornerCount: number): { oldCorner: Uint32Array; indices: Uint32Array } {
  const newCorner = new Uint32Array(cornerCount).fill(0xffffffff)
  const oldCorner = new Uint32Array(cornerCount)
  let count = 0
  const compact = indices.map((corner) => {
    if (newCorner[corner] === 0xffffffff) {
      newCorner[corner] = count
      oldCorner[count++] = corner
    }
    return newCorner[corner]
  })
  return { oldCorner: oldCorner.slice(0, count), indices: compact }
}

/**
 * Shares a triangle budget among meshes: by the geometric mean of area and present count, so that a small
 * detailed thing and a large plain one both keep their shape. No share exceeds what the mesh has.
 */
export function shareBudget(meshes: readonly { triangles: number; area: number }[], budget: number): number[] {
  const total = meshes.reduce((sum, mesh) => sum + mesh.triangles, 0)
  if (total <= budget) return meshes.map((mesh) => mesh.triangles)
  const areaTotal = meshes.reduce((sum, mesh) => sum + mesh.area, 0) || 1
  const weights = meshes.map((mesh) => Math.sqrt((mesh.area / areaTotal) * (mesh.triangles / total)) || 1e-9)
  const shares = meshes.map(() => 0)
  const open = new Set(meshes.keys())
  let left = budget
  for (let round = 0; round < meshes.length && open.size > 0; round++) {
    const weightLeft = [...open].reduce((sum, index) => sum + weights[index], 0)
    const full = [...open].filter((index) => (left * weights[index]) / weightLeft >= meshes[index].triangles)
    if (full.length === 0) {
      for (const index of open) shares[index] = Math.max(1, Math.floor((left * weights[index]) / weightLeft))
      break
    }
    for (const index of full) {
      shares[index] = meshes[index].triangles
      left -= meshes[index].triangles
      open.delete(index)
    }
  }
  return shares
}

/** Surface area of triangles, in squared units of `positions`. */
export function surfaceArea(positions: Float32Array, indices: Uint32Array): number {
  let area = 0
  for (let index = 0; index < indices.length; index += 3) {
    const [a, b, c] = [indices[index] * 3, indices[index + 1] * 3, indices[index + 2] * 3]
    const [ux, uy, uz] = [positions[b] - positions[a], positions[b + 1] - positions[a + 1], positions[b + 2] - positions[a + 2]]
    const [vx, vy, vz] = [positions[c] - positions[a], positions[c + 1] - positions[a + 1], positions[c + 2] - positions[a + 2]]
    area += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2
  }
  return area
}
