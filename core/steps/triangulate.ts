import { z } from 'zod'
import { listAllParts } from '../document/parts.ts'
import { countLargePolygons, POLYGON_ATTRIBUTE, polygonStarts } from '../document/polygons.ts'
import { accessorToFloats, dropUnusedAccessors, primitiveIndices, writeIndices } from '../document/primitive-arrays.ts'
import { diagonalChoices, triangulatePolygons } from '../geometry/triangulate.ts'
import { defineStep, formatCount, plural } from './step.ts'

const parameters = z.object({ diagonal: z.enum(diagonalChoices).default('shortest') })

/** Cuts quads and larger polygons into triangles. */
export const triangulate = defineStep<z.infer<typeof parameters>>({
  id: 'triangulate',
  version: 2,
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
        const polygons = primitive.getAttribute(POLYGON_ATTRIBUTE)?.getArray()
        const position = primitive.getAttribute('POSITION')
        if (!polygons || !position) continue
        const old = primitiveIndices(primitive)
        const indices = triangulatePolygons(accessorToFloats(position), polygonStarts(polygons), diagonal)
        // A mirrored part had its fan turned over when it was baked; the new triangles follow it.
        if (old[0] > old[1] || old[1] > old[2]) indices.reverse()
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
