import { getRootExtras } from '../../item/extras.ts'
import { findClipping } from '../../operations/motion/clipping.ts'
import { withArticle } from '../../support/wording.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

const mend = { step: 'put-into-host', label: 'Put into a stock object', parameters: {} }

/** What changes an object of the game's own: which one, and where ours runs into the rest of it. */
export const hostRules: RuleFamily = {
  id: 'host',
  ofMeshes: true,
  check(context) {
    if (context.kind.addsTo !== 'host') return []
    return [...changesWhat(context), ...runsInto(context)]
  },
}

function changesWhat({ document, rulebook, kind }: RuleContext): Finding[] {
  const { changes } = getRootExtras(document.getRoot())
  const known = rulebook.stock.objects.filter(({ role }) => role === 'host')
  if (changes && known.some(({ id }) => id === changes)) return []
  return [
    {
      rule: 'changes-nothing',
      severity: 'blocks',
      stage: 'motion',
      title: 'No stock object',
      where: changes ?? 'item',
      place: nowhere,
      value: changes ?? 'none',
      limit: known.map(({ id }) => id).join(', '),
      message: changes
        ? `The game has no object “${changes}” that could be changed`
        : `It does not say which object of the game it changes; ${withArticle(kind.title.toLowerCase())} has to`,
      why: 'The game looks up the object and shows this in its place.',
      mend: changes ? null : mend,
    },
  ]
}

function runsInto({ document }: RuleContext): Finding[] {
  return findClipping(document)
    .filter(({ always }) => !always)
    .slice(0, 20)
    .map(({ ours, hosts, seconds }) => ({
      rule: 'runs-into-host',
      severity: 'note',
      stage: 'motion',
      title: 'Runs into the object',
      where: ours,
      place: { ...nowhere, parts: [ours, hosts] },
      value: `${seconds[0].toFixed(1)} to ${seconds[seconds.length - 1].toFixed(1)} s`,
      limit: 'never',
      message:
        `${ours} runs into ${hosts} while both move, between ${seconds[0].toFixed(1)} s and ` +
        `${seconds[seconds.length - 1].toFixed(1)} s`,
      why: 'One goes through the other there, which is seen.',
      mend: null,
    }))
}
