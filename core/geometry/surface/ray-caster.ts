import { BufferAttribute, BufferGeometry, DoubleSide, FrontSide, Ray, Vector3 } from 'three'
import { MeshBVH } from 'three-mesh-bvh'

/** What a ray met first. */
export interface RayHit {
  triangle: number
  distance: number
  /** Whether the ray met the triangle's outward side. */
  front: boolean
}

/** Casts rays at triangles; built once for many rays. */
export interface RayCaster {
  /** The nearest triangle along a ray, either side. `origin` and `direction` have 3 numbers. */
  first: (origin: readonly number[], direction: readonly number[]) => RayHit | null
}

/** The same, where it is also asked how far off the first is that shows its front. */
export interface SidedRayCaster extends RayCaster {
  /** Infinity where none does. */
  firstFrontDistance: (origin: readonly number[], direction: readonly number[]) => number
}

/**
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 *
 * @example const hit = createRayCaster(positions, indices).first([0, 5, 0], [0, -1, 0])
 */
export function createRayCaster(positions: Float32Array, indices: Uint32Array): SidedRayCaster {
  if (indices.length === 0) return { first: () => null, firstFrontDistance: () => Infinity }
  const geometry = new BufferGeometry()
  geometry.setAttribute('position', new BufferAttribute(positions, 3))
  geometry.setIndex(new BufferAttribute(indices, 1))
  const bvh = new MeshBVH(geometry, { indirect: true })
  const ray = new Ray()
  const normal = new Vector3()
  const aim = (origin: readonly number[], direction: readonly number[]): Ray => {
    ray.origin.set(origin[0], origin[1], origin[2])
    ray.direction.set(direction[0], direction[1], direction[2]).normalize()
    return ray
  }
  return {
    firstFrontDistance: (origin, direction) =>
      bvh.raycastFirst(aim(origin, direction), FrontSide)?.distance ?? Infinity,
    first(origin, direction) {
      const hit = bvh.raycastFirst(aim(origin, direction), DoubleSide)
      if (!hit || hit.faceIndex === null || hit.faceIndex === undefined) return null
      triangleNormal(positions, indices, hit.faceIndex, normal)
      return { triangle: hit.faceIndex, distance: hit.distance, front: normal.dot(ray.direction) < 0 }
    },
  }
}

function triangleNormal(positions: Float32Array, indices: Uint32Array, triangle: number, target: Vector3): Vector3 {
  const [a, b, c] = [indices[triangle * 3] * 3, indices[triangle * 3 + 1] * 3, indices[triangle * 3 + 2] * 3]
  const ux = positions[b] - positions[a]
  const uy = positions[b + 1] - positions[a + 1]
  const uz = positions[b + 2] - positions[a + 2]
  const vx = positions[c] - positions[a]
  const vy = positions[c + 1] - positions[a + 1]
  const vz = positions[c + 2] - positions[a + 2]
  return target.set(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx)
}

/**
 * `count` directions spread evenly over the sphere (Fibonacci spiral).
 * @example spreadDirections(14).length // 14
 */
export function spreadDirections(count: number): [number, number, number][] {
  const golden = Math.PI * (3 - Math.sqrt(5))
  return Array.from({ length: count }, (_, index) => {
    const y = 1 - (2 * (index + 0.5)) / count
    const radius = Math.sqrt(1 - y * y)
    return [Math.cos(golden * index) * radius, y, Math.sin(golden * index) * radius]
  })
}
