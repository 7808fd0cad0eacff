import { identifierFor } from '../../core/crate/schema'

/**
 * An id for a game by what it is called: it begins with a letter.
 *
 * @example gameIdFor('7 Mill Lanes') // 'mill-lanes'
 */
export const gameIdFor = (title: string): string => identifierFor(title, []).replace(/^[^a-z]+/, '') || 'game'
