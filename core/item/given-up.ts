import type { Document } from '@gltf-transform/core'
import { getRootExtras, setRootExtras, type GivenUp } from './extras.ts'

/**
 * Remembers something of the source that the item does not carry on, so that its report says so. The same is remembered
 * once.
 *
 * @example noteGivenUp(document, { what: 'Corner colours', where: part.name, message, why })
 */
export function noteGivenUp(document: Document, ...things: readonly GivenUp[]): void {
  const extras = getRootExtras(document.getRoot())
  const known = new Set(extras.givenUp.map(({ what, where }) => `${what}|${where}`))
  const added = things.filter(({ what, where }) => !known.has(`${what}|${where}`))
  if (added.length > 0)
    setRootExtras(document.getRoot(), { ...extras, givenUp: [...extras.givenUp, ...added].slice(0, MOST_GIVEN_UP) })
}

/** More than this nobody reads. */
const MOST_GIVEN_UP = 500
