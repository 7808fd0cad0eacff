import { templatePattern } from '../../support/templates.ts'
import { surfaceOf } from '../../game/material-tag.ts'
import { getNodeExtras } from '../../item/extras.ts'
import type { Document } from '@gltf-transform/core'
import { boundsSize, partBounds } from '../../item/measure.ts'
import { countMeshCorners, countTriangles, listViewParts, type Part } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { readSolidName } from '../../game/solid-names.ts'
import { calledLikeSolids } from '../../operations/solids/called-like-solids.ts'
import { formatCount, formatLength } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import { nowhere, type Finding, type RuleFamily } from '../rule.ts'

/** What is there to bump into, and whether the game reads it. */
export const solidRules: RuleFamily = {
  id: 'solids',
  ofMeshes: true,
  check({ document, rulebook, kind }) {
    const solids = listSolids(document)
    const triangles = countTriangles(listViewParts(document))
    const findings = [
      ...solids.flatMap((solid) => checkSolid(solid, rulebook, kind)),
      ...nearlySolids(document, rulebook),
    ]
    const needed = kind.solids?.neededAboveTriangles ?? null
    const read = solids.filter((solid) => isRead(solid, kind))
    if (kind.solids && needed !== null && triangles > needed && read.length === 0) {
      findings.push({
        rule: 'solid-missing',
        severity: 'blocks',
        stage: 'solids',
        title: 'Solid missing',
        where: 'item',
        place: nowhere,
        value: '0',
        limit: 'needed',
        message: `Over ${formatCount(needed)} triangles and nothing to bump into`,
        why: 'A thing this large that one can walk through breaks the game’s paths.',
        mend: { step: 'fit-solids', label: 'Fit solids to the parts', parameters: {} },
      })
    }
    if (solids.length > rulebook.solids.mostPerItem) {
      findings.push({
        rule: 'solid-count',
        severity: 'blocks',
        stage: 'solids',
        title: 'Too many solids',
        where: 'item',
        place: nowhere,
        value: String(solids.length),
        limit: String(rulebook.solids.mostPerItem),
        message: `${solids.length} solids; ${rulebook.solids.mostPerItem} an item are read`,
        why: 'Each one is tested on every step.',
        mend: null,
      })
    }
    return findings
  },
  gauges: ({ document, rulebook, kind }) => {
    const needed = kind.solids?.neededAboveTriangles ?? null
    if (!kind.solids) return []
    const asked = needed !== null && countTriangles(listViewParts(document)) > needed
    const hulls = listSolids(document).filter(({ extras }) => extras.solid?.shape === 'hull')
    const fullest = Math.max(0, ...hulls.map(({ mesh }) => countMeshCorners(mesh)))
    return [
      ...(hulls.length > 0
        ? [
            {
              id: 'hull-points',
              label: 'Fullest hull',
              stage: 'solids' as const,
              value: fullest,
              limit: rulebook.solids.hullPoints,
              least: 0,
              unit: 'count' as const,
            },
          ]
        : []),
      {
        id: 'solids',
        label: 'Solids',
        stage: 'solids',
        value: listSolids(document).length,
        limit: rulebook.solids.mostPerItem,
        least: asked ? 1 : 0,
        unit: 'count',
      },
    ]
  },
}

/** What is called like a solid and is drawn all the same. */
function nearlySolids(document: Document, rulebook: Rulebook): Finding[] {
  return calledLikeSolids(document, rulebook).map((part): Finding => {
    const read = readSolidName(rulebook, part.name)
    const common = {
      stage: 'solids' as const,
      where: part.name,
      place: placeOfParts([part]),
      value: part.name,
      limit: rulebook.solids.name,
      mend: { step: 'recognise-solids', label: 'Recognise solids', parameters: {} },
    }
    if (read?.exact)
      return {
        ...common,
        rule: 'solid-drawn',
        severity: 'note',
        title: 'Solid among the parts',
        message: `${part.name} is called like a solid and counts as a part that is drawn`,
        why: 'The game takes it for a solid without surface kind.',
      }
    return {
      ...common,
      rule: 'solid-near-name',
      severity: 'risky',
      title: 'Nearly a solid',
      message:
        `“${part.name}” is nearly the name of a ${read?.shape ?? ''} solid; the game draws it and one walks ` +
        'through',
      why: 'Solids are known by their name alone, to the letter.',
    }
  })
}

/** How much further a solid's box lies beside its part's than that is long; 0 or less when it is near. */
function gapBeside(solid: Part): number {
  const node = solid.node.getParentNode()
  const mesh = node?.getMesh()
  if (!node || !mesh) return 0
  const part = partBounds({ name: node.getName(), node, mesh, extras: getNodeExtras(node) })
  const own = partBounds(solid)
  const beside = Math.hypot(
    ...own.min.map((least, axis) => Math.max(least - part.max[axis], part.min[axis] - own.max[axis], 0)),
  )
  return beside - Math.max(...boundsSize(part))
}

/**
 * Without surface kind, or mass where things are loose, the game skips a solid.
 * @example const read = listSolids(document).filter((solid) => isRead(solid, kind))
 */
export function isRead(solid: Part, kind: Kind): boolean {
  const facts = solid.extras.solid
  return facts !== undefined && facts.surface !== null && (kind.solids?.fixed !== false || facts.massKilograms !== null)
}

function checkSolid(solid: Part, rulebook: Rulebook, kind: Kind): Finding[] {
  const findings: Finding[] = []
  const facts = solid.extras.solid
  const where = solid.name
  const place = placeOfParts([solid])
  const common = { stage: 'solids' as const, where, place, mend: null }
  const wantedName = templatePattern(rulebook.solids.name, { shape: facts?.shape ?? 'box', nn: '\\d\\d+' })
  if (!wantedName.test(solid.name)) {
    findings.push({
      ...common,
      rule: 'solid-name',
      severity: 'blocks',
      title: 'Name of a solid',
      value: where,
      limit: rulebook.solids.name,
      message: `“${where}” is not the name of a solid; the game would draw it`,
      why: 'Solids are known by their name alone.',
      mend: { step: 'clean-names', label: 'Clean names', parameters: {} },
    })
  }
  const parent = solid.node.getParentNode()
  if (rulebook.solids.childOfPart && (!parent || !parent.getMesh() || getNodeExtras(parent).role !== 'part')) {
    findings.push({
      ...common,
      rule: 'solid-place',
      severity: 'blocks',
      title: 'Place of a solid',
      value: parent?.getName() ?? 'the scene',
      limit: 'under a part',
      message: `${where} is not under the part it belongs to`,
      why: 'A solid moves and breaks with its part.',
    })
  }
  if (!facts) return findings
  if (!kind.solids?.shapes.includes(facts.shape)) {
    findings.push({
      ...common,
      rule: 'solid-shape',
      severity: 'blocks',
      title: 'Shape of a solid',
      value: facts.shape,
      limit: kind.solids?.shapes.join(', ') ?? 'none',
      message: `A ${kind.title.toLowerCase()} takes no ${facts.shape} solids`,
      why: 'Things that move collide only as convex shapes.',
    })
  }
  const gap = gapBeside(solid)
  if (isRead(solid, kind) && gap > rulebook.solids.noticedGap) {
    findings.push({
      ...common,
      rule: 'solid-apart',
      severity: 'risky',
      title: 'Far from its part',
      value: formatLength(gap),
      limit: formatLength(rulebook.solids.noticedGap),
      message:
        `${where} lies ${formatLength(gap)} ${rulebook.space.unit.plural} further from ` +
        `${parent?.getName() ?? 'its part'} than that is long`,
      why: 'One bumps into nothing there, and walks through the thing itself.',
    })
  }
  const points = countMeshCorners(solid.mesh)
  if (facts.shape === 'hull' && points > rulebook.solids.hullPoints) {
    findings.push({
      ...common,
      rule: 'hull-points',
      severity: 'blocks',
      title: 'Points of a hull',
      value: String(points),
      limit: String(rulebook.solids.hullPoints),
      message: `${where} has ${points} points; ${rulebook.solids.hullPoints} are read`,
      why: 'Hulls are kept in a fixed table.',
    })
  }
  if (!isRead(solid, kind)) {
    const missing = facts.surface === null ? 'surface kind' : 'mass'
    findings.push({
      ...common,
      rule: 'solid-not-read',
      severity: 'risky',
      title: 'Solid not read',
      value: `no ${missing}`,
      limit: missing,
      message: `${where} has no ${missing}; the game skips it`,
      why: 'Without it the game cannot compute what a bump does.',
    })
  } else if (facts.surface !== null && !rulebook.materials.surfaces.some((surface) => surface.name === facts.surface)) {
    findings.push({
      ...common,
      rule: 'solid-surface',
      severity: 'blocks',
      title: 'Surface not known',
      value: facts.surface,
      limit: rulebook.materials.surfaces.map((surface) => surface.name).join(' '),
      message: `The game knows no surface “${facts.surface}”`,
      why: 'Sound and friction come from the surface kind.',
    })
  }
  const unlike = facts.surface === null ? null : unlikeMaterials(solid, facts.surface, rulebook)
  if (unlike) {
    findings.push({
      ...common,
      rule: 'solid-unlike',
      severity: 'note',
      title: 'Sounds otherwise than it looks',
      value: facts.surface ?? '',
      limit: unlike,
      message: `${where} is ${facts.surface}, and what one sees there is ${unlike}`,
      why: 'A step on planks that rings like stone is noticed.',
      mend: {
        step: 'change-solid',
        label: `Make it ${unlike}`,
        parameters: { solid: where, surface: unlike.split(' or ')[0] },
      },
    })
  }
  const unknownLayer = facts.layers.find((layer) => !rulebook.solids.layers.some((known) => known.name === layer))
  if (unknownLayer !== undefined) {
    findings.push({
      ...common,
      rule: 'solid-layer',
      severity: 'risky',
      title: 'Layer not known',
      value: unknownLayer,
      limit: rulebook.solids.layers.map((layer) => layer.name).join(' '),
      message: `The game knows no layer “${unknownLayer}” and skips it`,
      why: 'Layers say what may touch what.',
    })
  }
  const range = kind.solids?.massKilograms
  if (
    range &&
    facts.massKilograms !== null &&
    (facts.massKilograms < range.least || facts.massKilograms > range.most)
  ) {
    findings.push({
      ...common,
      rule: 'solid-mass',
      severity: 'blocks',
      title: 'Mass',
      value: `${facts.massKilograms} kg`,
      limit: `${range.least} to ${range.most} kg`,
      message: `${where} weighs ${facts.massKilograms} kg; ${range.least} to ${range.most} kg are taken`,
      why: 'Heavier things tear their joints, lighter ones fly off.',
    })
  }
  return findings
}

/** The surface kinds of the part's own materials, where a solid's is none of them; null where it fits. */
function unlikeMaterials(solid: Part, surface: string, rulebook: Rulebook): string | null {
  const kinds = new Set(
    solid.node
      .getParentNode()
      ?.getMesh()
      ?.listPrimitives()
      .flatMap((primitive) => surfaceOf(primitive.getMaterial(), rulebook) ?? []) ?? [],
  )
  return kinds.size === 0 || kinds.has(surface) ? null : [...kinds].join(' or ')
}
