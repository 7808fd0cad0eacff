import type { Rulebook } from './schema.ts'
import { lettersOf } from './solid-names.ts'

type Join = Rulebook['points']['joins'][number]

/**
 * What may join at a point by its name: the first of the game's joins whose own name, or a word for it, is in it.
 * @returns null where the name says nothing
 * @example joinByName(rulebook, 'at_flue')?.name // 'pipe'
 */
export function joinByName({ points }: Rulebook, pointName: string): Join | null {
  const letters = lettersOf(pointName)
  const isNamed = (word: string): boolean => lettersOf(word) !== '' && letters.includes(lettersOf(word))
  return points.joins.find(({ name, words }) => [name, ...words].some(isNamed)) ?? null
}
