import { z } from 'zod'
import { mergedTriangles } from '../../item/measure.ts'
import { countTriangles, listAllParts, listViewParts } from '../../item/parts.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import { dropUnusedAccessors, gatherCorners, readPrimitive, writeIndices } from '../../item/primitive-arrays.ts'
import { findHiddenFaces } from '../../geometry/surface/hidden-faces.ts'
import { compactCorners } from '../../geometry/mesh/reduce.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { formatChange, formatCount } from '../../support/wording.ts'

const parameters = z.object({ depth: z.number().min(0).max(0.25), leaveAlone: namesInItem })

/** Takes away what nobody can see. */
export const dropHidden = defineStep<z.infer<typeof parameters>>({
  id: 'drop-hidden',
  version: 1,
  stage: 'mesh',
  title: 'Drop hidden faces',
  purpose:
    'Takes away the faces inside that cannot be seen from anywhere outside; the deeper, the more of the niches ' +
    'goes too.',
  parameters,
  fields: () => [
    {
      type: 'number',
      key: 'depth',
      label: 'How deep',
      unit: 'of 1: seen from at most so many sides',
      least: 0,
      most: 0.25,
      step: 0.01,
      slider: true,
    },
    { type: 'parts', key: 'leaveAlone', label: 'Leave alone' },
  ],
  defaults: () => ({ depth: 0, leaveAlone: [] }),
  propose: () => [],
  async run({ document, parameters: { depth, leaveAlone }, progress }) {
    for (const part of listViewParts(document)) ownMesh(part.node)
    const parts = listViewParts(document)
    const before = countTriangles(parts)
    const { positions, indices } = mergedTriangles(parts)
    const surfaces = parts.flatMap((part) =>
      part.mesh
        .listPrimitives()
        .map((primitive) => ({ part, primitive, triangles: readPrimitive(primitive).indices.length / 3 })),
    )
    const seeThrough = new Uint8Array(indices.length / 3)
    let first = 0
    for (const { primitive, triangles } of surfaces) {
      if ((primitive.getMaterial()?.getAlphaMode() ?? 'OPAQUE') !== 'OPAQUE')
        seeThrough.fill(1, first, first + triangles)
      first += triangles
    }
    const hidden = await findHiddenFaces(
      { positions, indices },
      {
        seenFromAtMost: depth,
        seeThrough,
        progress: (fraction) => progress(fraction, `${formatCount(indices.length / 3)} triangles from all round`),
      },
    )
    const details: string[] = []
    first = 0
    for (const { part, primitive, triangles } of surfaces) {
      const own = hidden.subarray(first, first + triangles)
      first += triangles
      const gone = own.reduce((sum, each) => sum + each, 0)
      if (gone === 0 || leaveAlone.includes(part.name)) continue
      if (gone === triangles) part.mesh.removePrimitive(primitive)
      else {
        const { positions: places, indices: corners } = readPrimitive(primitive)
        const compact = compactCorners(
          corners.filter((_, index) => !own[Math.floor(index / 3)]),
          places.length / 3,
        )
        gatherCorners(document, primitive, compact.oldCorner)
        writeIndices(document, primitive, compact.indices, compact.oldCorner.length)
      }
      details.push(
        `${part.name}: ${formatCount(gone)} of ${formatCount(triangles)} could not be ` +
          `seen${gone === triangles ? '; the whole surface went' : ''}.`,
      )
    }
    for (const part of listAllParts(document)) if (part.mesh.listPrimitives().length === 0) part.node.setMesh(null)
    dropUnusedAccessors(document)
    const after = countTriangles(listViewParts(document))
    if (details.length === 0) details.push('Every face can be seen from somewhere outside.')
    return { headline: formatChange(after - before), details, changed: after !== before }
  },
})
