import { z } from 'zod'
import {
  disagreements,
  donorsFor,
  donorsOf,
  madeOf,
  wordsShared,
  type Donor,
} from '../../operations/entry/donor-agreement.ts'
import { entryOf, setEntry } from '../../operations/entry/set-entry.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({
  /** Id of a donor in stock; empty for the one that suits best. */
  donor: z.string().max(200),
})

/** Lets the item act like a thing of the game. */
export const borrowBehaviour = defineStep<z.infer<typeof parameters>>({
  id: 'borrow-behaviour',
  version: 1,
  stage: 'pack',
  title: 'Borrow behaviour',
  purpose: 'Lets the item act like a thing that the game has: how it sounds, what it bears, what is left of it.',
  parameters,
  fields: ({ document, rulebook, kind }) => {
    const made = madeOf(document, rulebook)
    return [
      {
        type: 'choice',
        key: 'donor',
        label: 'Acts like',
        options: [
          { value: '', label: 'what suits it best' },
          ...donorsFor(rulebook, kind, made).map((donor) => ({ value: donor.id, label: inWords(donor) })),
        ],
      },
    ]
  },
  defaults: () => ({ donor: '' }),
  propose({ document, rulebook, kind }) {
    const may = rulebook.behaviour.likeDonor && kind.solids && donorsOf(rulebook, kind).length > 0
    if (!may || entryOf(document).like !== undefined) return []
    const made = madeOf(document, rulebook)
    const suiting = donorsFor(rulebook, kind, made)
    // Unasked only what is called alike and agrees: a bell of wood is no gate.
    const best = kind.donorAsked
      ? suiting.at(0)
      : suiting.find((donor) => wordsShared(donor, made) > 0 && disagreements(donor, made).length === 0)
    if (!best) return []
    return [
      {
        parameters: { donor: best.id },
        reason: `${best.title} is made of ${best.surface} as well; nothing new can be given a behaviour of its own.`,
      },
    ]
  },
  async run({ document, rulebook, kind, parameters: { donor } }) {
    const made = madeOf(document, rulebook)
    const chosen =
      donor === '' ? donorsFor(rulebook, kind, made).at(0) : rulebook.stock.donors.find(({ id }) => id === donor)
    if (!chosen) {
      const reason = donor === '' ? 'The game has no donor for this kind.' : `The game has no donor “${donor}”.`
      return { headline: 'does not apply', details: [reason], changed: false, doesNotApply: reason }
    }
    setEntry(document, { like: chosen.id })
    return {
      headline: chosen.title,
      details: [
        `It acts like ${inWords(chosen)}.`,
        ...disagreements(chosen, made).map(({ about, has, wants }) =>
          about === 'remains'
            ? `It leaves ${chosen.remains} of ${wants}, and the item is ${has}.`
            : `${about === 'sound' ? 'Most of the item is' : 'Its solids are'} ${has}; ${chosen.title} sounds ` +
              `like ${wants}.`,
        ),
      ],
      changed: true,
    }
  },
})

/** “Yard gate: opens and shuts; timber, 40 blows, leaves splinters”. */
const inWords = ({ title, does, surface, toughness, remains }: Donor): string =>
  `${title}${does === '' ? '' : `: ${does}`}; ${surface}, ${toughness} blows, leaves ${remains}`
