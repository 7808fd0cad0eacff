import type { Kind, Rulebook } from '../schema.ts'

/** What a sentence is about; also the order of reading. */
export const topics = ['space', 'files', 'names', 'mesh', 'levels', 'surface', 'solids', 'motion', 'catalogue'] as const
export type Topic = (typeof topics)[number]

/** One demand of a game, for people: what it is, with its number, and why games ask it. */
export interface RuleSentence {
  topic: Topic
  /**
   * The field of the rulebook that says it, and what it is told apart by: `kinds.2.mesh.triangles`,
   * `maps.roles.colour`.
   */
  field: string
  /** The kinds that it is about; null for all. */
  kinds: string[] | null
  sentence: string
  why: string
}

/** Everything that a rulebook says of one topic. */
export type SentencesOf = (rulebook: Rulebook) => RuleSentence[]

/**
 * One sentence for all kinds of which the same is said, so that ten kinds with one limit are one line.
 * @param say what is said of a kind; null where it has no such rule
 *
 * @example ofKinds(rulebook, 'mesh', 'triangles', why, ({ mesh }) => mesh && `at most ${mesh.triangles} triangles`)
 */
export function ofKinds(
  { kinds }: Rulebook,
  topic: Topic,
  field: string,
  why: string,
  say: (kind: Kind) => string | null,
): RuleSentence[] {
  const said = new Map<string, number[]>()
  for (const [number, kind] of kinds.entries()) {
    const sentence = say(kind)
    if (sentence !== null) said.set(sentence, [...(said.get(sentence) ?? []), number])
  }
  return [...said].map(([sentence, numbers]) => ({
    topic,
    field: `kinds.${numbers[0]}.${field}`,
    kinds: numbers.length === kinds.length ? null : numbers.map((number) => kinds[number].id),
    sentence,
    why,
  }))
}
