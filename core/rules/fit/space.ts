import { axisWord } from '../../game/space.ts'
import { WORKING_FORWARD, WORKING_UP } from '../../maths/axes.ts'
import { getRootExtras } from '../../item/extras.ts'
import { boundsSize, isEmptyBounds, mergedTriangles, partBounds, partsBounds, type Bounds } from '../../item/measure.ts'
import { listMovingNodes, listViewParts, type Part } from '../../item/parts.ts'
import { isTurnedOrScaled } from '../../maths/transforms.ts'
import { unitName } from '../../item/units.ts'
import { thinFeatures } from '../../geometry/mesh/thin-features.ts'
import type { Rulebook } from '../../game/schema.ts'
import { formatLength, plural } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import { nowhere, type Finding, type RuleFamily } from '../rule.ts'

/** Axes, unit, size, transforms and the smallest thing that is drawn. */
export const spaceRules: RuleFamily = {
  id: 'space',
  ofMeshes: true,
  check({ document, rulebook }) {
    const findings: Finding[] = []
    const { space } = rulebook
    const { axes, units } = getRootExtras(document.getRoot())
    const parts = listViewParts(document)
    if (axes.up !== WORKING_UP || axes.forward !== WORKING_FORWARD) {
      findings.push({
        rule: 'axes-not-turned',
        severity: 'note',
        stage: 'fit',
        title: 'Axes not turned',
        where: 'item',
        place: nowhere,
        value: `${axisWord(axes.up)} up`,
        limit: `${axisWord(space.up)} up`,
        message:
          `The source has ${axisWord(axes.up)} up and ${axisWord(axes.forward)} forward; in the game it would lie ` +
          'on its side',
        why: 'The loader takes the numbers as they are and cannot tell.',
        mend: { step: 'turn-axes', label: 'Turn axes', parameters: {} },
      })
    }
    if (units.metresPerUnit !== space.unit.metres) {
      findings.push({
        rule: 'unit-not-scaled',
        severity: 'note',
        stage: 'fit',
        title: 'Unit not scaled',
        where: 'item',
        place: nowhere,
        value: units.metresPerUnit === null ? 'unknown' : unitName(units.metresPerUnit),
        limit: `${space.unit.metres} m`,
        message:
          units.metresPerUnit === null
            ? 'No unit is known; sizes are taken as they stand'
            : `The source is in ${unitName(units.metresPerUnit)}, not in ${space.unit.plural}`,
        why: 'The loader takes the numbers as they are and cannot tell.',
        mend: { step: 'scale-to-game', label: 'Scale to game', parameters: {} },
      })
    }
    const longest = Math.max(...boundsSize(partsBounds(parts)))
    if (longest > space.largestItem) {
      findings.push({
        rule: 'item-too-large',
        severity: 'risky',
        stage: 'fit',
        title: 'Giant',
        where: 'item',
        place: placeOfParts(parts),
        value: formatLength(longest),
        limit: formatLength(space.largestItem),
        message:
          `Its longest side is ${formatLength(longest)} ${space.unit.plural}; the figure is ` +
          `${space.figure.height} tall`,
        why: 'A thing this large is nearly always in the wrong unit.',
        mend: { step: 'scale-to-game', label: 'Scale to game', parameters: {} },
      })
    }
    const away = distanceFromOrigin(partsBounds(parts))
    if (away > space.largestItem) {
      findings.push({
        rule: 'far-from-origin',
        severity: 'risky',
        stage: 'fit',
        title: 'Far from its origin',
        where: 'item',
        place: placeOfParts(parts),
        value: formatLength(away),
        limit: formatLength(space.largestItem),
        message: `The item begins ${formatLength(away)} ${space.unit.plural} from its origin`,
        why: 'Where one places it nothing is seen, and far off the numbers grow too coarse.',
        mend: { step: 'place-origin', label: 'Place origin', parameters: {} },
      })
    }
    const moving = listMovingNodes(document)
    for (const part of parts) {
      if (!moving.has(part.node) && isTurnedOrScaled(part.node)) {
        findings.push({
          rule: 'transform-not-baked',
          severity: 'risky',
          stage: 'fit',
          title: 'Transform not baked',
          where: part.name,
          place: placeOfParts([part]),
          value: `scale ${part.node.getScale().map(formatLength).join(' ')}`,
          limit: 'scale 1, no turn',
          message: `${part.name} is turned or scaled by its node`,
          why: 'The game reads vertices and skips turns and scales of still parts.',
          mend: { step: 'bake-transforms', label: 'Bake transforms', parameters: {} },
        })
      }
      const bounds = partBounds(part)
      const [, middle] = [...boundsSize(bounds)].sort((a, b) => a - b)
      if (!isEmptyBounds(bounds) && middle < space.smallestDrawn) {
        findings.push({
          rule: 'too-thin',
          severity: 'risky',
          stage: 'fit',
          title: 'Thin feature',
          where: part.name,
          place: placeOfParts([part]),
          value: formatLength(middle),
          limit: formatLength(space.smallestDrawn),
          message:
            `${part.name}: ${formatLength(middle)} ${space.unit.plural}; nothing under ${space.smallestDrawn} is ` +
            'drawn',
          why: 'Smaller things flicker and are skipped.',
          mend: null,
        })
      }
    }
    return [...findings, ...thinPieces(parts, rulebook)]
  },
}

/** How far the nearest place of a box lies from the origin; 0 when it holds it, or is empty. */
function distanceFromOrigin(bounds: Bounds): number {
  return isEmptyBounds(bounds)
    ? 0
    : Math.hypot(...bounds.min.map((least, axis) => Math.max(least, -bounds.max[axis], 0)))
}

/** Connected pieces too thin for the game, although their part as a whole is not: wires, pins, threads. */
function thinPieces(parts: readonly Part[], { space }: Rulebook): Finding[] {
  const thin = parts.flatMap((part) => {
    const { positions, indices } = mergedTriangles([part])
    return thinFeatures(positions, indices)
      .filter(({ width }) => width < space.smallestDrawn)
      .map((feature) => ({ part, ...feature }))
  })
  if (thin.length === 0) return []
  const smallest = thin.reduce((least, each) => (each.width < least.width ? each : least))
  const factor = smallest.width > 0 ? (space.smallestDrawn / smallest.width) * 1.01 : null
  const names = [...new Set(thin.map(({ part }) => part.name))]
  return [
    {
      rule: 'thin-pieces',
      severity: 'note',
      stage: 'fit',
      title: 'Thin pieces',
      where: names.join(', '),
      place: placeOfParts(
        parts.filter((part) => names.includes(part.name)),
        thin.map(({ centre }) => centre),
      ),
      value: formatLength(smallest.width),
      limit: formatLength(space.smallestDrawn),
      message:
        `${plural(thin.length, 'piece')} of ${names.join(', ')} ${thin.length === 1 ? 'is' : 'are'} thinner than ` +
        `${space.smallestDrawn}, the thinnest ${formatLength(smallest.width)} ` +
        `${space.unit.plural}${factor === null ? ' (flat)' : `; at ${Number(factor.toPrecision(3))} times the size all would be drawn`}`,
      why: 'Smaller things flicker and are skipped.',
      mend:
        factor === null ? null : { step: 'set-size', label: 'Enlarge the item', parameters: { by: 'factor', factor } },
    },
  ]
}
