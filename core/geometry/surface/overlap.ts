import { BufferAttribute, BufferGeometry, Matrix4 } from 'three'
import { MeshBVH } from 'three-mesh-bvh'

/** Tells whether another mesh meets this one; built once for many questions. */
export interface Overlap {
  /** @param way from the other mesh to this one, column by column */
  meets: (positions: Float32Array, indices: Uint32Array, way: readonly number[]) => boolean
}

/**
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 *
 * @example createOverlap(post.positions, post.indices).meets(arm.positions, arm.indices, way)
 */
export function createOverlap(positions: Float32Array, indices: Uint32Array): Overlap {
  if (indices.length === 0) return { meets: () => false }
  const bvh = treeOf(positions, indices)
  const others = new WeakMap<Float32Array, BufferGeometry>()
  return {
    meets(theirs, their, way) {
      if (their.length === 0) return false
      let other = others.get(theirs)
      if (!other) {
        other = geometryOf(theirs, their)
        other.boundsTree = new MeshBVH(other)
        others.set(theirs, other)
      }
      return bvh.intersectsGeometry(other, new Matrix4().fromArray(way))
    },
  }
}

function geometryOf(positions: Float32Array, indices: Uint32Array): BufferGeometry {
  const geometry = new BufferGeometry()
  geometry.setAttribute('position', new BufferAttribute(positions.slice(), 3))
  geometry.setIndex(new BufferAttribute(indices.slice(), 1))
  return geometry
}

const treeOf = (positions: Float32Array, indices: Uint32Array): MeshBVH => new MeshBVH(geometryOf(positions, indices))
