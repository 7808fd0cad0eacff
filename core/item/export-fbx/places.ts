import type { Node } from '@gltf-transform/core'
import { composeMatrix } from '../../maths/matrices.ts'
import { properties, real, type FbxRecord } from './binary-tree.ts'

/**
 * Angles in degrees that turn about x, then y, then z, of a unit quaternion.
 * @example anglesOf([0, 0, 0, 1]) // [0, 0, 0]
 */
export function anglesOf(rotation: readonly number[]): [number, number, number] {
  const m = composeMatrix([0, 0, 0], rotation, [1, 1, 1])
  const sine = Math.min(1, Math.max(-1, -m[2]))
  const y = Math.asin(sine)
  // Straight up or down, x and z turn about the same axis: z stays as it is.
  const locked = Math.abs(sine) > 1 - 1e-9
  const x = locked ? Math.atan2(-m[9], m[5]) : Math.atan2(m[6], m[10])
  const z = locked ? 0 : Math.atan2(m[1], m[0])
  return [x, y, z].map((angle) => (angle * 180) / Math.PI) as [number, number, number]
}

/**
 * Where a node is, as properties of its model.
 * @example record('Model', [long(id)], placeRecord(node))
 */
export function placeRecord(node: Node): FbxRecord {
  const [translation, angles, scale] = [node.getTranslation(), anglesOf(node.getRotation()), node.getScale()]
  return properties(
    ['Lcl Translation', 'Lcl Translation', '', 'A', ...translation.map(real)],
    ['Lcl Rotation', 'Lcl Rotation', '', 'A', ...angles.map(real)],
    ['Lcl Scaling', 'Lcl Scaling', '', 'A', ...scale.map(real)],
  )
}
