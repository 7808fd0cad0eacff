import { baseNameOf } from '../../game/material-tag.ts'
import { countPrimitiveTriangles, listUsedMaterials, listViewParts, type Part } from '../../item/parts.ts'
import { sectionsOf } from '../../operations/meshes/sections.ts'
import { joinable } from '../../operations/meshes/joinable.ts'
import { formatCount, plural } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import type { Mend, RuleContext, RuleFamily } from '../rule.ts'

/** How many sections an item is written in, where the game counts them: triangles of one material and one part. */
export const sectionRules: RuleFamily = {
  id: 'sections',
  ofMeshes: true,
  check(context) {
    const limits = context.kind.mesh?.sections
    if (!limits) return []
    const counted = countSections(context)
    const sum = counted.reduce((all, { sections }) => all + sections, 0)
    if (sum <= limits.most) return []
    const most = [...counted].sort((a, b) => b.sections - a.sections)
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
        mend: mendOf(context, counted, limits.most),
        // Joining helps only once materials are one, and the other way round: each counts for itself.
        distance: sum + counted.length + listUsedMaterials(context.document).length,
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

/** What brings the count down most for least: one part, then one material, then fewer triangles. */
function mendOf({ document, rulebook }: RuleContext, counted: readonly Counted[], most: number): Mend {
  if (joinable(document).length > 1) return { step: 'join-parts', label: 'Join parts', parameters: {} }
  const materials = listUsedMaterials(document).map((material) => baseNameOf(material, rulebook))
  if (counted.flatMap(({ surfaces }) => surfaces).length > most && materials.length > 1)
    return { step: 'bake-maps', label: 'Bake into one set', parameters: { materials } }
  const targetTriangles = trianglesThatFit(counted, most)
  return { step: 'reduce-triangles', label: 'Reduce triangles', parameters: { by: 'count', targetTriangles } }
}

interface Counted {
  part: Part
  sections: number
  surfaces: { triangles: number; sections: number }[]
}

function countSections({ document, kind }: RuleContext): Counted[] {
  const most = kind.mesh?.sections?.corners ?? Infinity
  return listViewParts(document).map((part) => {
    const surfaces = part.mesh
      .listPrimitives()
      .map((surface) => ({ triangles: countPrimitiveTriangles(surface), surface }))
      .filter(({ triangles }) => triangles > 0)
      .map(({ triangles, surface }) => ({ triangles, sections: sectionsOf(surface, most).length }))
    return { part, surfaces, sections: surfaces.reduce((sum, { sections }) => sum + sections, 0) }
  })
}

/** Fewer triangles have more corners each, since seams and creases are held: so much of the count is not asked for. */
const ROOM_FOR_SEAMS = 0.8

/**
 * How many triangles of the whole item may stay for its sections to fit: each surface is a section at least, and takes
 * its share of the others by what it has now.
 */
function trianglesThatFit(counted: readonly Counted[], most: number): number {
  const surfaces = counted.flatMap((each) => each.surfaces)
  const triangles = surfaces.reduce((sum, each) => sum + each.triangles, 0)
  const spread = surfaces.reduce((sum, { sections }) => sum + sections - 1, 0)
  const room = Math.max(0.5, most - surfaces.length)
  return Math.max(1, Math.floor(triangles * Math.min(1, room / Math.max(1, spread)) * ROOM_FOR_SEAMS))
}
