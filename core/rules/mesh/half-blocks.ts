import { listViewParts } from '../../item/parts.ts'
import { countHalfBlocks, halfBlockErrorShare } from '../../operations/meshes/half-blocks.ts'
import { formatCount, formatLength, listed, plural } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

/** Where a game has no meshes: how many half-blocks an item becomes, how small they are, and which tray they lie in. */
export const halfBlockRules: RuleFamily = {
  id: 'half-blocks',
  ofMeshes: true,
  check(context) {
    const { rulebook, kind } = context
    const most = kind.mesh?.halfBlocks
    if (!rulebook.halfBlocks || most === null || most === undefined) return []
    return [...checkBlocks(context, most), ...checkTrays(context)]
  },
  gauges({ document, rulebook, kind }) {
    const most = kind.mesh?.halfBlocks
    if (!rulebook.halfBlocks || most === null || most === undefined) return []
    return [
      {
        id: 'half-blocks',
        label: 'Half-blocks',
        stage: 'mesh',
        value: countHalfBlocks(document, rulebook.halfBlocks.shortestEdge).blocks,
        limit: most,
        least: 0,
        unit: 'count',
      },
      {
        id: 'trays',
        label: 'Trays',
        stage: 'mesh',
        value: listViewParts(document).length,
        limit: rulebook.halfBlocks.mostTrays,
        least: 0,
        unit: 'count',
      },
    ]
  },
}

function checkBlocks({ document, rulebook }: RuleContext, most: number): Finding[] {
  const rules = rulebook.halfBlocks
  if (!rules) return []
  const parts = listViewParts(document)
  const { blocks, tiny, spots } = countHalfBlocks(document, rules.shortestEdge)
  const unit = rulebook.space.unit
  const findings: Finding[] = []
  const common = { severity: 'blocks' as const, stage: 'mesh' as const, where: 'item' }
  if (blocks > most)
    findings.push({
      ...common,
      rule: 'half-block-count',
      title: 'Too many half-blocks',
      place: nowhere,
      value: formatCount(blocks),
      limit: formatCount(most),
      message: `${formatCount(blocks)} half-blocks, two for each triangle; an item may have ${formatCount(most)}`,
      why: 'The game keeps each half-block as a thing of its own.',
      mend: { step: 'reduce-triangles', label: 'Reduce triangles', parameters: {} },
    })
  const [shortest] = tiny
  if (shortest) {
    const names = [...new Set(tiny.map(({ part }) => part))]
    const scale = shortest.side > 0 ? rules.shortestEdge / shortest.side : Infinity
    findings.push({
      ...common,
      rule: 'half-block-size',
      title: 'Half-blocks too small',
      place: placeOfParts(
        parts.filter(({ name }) => names.includes(name)),
        spots,
      ),
      value: formatLength(shortest.side),
      limit: `${rules.shortestEdge} ${unit.plural}`,
      message:
        `${plural(tiny.length, 'triangle')} of ` +
        `${listed(names)} would have ` +
        `half-blocks with a side of ${formatLength(shortest.side)} or more; ${rules.shortestEdge} ${unit.plural} ` +
        `is the least${Number.isFinite(scale) ? `. At ${formatScale(scale)} times the size all would pass` : ''}`,
      why: 'Smaller ones fall through the game’s grid.',
      mend: { step: 'clear-tiny-edges', label: 'Clear tiny edges', parameters: {} },
    })
  }
  const off = blocks <= most && tiny.length === 0 ? halfBlockErrorShare(document) : 0
  if (off > rules.accuracyShare)
    findings.push({
      ...common,
      rule: 'half-block-accuracy',
      title: 'Half-blocks off',
      place: nowhere,
      value: `${(off * 100).toFixed(3)} %`,
      limit: `${(rules.accuracyShare * 100).toFixed(3)} %`,
      message: `Put together again, the half-blocks lie ${(off * 100).toFixed(3)} % of the item’s size beside it`,
      why: 'Places so far from the origin have no digits left.',
      mend: { step: 'place-origin', label: 'Place the origin', parameters: {} },
    })
  return findings
}

const formatScale = (scale: number): string => (Math.ceil(scale * 100) / 100).toFixed(2)

function checkTrays({ document, rulebook }: RuleContext): Finding[] {
  const rules = rulebook.halfBlocks
  if (!rules) return []
  const parts = listViewParts(document)
  const findings: Finding[] = []
  const common = { severity: 'blocks' as const, stage: 'mesh' as const }
  const mend = { step: 'sort-into-trays', label: 'Sort into trays', parameters: {} }
  if (parts.length > rules.mostTrays)
    findings.push({
      ...common,
      rule: 'tray-count',
      title: 'Too many trays',
      where: 'item',
      place: nowhere,
      value: String(parts.length),
      limit: String(rules.mostTrays),
      message: `${plural(parts.length, 'part')} would be as many trays; an item may have ${rules.mostTrays}`,
      why: 'The builder has so many trays beside the board.',
      mend,
    })
  for (const part of parts) {
    const finishes = new Set(part.mesh.listPrimitives().map((surface) => surface.getMaterial()))
    if (finishes.size < 2) continue
    findings.push({
      ...common,
      rule: 'tray-finish',
      title: 'More than one finish in a tray',
      where: part.name,
      place: placeOfParts([part]),
      value: String(finishes.size),
      limit: '1',
      message: `${part.name} shows ${finishes.size} materials; a tray has one finish`,
      why: 'A tray is finished as a whole.',
      mend,
    })
  }
  return findings
}
