import { standingAttachPoints } from '../../operations/motion/attach-points.ts'
import { listPlaces } from '../../item/annotations/places.ts'
import { formatLength } from '../../support/wording.ts'
import type { Finding, RuleContext, RuleFamily } from '../rule.ts'

const mend = { step: 'settle-points', label: 'Settle attach points', parameters: {} }

/** Attach points: whether what joins there can be seen. */
export const attachPointRules: RuleFamily = {
  id: 'attach-points',
  ofMeshes: true,
  check: (context) => (context.kind.attachPoints ? [...checkStanding(context), ...checkJoints(context)] : []),
}

const checkStanding = ({ document }: RuleContext): Finding[] =>
  standingAttachPoints(document).flatMap(({ name, at, isInside, facesIn }): Finding[] => {
    const common = {
      severity: 'risky' as const,
      stage: 'motion' as const,
      where: name,
      place: { parts: [], bounds: { min: at, max: at }, spots: [at], texture: null },
      mend,
    }
    if (isInside)
      return [
        {
          ...common,
          rule: 'attach-inside',
          title: 'Attach point within the body',
          value: 'inside',
          limit: 'on or off the surface',
          message: `${name} lies within the body`,
          why: 'What joins there is hidden, or sticks out of the other side.',
        },
      ]
    return facesIn
      ? [
          {
            ...common,
            rule: 'attach-facing-in',
            title: 'Attach point looks inward',
            value: 'into the body',
            limit: 'away from it',
            message: `${name} looks into the body`,
            why: 'What joins there grows into the thing instead of out of it.',
          },
        ]
      : []
  })

/** What may join at each point: by one of the game's words, and no wider than the game takes. */
function checkJoints({ document, rulebook: { points, space } }: RuleContext): Finding[] {
  if (points.joins.length === 0) return []
  const unit = space.unit.plural
  return listPlaces(document)
    .filter(({ extras }) => extras.role === 'attach-point')
    .flatMap(({ name, node, extras: { joint } }): Finding[] => {
      const at = node.getWorldTranslation()
      const common = {
        severity: 'risky' as const,
        stage: 'motion' as const,
        where: name,
        place: { parts: [], bounds: { min: at, max: at }, spots: [at], texture: null },
      }
      const known = points.joins.find((each) => each.name === joint?.joins)
      if (!known)
        return [
          {
            ...common,
            rule: 'attach-untold',
            title: 'Nothing joins there',
            value: joint?.joins ?? 'not said',
            limit: points.joins.map((each) => each.name).join(', '),
            message: joint?.joins
              ? `${name} takes ${joint.joins}, which the game does not know`
              : `${name} does not say what may join there`,
            why: 'The game offers a point only to what it names.',
            mend: { step: 'say-what-joins', label: 'Say what joins', parameters: { point: name } },
          },
        ]
      return known.widest !== null && (joint?.width ?? 0) > known.widest
        ? [
            {
              ...common,
              rule: 'attach-wide',
              title: 'Wider than what joins',
              value: `${formatLength(joint?.width ?? 0)} ${unit}`,
              limit: `${formatLength(known.widest)} ${unit}`,
              message:
                `${name} takes ${known.name} as wide as ${formatLength(joint?.width ?? 0)} ${unit}; the game has ` +
                `none wider than ${formatLength(known.widest)}`,
              why: 'What joins there leaves a gap all round.',
              mend: {
                step: 'say-what-joins',
                label: 'Say what joins',
                parameters: { point: name, joins: known.name, width: known.widest },
              },
            },
          ]
        : []
    })
}
