import type { Node } from '@gltf-transform/core'

const SMALL = 1e-6

/**
 * Whether a node turns or scales what is in it.
 * @example if (isTurnedOrScaled(part.node)) toBake.push(part)
 */
export function isTurnedOrScaled(node: Node): boolean {
  const [x, y, z] = node.getRotation()
  return Math.hypot(x, y, z) > SMALL || node.getScale().some((value) => Math.abs(value - 1) > SMALL)
}

/**
 * Whether a node moves, turns or scales what is in it.
 * @example const still = parts.filter(({ node }) => !hasOwnTransform(node))
 */
export function hasOwnTransform(node: Node): boolean {
  return isTurnedOrScaled(node) || Math.hypot(...node.getTranslation()) > SMALL
}
