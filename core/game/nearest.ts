import { lettersApart } from './solid-names.ts'

/**
 * The known word that a written one is most likely meant for: the same but for capitals and marks, or two letters off
 * at most, and never most of a short word.
 * @returns null where nothing is near
 *
 * @example nearest('Titel', ['title', 'price']) // 'title'
 */
export function nearest(written: string, known: Iterable<string>): string | null {
  const plain = bare(written)
  let best: string | null = null
  let least = Math.min(2, Math.floor(plain.length / 2)) + 1
  for (const word of known) {
    if (word === written) continue
    const apart = lettersApart(plain, bare(word))
    if (apart < least) {
      least = apart
      best = word
    }
  }
  return best
}

const bare = (word: string): string => word.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '')

/**
 * “; did you mean “title”?”, or nothing.
 *
 * @example orNearest('oak') // '; the nearest is “oak”'
 */
export const orNearest = (near: string | null): string => (near === null ? '' : `; the nearest is “${near}”`)
