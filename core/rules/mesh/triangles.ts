import { countMeshCorners, countTriangles, listViewParts } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { countLargePolygons } from '../../item/polygons.ts'
import { formatCount } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import { nowhere, type Finding, type RuleFamily } from '../rule.ts'

/** Triangle budgets and corner limits: counted on what is there now, after every step. */
export const triangleRules: RuleFamily = {
  id: 'triangles',
  ofMeshes: true,
  check({ document, kind }) {
    if (!kind.mesh) return []
    const findings: Finding[] = []
    const parts = listViewParts(document)
    const triangles = countTriangles(parts)
    const withSolids = triangles + countTriangles(listSolids(document))
    const heaviest = [...parts].sort((a, b) => countTriangles([b]) - countTriangles([a]))[0]
    const mend = { step: 'reduce-triangles', label: 'Reduce triangles', parameters: {} }
    if (triangles === 0) {
      findings.push({
        rule: 'nothing-drawn',
        severity: 'blocks',
        stage: 'mesh',
        title: 'Nothing to draw',
        where: 'item',
        place: nowhere,
        value: '0',
        limit: '1 or more',
        message: 'The item has no triangle that is drawn',
        why: 'The loader stops at a thing without a surface.',
        mend: null,
      })
    }
    // Where a game builds of half-blocks, those are counted.
    if (kind.mesh.halfBlocks === null && triangles > kind.mesh.triangles) {
      findings.push({
        rule: 'triangle-budget',
        severity: 'blocks',
        stage: 'mesh',
        title: 'Too many triangles',
        where: 'item',
        place: placeOfParts(heaviest ? [heaviest] : []),
        value: formatCount(triangles),
        limit: formatCount(kind.mesh.triangles),
        message:
          `${formatCount(triangles)} triangles; a ${kind.title.toLowerCase()} may have ` +
          `${formatCount(kind.mesh.triangles)}`,
        why: 'The game sets its frame time aside for so many triangles a thing.',
        mend,
      })
    }
    if (kind.mesh.withSolids !== null && withSolids > kind.mesh.withSolids) {
      findings.push({
        rule: 'view-and-solids-budget',
        severity: 'blocks',
        stage: 'solids',
        title: 'View and solids together',
        where: 'item',
        place: nowhere,
        value: formatCount(withSolids),
        limit: formatCount(kind.mesh.withSolids),
        message:
          `View and solids have ${formatCount(withSolids)} triangles together; ` +
          `${formatCount(kind.mesh.withSolids)} are allowed`,
        why: 'Both are kept in the same memory.',
        mend,
      })
    }
    for (const part of parts) {
      const corners = countMeshCorners(part.mesh)
      if (corners <= kind.mesh.cornersPerPart) continue
      findings.push({
        rule: 'corner-limit',
        severity: 'blocks',
        stage: 'mesh',
        title: 'Too many corners',
        where: part.name,
        place: placeOfParts([part]),
        value: formatCount(corners),
        limit: formatCount(kind.mesh.cornersPerPart),
        message:
          `${part.name} has ${formatCount(corners)} corners; ${formatCount(kind.mesh.cornersPerPart)} a part are ` +
          'read',
        why: 'Corner numbers are 16 bits wide.',
        mend: { step: 'weld', label: 'Weld corners', parameters: {} },
      })
    }
    const polygons = countLargePolygons(document)
    if (polygons > 0) {
      findings.push({
        rule: 'polygons-left',
        severity: 'note',
        stage: 'mesh',
        title: 'Quads and larger polygons',
        where: 'item',
        place: nowhere,
        value: formatCount(polygons),
        limit: '0',
        message: `${formatCount(polygons)} polygons have more than three corners; the game takes triangles only`,
        why: 'Games draw triangles, and every tool cuts polygons its own way.',
        mend: { step: 'triangulate', label: 'Triangulate', parameters: {} },
      })
    }
    return findings
  },
  gauges({ document, kind }) {
    if (!kind.mesh) return []
    const parts = listViewParts(document)
    const triangles = countTriangles(parts)
    const withSolids = triangles + countTriangles(listSolids(document))
    const corners = Math.max(0, ...parts.map((part) => countMeshCorners(part.mesh)))
    return [
      ...(kind.mesh.halfBlocks === null
        ? [
            {
              id: 'triangles',
              label: 'Triangles',
              stage: 'mesh' as const,
              value: triangles,
              limit: kind.mesh.triangles,
              least: 0,
              unit: 'count' as const,
            },
          ]
        : []),
      ...(kind.mesh.withSolids === null
        ? []
        : [
            {
              id: 'with-solids',
              label: 'With solids',
              stage: 'solids' as const,
              value: withSolids,
              limit: kind.mesh.withSolids,
              least: 0,
              unit: 'count' as const,
            },
          ]),
      ...(kind.mesh.halfBlocks === null
        ? [
            {
              id: 'corners',
              label: 'Corners a part',
              stage: 'mesh' as const,
              value: corners,
              limit: kind.mesh.cornersPerPart,
              least: 0,
              unit: 'count' as const,
            },
          ]
        : []),
    ]
  },
}
