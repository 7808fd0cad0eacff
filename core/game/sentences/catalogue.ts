import { valueWords } from '../catalogue/value-words.ts'
import type { Rulebook } from '../schema.ts'
import { ofKinds, type RuleSentence, type SentencesOf } from './sentence.ts'

/**
 * What an item's entry says, what it is like, and what happens when something is done to it.
 * @example const fields = catalogueSentences(rulebook).map(({ field }) => field)
 */
export const catalogueSentences: SentencesOf = (rulebook) => {
  const { catalogue, behaviour, stock } = rulebook
  const of = (field: string, sentence: string, why: string, kinds: string[] | null = null): RuleSentence => ({
    topic: 'catalogue',
    field,
    kinds,
    sentence,
    why,
  })
  return [
    ...catalogue.fields.map(({ key, title, value, kinds, needed, unique, described }) =>
      of(
        `catalogue.fields.${key}`,
        `The entry ${needed ? 'says' : 'may say'} “${key}” (${title.toLowerCase()}): ` +
          `${valueWords(value)}${unique ? ', said by no other' : ''}.`,
        described || 'The game’s catalogue has a line for it.',
        kinds,
      ),
    ),
    ...(catalogue.inOrder
      ? [
          of(
            'catalogue.inOrder',
            'Lines of an entry stand in this order.',
            'The game reads an entry once, from top to bottom.',
          ),
        ]
      : []),
    ...(catalogue.rows
      ? [
          of(
            'catalogue.rows',
            `“${catalogue.rows.key}” has a row for ${catalogue.rows.everyLook ? 'each look' : 'looks'}: ` +
              `${catalogue.rows.fields.map(({ key, value }) => `${key} (${valueWords(value)})`).join('; ')}.`,
            'Each look stands in the catalogue by itself.',
            catalogue.rows.kinds,
          ),
        ]
      : []),
    ...(behaviour.likeDonor
      ? ofKinds(rulebook, 'catalogue', 'donorAsked', 'Nothing new can be given a behaviour of its own.', (kind) =>
          donorSentence(kind.id, kind.donorAsked, stock.donors),
        )
      : []),
    ...eventSentences(rulebook, of),
  ]
}

function donorSentence(kind: string, asked: boolean, donors: Rulebook['stock']['donors']): string | null {
  const fitting = donors.filter(({ kinds }) => kinds === null || kinds.includes(kind))
  if (fitting.length === 0) return null
  return (
    `It ${asked ? 'has to be' : 'may be'} like a thing of the game: ` +
    `${fitting.map(({ title }) => title).join(', ')}.`
  )
}

function eventSentences(
  { behaviour: { events } }: Rulebook,
  of: (...args: [string, string, string]) => RuleSentence,
): RuleSentence[] {
  if (events.when.length === 0) return []
  return [
    of(
      'behaviour.events.when',
      `Up to ${events.most} events an item, set off when it is ` +
        `${events.when.map(({ word, title }) => `${word} (${title.toLowerCase()})`).join(', ')}.`,
      'The game looks through them whenever something happens.',
    ),
    of(
      'behaviour.events.do',
      `An event does one of ${events.do.map(({ word }) => word).join(', ')} to a part, a group or another item.`,
      'What else a thing could do the game does not know.',
    ),
  ]
}
