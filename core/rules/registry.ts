import { cornerValueRules } from './corner-values.ts'
import { faceRules } from './faces.ts'
import { fitRules } from './fit.ts'
import { givenUpRules } from './given-up.ts'
import { levelRules } from './levels.ts'
import { lookRules } from './looks.ts'
import { mapRules } from './maps.ts'
import { materialRules } from './materials.ts'
import { motionRules } from './motion.ts'
import { nameRules } from './names.ts'
import { notCarriedRules } from './not-carried.ts'
import { severities, type Finding, type Gauge, type RuleContext, type RuleFamily } from './rule.ts'
import { solidRules } from './solids.ts'
import { spaceRules } from './space.ts'
import { strayRules } from './strays.ts'
import { surfaceRules } from './surfaces.ts'
import { triangleRules } from './triangles.ts'

/** Every family of rules. */
export const ruleFamilies: readonly RuleFamily[] = [
  triangleRules,
  spaceRules,
  faceRules,
  cornerValueRules,
  surfaceRules,
  levelRules,
  nameRules,
  materialRules,
  mapRules,
  lookRules,
  solidRules,
  fitRules,
  motionRules,
  strayRules,
  notCarriedRules,
  givenUpRules,
]

export interface Report {
  findings: Finding[]
  gauges: Gauge[]
}

/** What the game would say about an item as it is now; the worst first. */
export function checkItem(context: RuleContext): Report {
  const families = ruleFamilies.filter((family) => context.kind.mesh !== null || !family.ofMeshes)
  const findings = families.flatMap((family) => family.check(context))
  findings.sort((a, b) => severities.indexOf(a.severity) - severities.indexOf(b.severity))
  return { findings, gauges: families.flatMap((family) => family.gauges?.(context) ?? []) }
}
