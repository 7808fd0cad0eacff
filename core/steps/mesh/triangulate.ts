import { z } from 'zod'
import { transformedPoints } from '../../maths/matrices.ts'
import { boundsSize, partsBounds } from '../../item/measure.ts'
import { listAllParts, listViewParts, restMatrix } from '../../item/parts.ts'
import { countLargePolygons, POLYGON_ATTRIBUTE, readOutlines, type Outlines } from '../../item/polygons.ts'
import { accessorToFloats, dropUnusedAccessors, writeIndices } from '../../item/primitive-arrays.ts'
import {
  areaNormal,
  diagonalChoices,
  triangulatePolygons,
  type DiagonalChoice,
} from '../../geometry/mesh/triangulate.ts'
import { defineStep } from '../step.ts'
import { formatCount, formatLength, plural } from '../../support/wording.ts'

const parameters = z.object({ diagonal: z.enum(diagonalChoices).default('shortest') })

/** Cuts quads and larger polygons into triangles. */
export const triangulate = defineStep<z.infer<typeof parameters>>({
  id: 'triangulate',
  version: 4,
  stage: 'mesh',
  title: 'Triangulate',
  purpose: 'Cuts quads along the better diagonal and larger polygons, also concave ones, into triangles.',
  parameters,
  fields: () => [
    {
      type: 'choice',
      key: 'diagonal',
      label: 'Cut quads along',
      options: [
        { value: 'shortest', label: 'the shortest diagonal' },
        { value: 'flattest', label: 'the one that bends least' },
        { value: 'even', label: 'the one with even angles' },
      ],
    },
  ],
  defaults: () => ({ diagonal: 'shortest' }),
  propose({ document }) {
    const polygons = countLargePolygons(document)
    return polygons === 0
      ? []
      : [
          {
            parameters: { diagonal: 'shortest' },
            reason:
              `${plural(polygons, 'quad or larger polygon', 'quads and larger polygons')}; the game draws ` +
              'triangles only.',
          },
        ]
  },
  async run({ document, parameters: { diagonal }, rulebook, progress }) {
    const before = countLargePolygons(document)
    let triangles = 0
    let bend = 0
    const parts = listAllParts(document)
    for (const [number, part] of parts.entries()) {
      await progress(number / parts.length, part.name)
      for (const primitive of part.mesh.listPrimitives()) {
        const outlines = readOutlines(primitive)
        const position = primitive.getAttribute('POSITION')
        if (!outlines || !position) continue
        const positions = accessorToFloats(position)
        const indices = cutOutlines(positions, outlines, diagonal)
        bend = Math.max(bend, mostBent(transformedPoints(positions, restMatrix(part.node)), outlines))
        writeIndices(document, primitive, indices, position.getCount())
        primitive.setAttribute(POLYGON_ATTRIBUTE, null)
        triangles += indices.length / 3
      }
    }
    dropUnusedAccessors(document)
    const noticed = Math.max(...boundsSize(partsBounds(listViewParts(document)))) * NOTICED_BEND
    const bent =
      bend > noticed
        ? [
            `Some are bent: cut along other diagonals, the surface would lie up to ${formatLength(bend)} ` +
              `${rulebook.space.unit.plural} elsewhere.`,
          ]
        : []
    return {
      headline: before > 0 ? `${formatCount(before)} cut` : 'none left',
      details:
        before > 0
          ? [
              `${formatCount(before)} quads and larger polygons became triangles; those parts now have ` +
                `${formatCount(triangles)}.`,
              ...bent,
            ]
          : ['There were only triangles.'],
      changed: before > 0,
    }
  },
})

/** A bend below this share of the longest side is not told. */
const NOTICED_BEND = 0.0005

/**
 * How far apart the flattest and the roundest way of cutting a polygon may lie, for the most bent of them: twice the
 * furthest that a corner lies out of the polygon's plane.
 */
function mostBent(positions: Float32Array, { corners, starts }: Outlines): number {
  let most = 0
  for (let polygon = 0; polygon + 1 < starts.length; polygon++) {
    const outline = corners.slice(starts[polygon], starts[polygon + 1])
    if (outline.length < 4) continue
    const normal = areaNormal(positions, [...outline])
    const middle = [0, 1, 2].map(
      (axis) => outline.reduce((sum, corner) => sum + positions[corner * 3 + axis], 0) / outline.length,
    )
    const length = Math.hypot(...normal) || 1
    for (const corner of outline)
      most = Math.max(
        most,
        (2 *
          Math.abs(
            normal.reduce((sum, value, axis) => sum + value * (positions[corner * 3 + axis] - middle[axis]), 0),
          )) /
          length,
      )
  }
  return most
}

/** Triangles of whole polygons, cut anew, and those that are left of others. */
function cutOutlines(
  positions: Float32Array,
  { corners, starts, loose }: Outlines,
  diagonal: DiagonalChoice,
): Uint32Array {
  const outlined = new Float32Array(corners.length * 3)
  corners.forEach((corner, at) => outlined.set(positions.subarray(corner * 3, corner * 3 + 3), at * 3))
  const cut = triangulatePolygons(outlined, starts, diagonal)
  const indices = new Uint32Array(cut.length + loose.length)
  cut.forEach((at, index) => (indices[index] = corners[at]))
  indices.set(loose, cut.length)
  return indices
}
