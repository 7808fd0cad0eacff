import { standingAttachPoints } from '../../operations/motion/attach-points.ts'
import type { Finding, RuleFamily } from '../rule.ts'

const mend = { step: 'settle-points', label: 'Settle attach points', parameters: {} }

/** Attach points: whether what joins there can be seen. */
export const attachPointRules: RuleFamily = {
  id: 'attach-points',
  ofMeshes: true,
  check: ({ document, kind }) =>
    kind.attachPoints
      ? standingAttachPoints(document).flatMap(({ name, at, isInside, facesIn }): Finding[] => {
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
      : [],
}
