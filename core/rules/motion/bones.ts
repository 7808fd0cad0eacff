import type { Node } from '@gltf-transform/core'
import type { Kind } from '../../game/schema.ts'
import type { Part } from '../../item/parts.ts'
import { boneTree } from '../../operations/motion/bone-tree.ts'
import { stiffAndBent } from '../../operations/motion/make-bones.ts'
import { ANGULAR_DEGREES, bendsOf } from '../../operations/motion/measure-bend.ts'
import { listHeldParts } from '../../operations/motion/skin.ts'
import { weightFaults, type WeightFaults } from '../../operations/motion/weight-faults.ts'
import { formatCount, plural, withArticle } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

type Limits = NonNullable<Kind['bones']>

/** Bones: whether the kind has them, how many, how they stand, and how the mesh bends. */
export const boneRules: RuleFamily = {
  id: 'bones',
  ofMeshes: true,
  check(context) {
    const limits = context.kind.bones
    const held = listHeldParts(context.document)
    if (!limits) return held.map((part) => notRead(part, context))
    if (held.length === 0) return noBones(context)
    return [
      ...weightFaults(context.document).flatMap((faults) => overLimit(faults, limits)),
      ...(limits.rigidPartPerBone ? checkTree(context) : []),
      ...checkBends(context),
    ]
  },
}

function notRead(part: Part, { kind }: RuleContext): Finding {
  const bones = part.node.getSkin()?.listJoints().length ?? 0
  return {
    rule: 'bones-not-read',
    severity: 'risky',
    stage: 'motion',
    title: 'Bones are not read',
    where: part.name,
    place: placeOfParts([part]),
    value: plural(bones, 'bone'),
    limit: 'none',
    message: `${part.name} is held by ${plural(bones, 'bone')}; ${withArticle(kind.title.toLowerCase())} has none`,
    why: 'The game draws the mesh where it lies in the file, which may be elsewhere than its bones hold it.',
    mend: { step: 'hold-still', label: 'Hold still', parameters: {} },
  }
}

function noBones({ document, kind }: RuleContext): Finding[] {
  return [
    {
      rule: 'bones-missing',
      severity: 'risky',
      stage: 'motion',
      title: 'No bones',
      where: kind.title,
      place: nowhere,
      value: '0',
      limit: 'at least 1',
      message: `No bone holds anything; ${withArticle(kind.title.toLowerCase())} bends over bones`,
      why: 'The game loads it and draws it stiff.',
      mend: stiffAndBent(document) ? { step: 'make-bones', label: 'Make bones', parameters: {} } : null,
    },
  ]
}

const limitMend = { step: 'limit-weights', label: 'Limit weights', parameters: {} }

function overLimit({ part, bones, influences }: WeightFaults, limits: Limits): Finding[] {
  const common = { stage: 'motion' as const, where: part.name, place: placeOfParts([part]), mend: limitMend }
  const findings: Finding[] = []
  if (bones > limits.most)
    findings.push({
      ...common,
      rule: 'bone-count',
      severity: 'blocks',
      title: 'Too many bones',
      value: formatCount(bones),
      limit: formatCount(limits.most),
      message: `${part.name} is held by ${formatCount(bones)} bones; ${formatCount(limits.most)} are read`,
      why: 'The card keeps a table of that many.',
    })
  if (influences > limits.influences)
    findings.push({
      ...common,
      rule: 'bone-influences',
      severity: 'risky',
      title: 'Too many bones a corner',
      value: formatCount(influences),
      limit: formatCount(limits.influences),
      message: `A corner of ${part.name} follows ${influences} bones; ${limits.influences} are read`,
      why: 'The game drops the rest, and the corner lags behind.',
    })
  return findings
}

function checkTree({ document }: RuleContext): Finding[] {
  const { alone, shared, below } = boneTree(document)
  const named = (nodes: readonly Node[]): string =>
    nodes
      .slice(0, 4)
      .map((node) => node.getName() || 'a bone without a name')
      .join(', ')
  const common = { severity: 'risky' as const, stage: 'motion' as const, place: nowhere, mend: null }
  const findings: Finding[] = []
  if (alone.length > 0)
    findings.push({
      ...common,
      rule: 'bone-alone',
      title: 'Bones that follow no part',
      where: named(alone),
      value: plural(alone.length, 'bone'),
      limit: 'each on a part of its own',
      message: `${plural(alone.length, 'bone')} ${alone.length === 1 ? 'hangs' : 'hang'} on no stiff part`,
      why: 'In the game a bone goes where its part goes; without one it stays where it is.',
    })
  if (shared.length > 0)
    findings.push({
      ...common,
      rule: 'bone-shared',
      title: 'Two bones on one part',
      where: named(shared),
      value: plural(shared.length, 'bone'),
      limit: 'one a part',
      message:
        `${plural(shared.length, 'bone')} ${shared.length === 1 ? 'hangs' : 'hang'} on a part that has one ` +
        'already',
      why: 'The game reads the first bone of each part.',
    })
  if (below.length > 0)
    findings.push({
      ...common,
      rule: 'bent-below-bone',
      title: 'Hangs on its own bones',
      where: named(below),
      value: plural(below.length, 'part'),
      limit: 'beside the bones',
      message:
        `${named(below)} ${below.length === 1 ? 'hangs' : 'hang'} on what moves ` +
        `${below.length === 1 ? 'it' : 'them'}`,
      why: 'The game moves it with its bones and with what it hangs on: twice.',
      mend: { step: 'arrange-bones', label: 'Arrange bones', parameters: {} },
    })
  return findings
}

const checkBends = ({ document }: RuleContext): Finding[] =>
  bendsOf(document).flatMap(({ part, breaks: { worstDegrees, worstAt } }): Finding[] =>
    worstDegrees <= ANGULAR_DEGREES
      ? []
      : [
          {
            rule: 'bend-angular',
            severity: 'note',
            stage: 'motion',
            title: 'Bends at an edge',
            where: part.name,
            place: worstAt
              ? { parts: [part.name], bounds: { min: worstAt, max: worstAt }, spots: [worstAt], texture: null }
              : placeOfParts([part]),
            value: `${worstDegrees.toFixed(0)}°`,
            limit: `${ANGULAR_DEGREES}°`,
            message: `${part.name} breaks by ${worstDegrees.toFixed(0)}° at one edge when a bone is turned`,
            why:
              'There it looks like a fold and not like a bend; more rows, or weights that are spread further, ' +
              'make it round.',
            mend: { step: 'add-bend-rows', label: 'Add rows', parameters: {} },
          },
        ],
  )
