import { Matrix4, Vector3 } from 'three'
import type { Turning } from '../../core/item/turning'

const up = new Vector3(0, 1, 0)

/**
 * How a thing whose front looks along +Z is turned so that an eye sees its front: about the upright line through the
 * origin, or any way about its middle.
 * @example turnToViewer('upright', [0, 2, 0], [5, 3, 0]) // a quarter turn about Y
 */
export function turnToViewer(turns: Turning, middle: readonly number[], eye: readonly number[]): Matrix4 {
  if (turns === 'upright') return new Matrix4().makeRotationY(Math.atan2(eye[0], eye[2]))
  const [x, y, z] = middle
  const ahead = new Vector3(eye[0] - x, eye[1] - y, eye[2] - z)
  if (ahead.length() === 0) ahead.set(0, 0, 1)
  ahead.normalize()
  const side = new Vector3().crossVectors(up, ahead)
  // From right above there is no side: it keeps the one that it has.
  if (side.length() < 1e-6) side.set(1, 0, 0)
  side.normalize()
  return new Matrix4()
    .makeTranslation(x, y, z)
    .multiply(new Matrix4().makeBasis(side, new Vector3().crossVectors(ahead, side), ahead))
    .multiply(new Matrix4().makeTranslation(-x, -y, -z))
}
