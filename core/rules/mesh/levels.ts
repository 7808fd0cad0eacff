import type { Document, Node } from '@gltf-transform/core'
import { boundsSize, isEmptyBounds, partBounds, partsBounds, type Bounds } from '../../item/measure.ts'
import { countTriangles, listViewParts, type Part } from '../../item/parts.ts'
import { listLevelParts } from '../../item/annotations/level/list.ts'
import { listShadowParts } from '../../item/annotations/shadow/list.ts'
import type { Rulebook } from '../../game/schema.ts'
import { formatCount, formatLength } from '../../support/wording.ts'
import { noticedShift, shiftsBetween } from '../../operations/meshes/level-shift.ts'
import { placeOfParts } from '../places.ts'
import { checkShadowShape } from './shadow-shape.ts'
import { nowhere, type Finding, type RuleFamily } from '../rule.ts'

const materialNames = (parts: readonly Part[]): string[] => [
  ...new Set(
    parts.flatMap((part) => part.mesh.listPrimitives().map((primitive) => primitive.getMaterial()?.getName() ?? '')),
  ),
]

const materialsOf = (parts: readonly Part[]): string => materialNames(parts).sort().join(' ')

/** Levels of detail and the shadow mesh. */
export const levelRules: RuleFamily = {
  id: 'levels',
  ofMeshes: true,
  check({ document, rulebook, kind }) {
    const parts = listViewParts(document)
    const triangles = countTriangles(parts)
    const { levels } = rulebook
    if (!kind.levelsAsked || triangles <= levels.neededAboveTriangles) return []
    const findings: Finding[] = []
    const mend = { step: 'levels-and-shadow', label: 'Make levels', parameters: {} }
    const common = { stage: 'mesh' as const, place: nowhere, mend, severity: 'risky' as const }
    const why = 'From far off the game draws fewer triangles, or the whole view slows down.'
    for (const { level, mostShare } of levels.chain) {
      const made = listLevelParts(document, level)
      const count = countTriangles(made)
      const limit = Math.floor(triangles * mostShare)
      if (made.length === 0)
        findings.push({
          ...common,
          rule: 'level-missing',
          title: 'Level missing',
          where: `level ${level}`,
          value: 'none',
          limit: formatCount(limit),
          message: `Level ${level} is missing; it is wanted above ${formatCount(levels.neededAboveTriangles)} triangles`,
          why,
        })
      else if (count > limit)
        findings.push({
          ...common,
          rule: 'level-too-dense',
          title: 'Level too dense',
          where: `level ${level}`,
          value: formatCount(count),
          limit: formatCount(limit),
          message:
            `Level ${level} has ${formatCount(count)} triangles; at most ${mostShare * 100} % of ` +
            `${formatCount(triangles)} are useful`,
          why,
        })
      findings.push(...checkEachPart(parts, made, level, rulebook))
      if (made.length > 0 && levels.sameMaterials && materialsOf(made) !== materialsOf(parts)) {
        findings.push({
          ...common,
          rule: 'level-materials',
          title: 'Level with other materials',
          where: `level ${level}`,
          value: materialsOf(made),
          limit: materialsOf(parts),
          message: `Level ${level} does not have the materials of the first`,
          why: 'The thing would change its look when the game switches levels.',
        })
      }
    }
    findings.push(...checkLevelShapes(document, rulebook), ...checkShadowShape(document, parts, rulebook))
    const shadow = countTriangles(listShadowParts(document))
    const limit = Math.floor(triangles * levels.shadow.mostShare)
    if (shadow === 0)
      findings.push({
        ...common,
        rule: 'shadow-missing',
        title: 'Shadow mesh missing',
        where: 'shadow',
        value: 'none',
        limit: formatCount(limit),
        message: 'There is no mesh to throw the shadow',
        why: 'Shadows are drawn from a simpler mesh of their own.',
      })
    else if (shadow > limit)
      findings.push({
        ...common,
        rule: 'shadow-too-dense',
        title: 'Shadow mesh too dense',
        where: 'shadow',
        value: formatCount(shadow),
        limit: formatCount(limit),
        message: `The shadow mesh has ${formatCount(shadow)} triangles; ${formatCount(limit)} are allowed`,
        why: 'Shadows are drawn several times a frame.',
        ...(levels.shadow.orALevel
          ? {
              mend: {
                step: 'levels-and-shadow',
                label: 'Let the last level throw it',
                parameters: { shadowFrom: 'level' },
              },
            }
          : {}),
      })
    return findings
  },
}

/**
 * Whether every part is drawn at a level, by what hangs below it or by what hangs below another and reaches over it as
 * well, and shows its own materials there.
 */
function checkEachPart(parts: readonly Part[], made: readonly Part[], level: number, rulebook: Rulebook): Finding[] {
  if (made.length === 0) return []
  const reach = Math.max(...boundsSize(partsBounds(parts))) * rulebook.levels.mostDrift
  const boxes = new Map(made.map((each) => [each, partBounds(each)]))
  const covers = (outer: Bounds, inner: Bounds): boolean =>
    inner.min.every((least, axis) => outer.min[axis] - reach <= least && outer.max[axis] + reach >= inner.max[axis])
  const hung = belowEach(made)
  return parts.flatMap((part): Finding[] => {
    const own = partBounds(part)
    const drawing = hung.get(part.node) ?? made.filter((each) => covers(boxes.get(each) ?? own, own))
    const common = {
      severity: 'risky' as const,
      stage: 'mesh' as const,
      where: part.name,
      place: placeOfParts([part]),
      mend: { step: 'levels-and-shadow', label: 'Make levels', parameters: {} },
    }
    if (drawing.length === 0)
      return [
        {
          ...common,
          rule: 'level-part-missing',
          title: 'A part without its level',
          value: 'none',
          limit: `level ${level}`,
          message: `Level ${level} of ${part.name} is missing`,
          why: 'The part vanishes when the game switches levels.',
        },
      ]
    const shown = new Set(materialNames(drawing))
    const other = materialNames([part]).find((name) => !shown.has(name))
    if (!rulebook.levels.sameMaterials || other === undefined) return []
    return [
      {
        ...common,
        rule: 'level-part-material',
        title: 'A level in another material',
        value: [...shown].join(' '),
        limit: other,
        message: `Level ${level} of ${part.name} does not show ${other || 'its material'}`,
        why: 'The part would change its look when the game switches levels.',
      },
    ]
  })
}

/** Meshes by the node that they hang below. */
function belowEach(made: readonly Part[]): Map<Node | null, Part[]> {
  const hung = new Map<Node | null, Part[]>()
  for (const each of made) {
    const parent = each.node.getParentNode()
    const others = hung.get(parent)
    if (others) others.push(each)
    else hung.set(parent, [each])
  }
  return hung
}

const bonesOf = (parts: readonly Part[]): string =>
  [
    ...new Set(
      parts.flatMap(
        (part) =>
          part.node
            .getSkin()
            ?.listJoints()
            .map((joint) => joint.getName()) ?? [],
      ),
    ),
  ]
    .sort()
    .join(' ')

/** A level that stands elsewhere, lies further off than its distance hides, or has other bones than the first. */
function checkLevelShapes(document: Document, rulebook: Rulebook): Finding[] {
  const findings: Finding[] = []
  const parts = listViewParts(document)
  const first = partsBounds(parts)
  const longest = Math.max(...boundsSize(first))
  for (const { level } of rulebook.levels.chain) {
    const made = listLevelParts(document, level)
    const own = partsBounds(made)
    if (isEmptyBounds(own)) continue
    const drift = Math.max(
      ...[0, 1, 2].flatMap((axis) => [
        Math.abs(own.min[axis] - first.min[axis]),
        Math.abs(own.max[axis] - first.max[axis]),
      ]),
    )
    const common = {
      severity: 'risky' as const,
      stage: 'mesh' as const,
      where: `level ${level}`,
      place: placeOfParts(made),
      mend: { step: 'levels-and-shadow', label: 'Make levels', parameters: {} },
    }
    if (drift > longest * rulebook.levels.mostDrift) {
      findings.push({
        ...common,
        rule: 'level-geometry',
        title: 'Level of another thing',
        value: formatLength(drift),
        limit: formatLength(longest * rulebook.levels.mostDrift),
        message:
          `Level ${level} reaches ${formatLength(drift)} ${rulebook.space.unit.plural} beside the first; it holds ` +
          'other geometry',
        why: 'From far off another thing would stand there.',
      })
    } else findings.push(...seenToSwitch(made, parts, rulebook, level))
    if (rulebook.levels.sameBones && bonesOf(made) !== bonesOf(parts)) {
      findings.push({
        ...common,
        rule: 'level-bones',
        title: 'Level with other bones',
        value: bonesOf(made) || 'none',
        limit: bonesOf(parts) || 'none',
        message: `Level ${level} is not held by the bones of the first`,
        why: 'It would stand still, or bend otherwise, when the game switches levels.',
      })
    }
  }
  return findings
}

/** A level that lies further from the first than one sees at the distance from which it is drawn. */
function seenToSwitch(made: readonly Part[], parts: readonly Part[], rulebook: Rulebook, level: number): Finding[] {
  const each = rulebook.levels.chain.find((one) => one.level === level)
  if (!each) return []
  const unit = rulebook.space.unit.plural
  const noticed = noticedShift(each)
  const partOf = new Map<Node | null, Part>(parts.map((part) => [part.node, part]))
  const pairs = made.flatMap((part) => {
    const first = partOf.get(part.node.getParentNode())
    return first ? [{ part, first }] : []
  })
  const shifts = shiftsBetween(pairs.map(({ part, first }) => [first.mesh, part.mesh])).map((shift, index) => ({
    part: pairs[index].part,
    shift: shift * Math.max(...pairs[index].first.node.getWorldScale().map(Math.abs)),
  }))
  const seen = shifts.filter(({ shift }) => shift > noticed).sort((a, b) => b.shift - a.shift)
  if (seen.length === 0) return []
  return [
    {
      rule: 'level-seen',
      severity: 'note',
      stage: 'mesh',
      title: 'Level seen to switch',
      where: `level ${level}`,
      place: placeOfParts(seen.map(({ part }) => part)),
      value: `${formatLength(seen[0].shift)} ${unit}`,
      limit: `${formatLength(noticed)} ${unit}`,
      message:
        `${seen[0].part.name} lies ${formatLength(seen[0].shift)} ${unit} from the first level; from ` +
        `${formatCount(each.fromDistance)} ${unit} on, where it is drawn, ${formatLength(noticed)} would be ` +
        'noticed',
      why: 'One sees the thing change when the game switches levels.',
      mend: {
        step: 'levels-and-shadow',
        label: 'Give it more triangles',
        parameters: { [`level${level}`]: each.mostShare },
      },
    },
  ]
}
