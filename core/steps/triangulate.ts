import { z } from 'zod'
import { listAllParts } from '../document/parts.ts'
import { countLargePolygons, POLYGON_ATTRIBUTE, readOutlines, type Outlines } from '../document/polygons.ts'
import { accessorToFloats, dropUnusedAccessors, writeIndices } from '../document/primitive-arrays.ts'
import { diagonalChoices, triangulatePolygons, type DiagonalChoice } from '../geometry/triangulate.ts'
import { defineStep, formatCount, plural } from './step.ts'

const parameters = z.object({ diagonal: z.enum(diagonalChoices).default('shortest') })

/** Cuts quads and larger polygons into triangles. */
export const triangulate = defineStep<z.infer<typeof parameters>>({
  id: 'triangulate',
  version: 3,
  stage: 'mesh',
  title: 'Triangulate',
  purpose: 'Cuts quads along the better diagonal and larger polygons, also concave ones, into triangles.',
  parameters,
  fields: () => [
    {
      type: 'choice', key: 'diagonal', label: 'Cut quads along',
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
    return polygons === 0 ? [] : [{ parameters: { diagonal: 'shortest' }, reason: `${plural(polygons, 'quad or larger polygon', 'quads and larger polygons')}; the game draws triangles only.` }]
  },
  async run({ document, parameters: { diagonal }, progress }) {
    const before = countLargePolygons(document)
    let triangles = 0
    const parts = listAllParts(document)
    for (const [number, part] of parts.entries()) {
      await progress(number / parts.length, part.name)
      for (const primitive of part.mesh.listPrimitives()) {
        const outlines = readOutlines(primitive)
        const position = primitive.getAttribute('POSITION')
        if (!outlines || !position) continue
        const indices = cutOutlines(accessorToFloats(position), outlines, diagonal)
        writeIndices(document, primitive, indices, position.getCount())
        primitive.setAttribute(POLYGON_ATTRIBUTE, null)
        triangles += indices.length / 3
      }
    }
    dropUnusedAccessors(document)
    return {
      headline: before > 0 ? `${formatCount(before)} cut` : 'none left',
      details: before > 0 ? [`${formatCount(before)} quads and larger polygons became triangles; those parts now have ${formatCount(triangles)}.`] : ['There were only triangles.'],
      changed: before > 0,
    }
  },
})

/** Triangles of whole polygons, cut anew, and those that are left of others. */
function cutOutlines(positions: Float32Array, { corners, starts, loose }: Outlines, diagonal: DiagonalChoice): Uint32Array {
  const outlined = new Float32Array(corners.length * 3)
  corners.forEach((corner, at) => outlined.set(positions.subarray(corner * 3, corner * 3 + 3), at * 3))
  const cut = triangulatePolygons(outlined, starts, diagonal)
  const indices = new Uint32Array(cut.length + loose.length)
  cut.forEach((at, index) => (indices[index] = corners[at]))
  indices.set(loose, cut.length)
  return indices
}
