import type { Document } from '@gltf-transform/core'
import type { Rulebook } from '../../game/schema.ts'
import { readSolidName } from '../../game/solid-names.ts'
import { listAllParts, type Part } from '../../item/parts.ts'

/**
 * Parts that are drawn and whose names say that they ought to be solids.
 * @example const [solid] = calledLikeSolids(document, rulebook)
 */
export const calledLikeSolids = (document: Document, rulebook: Rulebook): Part[] =>
  listAllParts(document).filter((part) => part.extras.role === 'part' && readSolidName(rulebook, part.name) !== null)
