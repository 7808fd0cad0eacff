import { getRootExtras } from '../document/extras.ts'
import { nowhere, type RuleFamily } from './rule.ts'

/** What the source shows and the item does not: told, so that nobody finds out in the game. */
export const givenUpRules: RuleFamily = {
  id: 'given-up',
  check: ({ document }) =>
    getRootExtras(document.getRoot()).givenUp.map(({ what, where, message, why }) => ({
      rule: 'given-up', severity: 'note', stage: 'surface', title: what, where, place: nowhere, value: 'not carried', limit: 'as in the source', message, why, mend: null,
    })),
}
