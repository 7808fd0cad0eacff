import type { Document, Node } from '@gltf-transform/core'
import { boundsSize, partsBounds } from '../../item/measure.ts'
import { countMeshTriangles, type Part } from '../../item/parts.ts'
import { listShadowParts } from '../../item/annotations/shadow/list.ts'
import { findMeshFaults } from '../../geometry/mesh/mesh-faults.ts'
import { sampleShares } from '../../geometry/surface/sample-shares.ts'
import { MOST_SAMPLES, standsOutOf } from '../../geometry/surface/shadow-shape.ts'
import type { Rulebook } from '../../game/schema.ts'
import { plainShape } from '../../operations/meshes/derived-meshes.ts'
import { rememberByValue } from '../../support/remember.ts'
import { formatCount, formatLength } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import type { Finding } from '../rule.ts'

/** Up to this share of the longest side a shadow mesh may stand out: less is not seen. */
const TOLERATED_STAND_OUT = 0.01

/** Asked again at each check, though few edits change a shape. */
const standsOut = rememberByValue(standsOutOf, 16_384)

/**
 * A shadow mesh ought to be closed and to lie inside what throws it.
 * @example findings.push(...checkShadowShape(document, listShadowParts(document), rulebook))
 */
export function checkShadowShape(document: Document, parts: readonly Part[], rulebook: Rulebook): Finding[] {
  const shadows = listShadowParts(document)
  const common = {
    severity: 'note' as const,
    stage: 'mesh' as const,
    mend: { step: 'levels-and-shadow', label: 'Make levels', parameters: {} },
  }
  const findings: Finding[] = []
  const open = shadows.filter((shadow) => {
    const { positions, indices } = plainShape(shadow)
    return findMeshFaults(positions, indices).openLoops.length > 0
  })
  if (rulebook.levels.shadow.closed && open.length > 0) {
    findings.push({
      ...common,
      rule: 'shadow-open',
      title: 'Shadow mesh not closed',
      where: open[0].name,
      place: placeOfParts(open),
      value: formatCount(open.length),
      limit: '0',
      message:
        `${open.length === 1 ? open[0].name : `${formatCount(open.length)} shadow meshes`} ` +
        `${open.length === 1 ? 'has' : 'have'} holes`,
      why: 'Light falls through holes of a shadow mesh.',
    })
  }
  const limit = Math.max(...boundsSize(partsBounds(parts))) * TOLERATED_STAND_OUT
  const samples = sampleShares(
    shadows.map(({ mesh }) => countMeshTriangles(mesh)),
    MOST_SAMPLES,
  )
  const partOf = new Map<Node | null, Part>(parts.map((part) => [part.node, part]))
  const out = shadows
    .map((shadow, index) => ({
      shadow,
      view: partOf.get(shadow.node.getParentNode()),
      samples: samples[index],
    }))
    .map(({ shadow, view, samples }) => ({
      shadow,
      by: view ? standsOut(plainShape(shadow), plainShape(view), samples) : 0,
    }))
    .filter(({ by }) => by > limit)
    .sort((a, b) => b.by - a.by)
  if (out.length > 0) {
    findings.push({
      ...common,
      rule: 'shadow-outside',
      title: 'Shadow mesh stands out',
      where: out[0].shadow.name,
      place: placeOfParts(out.map((each) => each.shadow)),
      value: formatLength(out[0].by),
      limit: formatLength(limit),
      message:
        `${out[0].shadow.name} stands ${formatLength(out[0].by)} ${rulebook.space.unit.plural} out of what it ` +
        'shades',
      why: 'What stands out throws its shadow on the thing itself.',
    })
  }
  return findings
}
