import { attachPointRules } from './motion/attach-points.ts'
import { boneRules } from './motion/bones.ts'
import { bodyRules } from './mesh/bodies.ts'
import { clipRules } from './motion/clips.ts'
import { cornerValueRules } from './mesh/corner-values.ts'
import { donorRules } from './pack/donor.ts'
import { entryRules } from './pack/entry.ts'
import { eventRules } from './pack/events.ts'
import { faceRules } from './mesh/faces.ts'
import { facingRules } from './motion/facing.ts'
import { fitRules } from './solids/bumped-into.ts'
import { givenUpRules } from './surface/given-up.ts'
import { groupRules } from './motion/groups.ts'
import { halfBlockRules } from './mesh/half-blocks.ts'
import { heldPoseRules } from './motion/held-pose.ts'
import { hostRules } from './motion/host.ts'
import { levelRules } from './mesh/levels.ts'
import { lookRules } from './surface/looks.ts'
import { mapRules } from './surface/maps.ts'
import { markerRules } from './motion/markers.ts'
import { materialRules } from './surface/materials.ts'
import { motionRules } from './motion/motion.ts'
import { nameRules } from './surface/names.ts'
import { notCarriedRules } from './surface/not-carried.ts'
import { firstSlot } from '../game/slots.ts'
import { worstFirst, type Finding, type Gauge, type RuleContext, type RuleFamily } from './rule.ts'
import { sectionRules } from './mesh/sections.ts'
import { slotRules } from './pack/slots.ts'
import { solidRules } from './solids/solids.ts'
import { spaceRules } from './fit/space.ts'
import { strayRules } from './intake/strays.ts'
import { fineEdgeRules } from './mesh/fine-edges.ts'
import { surfaceRules } from './mesh/surfaces.ts'
import { triangleRules } from './mesh/triangles.ts'

/** Every family of rules. */
export const ruleFamilies: readonly RuleFamily[] = [
  triangleRules,
  sectionRules,
  halfBlockRules,
  spaceRules,
  faceRules,
  cornerValueRules,
  surfaceRules,
  fineEdgeRules,
  bodyRules,
  levelRules,
  nameRules,
  materialRules,
  mapRules,
  lookRules,
  solidRules,
  fitRules,
  motionRules,
  boneRules,
  heldPoseRules,
  groupRules,
  hostRules,
  clipRules,
  markerRules,
  attachPointRules,
  facingRules,
  strayRules,
  notCarriedRules,
  givenUpRules,
  slotRules,
  entryRules,
  donorRules,
  eventRules,
]

export interface Report {
  findings: Finding[]
  gauges: Gauge[]
}

/**
 * What is checked; an item that has no name yet is called `item`, one that has no slot yet gets the first of its kind.
 */
export type Checked = Omit<RuleContext, 'itemName' | 'slot'> & { itemName?: string; slot?: string | null }

/**
 * What the game would say about an item as it is now; the worst first.
 *
 * @example const { findings, gauges } = checkItem({ document, rulebook, kind })
 */
export function checkItem(checked: Checked): Report {
  const { rulebook, kind, itemName = 'item', slot = firstSlot(rulebook, kind.id) } = checked
  const context: RuleContext = { ...checked, itemName, slot }
  const families = ruleFamilies.filter((family) => context.kind.mesh !== null || !family.ofMeshes)
  const findings = families.flatMap((family) => family.check(context))
  return { findings: worstFirst(findings), gauges: families.flatMap((family) => family.gauges?.(context) ?? []) }
}
