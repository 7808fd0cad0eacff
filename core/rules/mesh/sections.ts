import { countPrimitiveTriangles, listViewParts, type Part } from '../../item/parts.ts'
import { sectionsOf } from '../../operations/meshes/sections.ts'
import { joinable } from '../../operations/meshes/joinable.ts'
import { formatCount, plural } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import type { RuleContext, RuleFamily } from '../rule.ts'

/** How many sections an item is written in, where the game counts them: triangles of one material and one part. */
export const sectionRules: RuleFamily = {
  id: 'sections',
  ofMeshes: true,
  check(context) {
    const { document, kind } = context
    const limits = kind.mesh?.sections
    if (!limits) return []
    const counted = countSections(context)
    const sum = counted.reduce((all, { sections }) => all + sections, 0)
    if (sum <= limits.most) return []
    const most = [...counted].sort((a, b) => b.sections - a.sections)
    const joins = joinable(document).length > 1
    return [
      {
        rule: 'section-count',
        severity: 'blocks',
        stage: 'mesh',
        title: 'Too many sections',
        where: 'item',
        place: placeOfParts(most.slice(0, 1).map(({ part }) => part)),
        value: formatCount(sum),
        limit: formatCount(limits.most),
        message: `${formatCount(sum)} sections; ${formatCount(limits.most)} are read. Each material of each part is one, and one more for every ${formatCount(limits.corners)} corners: ${most
          .slice(0, 3)
          .map(({ part, sections }) => `${part.name} ${sections}`)
          .join(', ')} of ${plural(counted.length, 'part')}`,
        why: 'The game draws a section at a time, and has room for a list of so many.',
        mend: joins
          ? { step: 'join-parts', label: 'Join parts', parameters: {} }
          : { step: 'reduce-triangles', label: 'Reduce triangles', parameters: {} },
      },
    ]
  },
  gauges(context) {
    const limits = context.kind.mesh?.sections
    if (!limits) return []
    return [
      {
        id: 'sections',
        label: 'Sections',
        stage: 'mesh',
        value: countSections(context).reduce((sum, { sections }) => sum + sections, 0),
        limit: limits.most,
        least: 0,
        unit: 'count',
      },
    ]
  },
}

function countSections({ document, kind }: RuleContext): { part: Part; sections: number }[] {
  const most = kind.mesh?.sections?.corners ?? Infinity
  return listViewParts(document).map((part) => ({
    part,
    sections: part.mesh
      .listPrimitives()
      .filter((surface) => countPrimitiveTriangles(surface) > 0)
      .reduce((sum, surface) => sum + sectionsOf(surface, most).length, 0),
  }))
}
