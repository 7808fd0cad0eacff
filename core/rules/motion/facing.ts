import {
  facingCard,
  hangsAbove,
  MOST_DEPTH_SHARE,
  MOST_FRONT_DEGREES,
  MOST_WANDER_SHARE,
} from '../../operations/motion/facing-card.ts'
import { axisWord } from '../../game/space.ts'
import { turningWords } from '../../item/turning.ts'
import { formatLength } from '../../support/wording.ts'
import { nowhere, type Finding, type Mend, type RuleContext, type RuleFamily } from '../rule.ts'

const mend: Mend = { step: 'face-viewer', label: 'Face the viewer', parameters: {} }

/**
 * What faces the viewer: flat, its front forward, its middle on the line it turns about, over heads, without shadow.
 */
export const facingRules: RuleFamily = { id: 'facing', ofMeshes: true, check }

function check({ document, rulebook, kind, itemName }: RuleContext): Finding[] {
  const card = facingCard(document, rulebook, kind)
  if (!card) return []
  const { space } = rulebook
  const unit = space.unit.plural
  const least = hangsAbove(rulebook, kind)
  const risky = (finding: Omit<Finding, 'severity' | 'stage' | 'where' | 'place' | 'mend'>): Finding => ({
    severity: 'risky',
    stage: 'motion',
    where: itemName,
    place: nowhere,
    mend,
    ...finding,
  })
  const allowed = kind.mesh?.facing?.turns ?? []
  return [
    ...(allowed.includes(card.turns)
      ? []
      : [
          {
            ...risky({
              rule: 'facing-turns',
              title: 'Turns as the game does not',
              value: turningWords[card.turns],
              limit: allowed.map((turns) => turningWords[turns]).join(' or '),
              message:
                `It turns ${turningWords[card.turns]}; the game knows ` +
                `${allowed.map((turns) => turningWords[turns]).join(' and ')}`,
              why: 'It turns to whoever looks, and only in ways that the game knows.',
            }),
            severity: 'blocks' as const,
          },
        ]),
    ...(card.depthShare > MOST_DEPTH_SHARE
      ? [
          risky({
            rule: 'facing-flat',
            title: 'Not flat',
            value: `${(card.depthShare * 100).toFixed(0)} % deep`,
            limit: `${MOST_DEPTH_SHARE * 100} % of its longest side`,
            message: `It is ${(card.depthShare * 100).toFixed(0)} % as deep as it is long`,
            why: 'Only its front is ever seen: depth goes to waste and shows as it turns.',
          }),
        ]
      : []),
    ...(card.frontDegrees > MOST_FRONT_DEGREES
      ? [
          risky({
            rule: 'facing-front',
            title: 'Front looks elsewhere',
            value: `${card.frontDegrees.toFixed(0)}° off`,
            limit: `${axisWord(space.forward)}, ${MOST_FRONT_DEGREES}° at most`,
            message: `Its front looks ${card.frontDegrees.toFixed(0)}° away from ${axisWord(space.forward)}`,
            why: 'The game turns its forward to who looks: another side would be seen.',
          }),
        ]
      : []),
    ...(card.turns === 'upright' && card.wanderShare > MOST_WANDER_SHARE
      ? [
          risky({
            rule: 'facing-pivot',
            title: 'Turns beside itself',
            value: `${formatLength(card.wander)} ${unit} off`,
            limit: 'middle over the origin',
            message: `Its middle stands ${formatLength(card.wander)} ${unit} beside the line it turns about`,
            why: 'It would go round as one walks by, instead of turning where it stands.',
          }),
        ]
      : []),
    ...(card.lowest < least
      ? [
          risky({
            rule: 'facing-height',
            title: 'Hangs too low',
            value: `${formatLength(card.lowest)} ${unit}`,
            limit: `${formatLength(least)} ${unit}`,
            message:
              `Its lower edge hangs at ${formatLength(card.lowest)} ${unit}; a figure is ${formatLength(least)} ` +
              'high',
            why: 'What turns is walked under and not through.',
          }),
        ]
      : []),
    ...(card.throwing.length > 0
      ? [
          risky({
            rule: 'facing-shadow',
            title: 'Throws a shadow',
            value: card.throwing.join(', '),
            limit: 'no shadow',
            message: `${card.throwing.join(', ')} ${card.throwing.length === 1 ? 'throws' : 'throw'} a shadow`,
            why: 'A shadow that turns with who looks gives the picture away.',
          }),
        ]
      : []),
  ]
}
