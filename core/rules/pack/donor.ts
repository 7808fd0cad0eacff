import { nearest, orNearest } from '../../game/nearest.ts'
import { disagreements, donorsFor, madeOf, type Disagreement } from '../../operations/entry/donor-agreement.ts'
import { getRootExtras } from '../../item/extras.ts'
import { withArticle } from '../../support/wording.ts'
import { nowhere, type Finding, type Mend, type RuleContext, type RuleFamily } from '../rule.ts'

/** The stock thing that an item acts like: whether there is one, and whether both agree. */
export const donorRules: RuleFamily = { id: 'donor', check }

const common = { stage: 'pack' as const, place: nowhere }
const borrow = (parameters: Mend['parameters']): Mend => ({
  step: 'borrow-behaviour',
  label: 'Borrow behaviour',
  parameters,
})

function check(context: RuleContext): Finding[] {
  const { document, rulebook, kind, itemName } = context
  const like = getRootExtras(document.getRoot()).entry?.like
  const { donors } = rulebook.stock
  if (like === undefined)
    return kind.donorAsked
      ? [
          {
            ...common,
            rule: 'like-missing',
            severity: 'blocks',
            title: 'Like nothing',
            where: itemName,
            value: 'none',
            limit: donors.map(({ id }) => id).join(', ') || 'a donor',
            message: `It does not say what it is like; ${withArticle(kind.title.toLowerCase())} has to`,
            why: 'Nothing new can be given a behaviour: it borrows that of a thing of the game.',
            mend: borrow({}),
          },
        ]
      : []
  const donor = donors.find(({ id }) => id === like)
  if (!donor || !rulebook.behaviour.likeDonor) return [unknown(like, context)]
  const made = madeOf(document, rulebook)
  const [best] = donorsFor(rulebook, kind, made)
  if (donor.kinds !== null && !donor.kinds.includes(kind.id))
    return [
      {
        ...common,
        rule: 'like-kind',
        severity: 'blocks',
        title: 'Like a thing of another kind',
        where: itemName,
        value: donor.id,
        limit: donor.kinds.join(', '),
        message: `${donor.title} is for ${donor.kinds.join(', ')}, and no ${kind.title.toLowerCase()} acts like it`,
        why: 'What it does is made for things of that kind.',
        mend: best ? borrow({ donor: best.id }) : null,
      },
    ]
  const differing = disagreements(donor, made)
  const better = best && disagreements(best, made).length < differing.length ? borrow({ donor: best.id }) : null
  return differing.map((each) => ({
    ...common,
    severity: 'risky' as const,
    where: itemName,
    value: each.has,
    limit: each.wants,
    mend: better,
    ...wordsFor(each, donor),
  }))
}

function unknown(like: string, { rulebook, itemName }: RuleContext): Finding {
  const ids = rulebook.behaviour.likeDonor ? rulebook.stock.donors.map(({ id }) => id) : []
  const near = nearest(like, ids)
  return {
    ...common,
    rule: 'like-unknown',
    severity: 'blocks',
    title: 'Like nothing of the game',
    where: itemName,
    value: like,
    limit: ids.join(', ') || 'nothing: the game has no donors',
    message: `The game has nothing called “${like}” to be like${orNearest(near)}`,
    why: 'The game looks up what the thing is like, and gives up where it finds nothing.',
    mend: borrow(near === null ? {} : { donor: near }),
  }
}

function wordsFor(
  { about, has, wants }: Disagreement,
  { title, remains }: { title: string; remains: string },
): Pick<Finding, 'rule' | 'title' | 'message' | 'why'> {
  switch (about) {
    case 'sound':
      return {
        rule: 'like-sound',
        title: 'Sounds like something else',
        message: `Most of it is ${has}; ${title}, which it is like, sounds like ${wants}`,
        why: 'What is struck sounds like the donor, whatever it looks like.',
      }
    case 'solids':
      return {
        rule: 'like-solids',
        title: 'Solids of something else',
        message: `Its solids are ${has}; ${title}, which it is like, is ${wants}`,
        why: 'Steps and blows on it would sound like two different things.',
      }
    case 'remains':
      return {
        rule: 'like-remains',
        title: 'Leaves something else behind',
        message: `${title} leaves ${remains} of ${wants} when it breaks; nothing of the item is ${wants} but ${has}`,
        why: 'What lies there when it broke comes from the donor.',
      }
  }
}
