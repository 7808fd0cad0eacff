import type { Document } from '@gltf-transform/core'
import { listMovingNodes, listViewParts } from '../item/parts.ts'
import type { Kind, Rulebook } from './schema.ts'

/** A kind of the game that a thing may be, and what speaks for it. */
export interface GuessedKind {
  kind: Kind
  reason: string
}

/**
 * What a thing most likely becomes, told from its document alone: where clips move its parts, the first kind whose
 * parts may move; else the first kind that has a mesh and needs nothing that only a person can give.
 * @throws RangeError when the rulebook has no kind with a mesh
 *
 * @example const { kind, reason } = guessKind(document, rulebook)
 */
export function guessKind(document: Document, rulebook: Rulebook): GuessedKind {
  const withMesh = rulebook.kinds.filter((kind) => kind.mesh !== null && kind.addsTo === null)
  const [plain] = withMesh
  if (!plain) throw new RangeError(`${rulebook.title} has no kind with a mesh`)
  const moving = withMesh.find((kind) => kind.motionAsked && !kind.markers)
  if (moving && partsMove(document)) return { kind: moving, reason: 'It brings motion of its parts.' }
  return { kind: plain, reason: 'It has a mesh and nothing that moves by itself.' }
}

/** Whether a clip moves whole parts; what bends over bones does not count. */
function partsMove(document: Document): boolean {
  if (document.getRoot().listAnimations().length === 0) return false
  const moving = listMovingNodes(document)
  return listViewParts(document).some(({ node }) => moving.has(node) && !node.getSkin())
}
