import type { Stray, StrayKind } from '../item/strays.ts'
import { plural } from '../support/wording.ts'
import type { Asker, Question } from './question.ts'

const STEP = 'drop-strays'

interface Doubtful {
  what: StrayKind
  setting: string
  one: string
  several: string
}

/** What may be meant though it looks as if it only came along, the setting that decides it, and how it is called. */
const doubtful: readonly Doubtful[] = [
  {
    what: 'ground shade',
    setting: 'groundShade',
    one: 'flat dark sheet under it',
    several: 'flat dark sheets under it',
  },
  { what: 'far part', setting: 'farParts', one: 'part far from the rest', several: 'parts far from the rest' },
  { what: 'lamp', setting: 'lamps', one: 'lamp', several: 'lamps' },
  { what: 'double', setting: 'doubles', one: 'part that stands twice', several: 'parts that stand twice' },
]

/**
 * Whether what may only have come along is left out.
 * @example const question = askStrays(about)
 */
export const askStrays: Asker = (about) => {
  if (about.decidedSteps.includes(STEP)) return null
  for (const each of doubtful) {
    const found = about.strays.filter(({ what }) => what === each.what)
    // Where the game has no lights of things, there is nothing to decide.
    if (found.length > 0 && (each.what !== 'lamp' || about.kind.mostLights > 0)) return question(found, each)
  }
  return null
}

function question(found: readonly Stray[], { what, setting, one, several }: Doubtful): Omit<Question, 'answered'> {
  const leftOut = what !== 'far part' && what !== 'lamp'
  const names = found.slice(0, 3).map(({ name }) => name)
  const listed = names.join(', ') + (found.length > 3 ? ` and ${found.length - 3} more` : '')
  const answer = (id: string, label: string, note: string, on: boolean) => ({
    id,
    label,
    note,
    picture: null,
    change: {
      step: {
        id: STEP,
        parameters: { [setting]: on },
      },
    },
  })
  const answers = [
    answer('leave-out', found.length === 1 ? 'Leave it out' : 'Leave them out', listed, true),
    answer('keep', found.length === 1 ? 'Keep it' : 'Keep them', 'it belongs to the model', false),
  ]
  return {
    id: `stray-${setting}`,
    title: `Leave out the ${found.length === 1 ? one : `${found.length} ${several}`}?`,
    why: `${plural(found.length, 'thing')} may only have come along with the model.`,
    decides: ['stray'],
    answers: leftOut ? answers : answers.toReversed(),
    chosen: leftOut ? 'leave-out' : 'keep',
  }
}
