import type { Document, Node } from '@gltf-transform/core'
import { motionsOf } from '../../item/motion-at.ts'
import { apart } from '../../maths/curve.ts'
import { closedWithin } from './clips.ts'

/** A node that does not stand as its clip begins. */
export interface OffRest {
  node: Node
  clip: string
  /** How it stands when its clip begins. */
  first: { translation: number[]; rotation: number[]; scale: number[] }
  path: 'translation' | 'rotation' | 'scale'
  /** How far apart both are: game units, degrees or parts of one. */
  off: number
}

/**
 * Nodes that stand elsewhere at rest than at the beginning of the clip that moves them, the furthest way of each.
 * @example const [furthest] = offRest(document, 0.001)
 */
export function offRest(document: Document, smallestDrawn: number): OffRest[] {
  return document
    .getRoot()
    .listAnimations()
    .flatMap((clip) =>
      motionsOf(clip).flatMap(({ node, keySeconds, at }): OffRest[] => {
        const first = at(keySeconds[0] ?? 0)
        const rest = { translation: node.getTranslation(), rotation: node.getRotation(), scale: node.getScale() }
        const path = (['translation', 'rotation', 'scale'] as const).find(
          (each) => apart(each, rest[each], 0, first[each], 0) > closedWithin(each, smallestDrawn),
        )
        return path
          ? [{ node, clip: clip.getName() || 'clip', first, path, off: apart(path, rest[path], 0, first[path], 0) }]
          : []
      }),
    )
}
