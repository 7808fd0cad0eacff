import type { Bounds } from '../../item/measure.ts'
import type { TriangleSoup } from './convex-hull.ts'

/**
 * The twelve outward triangles of an axis-aligned box.
 * @example boxMesh({ min: [0, 0, 0], max: [1, 2, 3] }).indices.length // 36
 */
export function boxMesh({ min, max }: Bounds): TriangleSoup {
  const positions = new Float32Array(24)
  for (let corner = 0; corner < 8; corner++) {
    for (let axis = 0; axis < 3; axis++) positions[corner * 3 + axis] = (corner >> axis) & 1 ? max[axis] : min[axis]
  }
  const quads = [
    [0, 4, 6, 2],
    [1, 3, 7, 5],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 2, 3, 1],
    [4, 5, 7, 6],
  ]
  return { positions, indices: Uint32Array.from(quads.flatMap(([a, b, c, d]) => [a, b, c, a, c, d])) }
}

/**
 * Volume enclosed by triangles (divergence theorem); negative when they face inward.
 * @example enclosedVolume(boxMesh({ min: [0, 0, 0], max: [1, 2, 3] })) // 6
 */
export function enclosedVolume({ positions, indices }: TriangleSoup): number {
  let volume = 0
  for (let index = 0; index < indices.length; index += 3) {
    const [a, b, c] = [indices[index] * 3, indices[index + 1] * 3, indices[index + 2] * 3]
    const [ax, ay, az] = [positions[a], positions[a + 1], positions[a + 2]]
    const [bx, by, bz] = [positions[b], positions[b + 1], positions[b + 2]]
    const [cx, cy, cz] = [positions[c], positions[c + 1], positions[c + 2]]
    volume += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)
  }
  return volume / 6
}
