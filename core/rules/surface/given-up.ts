import type { Document } from '@gltf-transform/core'
import { getRootExtras, type GivenUp } from '../../item/extras.ts'
import { countTriangles, listViewParts } from '../../item/parts.ts'
import type { Kind } from '../../game/schema.ts'
import { formatCount } from '../../support/wording.ts'
import { nowhere, type Finding, type RuleFamily } from '../rule.ts'

/** What the source shows and the item does not: told, so that nobody finds out in the game. */
export const givenUpRules: RuleFamily = {
  id: 'given-up',
  check: ({ document, kind }) => [
    ...(kind.mesh === null ? meshLeftOut(document, kind) : []),
    ...getRootExtras(document.getRoot()).givenUp.map(tell),
  ],
}

const tell = ({ what, where, message, why }: GivenUp): Finding => ({
  rule: 'given-up',
  severity: 'note',
  stage: 'surface',
  title: what,
  where,
  place: nowhere,
  value: 'not carried',
  limit: 'as in the source',
  message,
  why,
  mend: null,
})

/** A picture comes in on a board of two triangles; more is a mesh that this kind does not have. */
const BOARD_TRIANGLES = 2

function meshLeftOut(document: Document, kind: Kind): Finding[] {
  const triangles = countTriangles(listViewParts(document))
  if (triangles <= BOARD_TRIANGLES) return []
  return [
    tell({
      what: 'Mesh of a kind without one',
      where: 'item',
      message:
        `A ${kind.title.toLowerCase()} has no mesh: the ${formatCount(triangles)} triangles of its source are ` +
        'left out, its materials are packed',
      why: 'Choose another kind if the mesh is what you want in the game.',
    }),
  ]
}
