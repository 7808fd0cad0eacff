import type { Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { dropUnusedAccessors, readPrimitive, writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import { flipTriangles } from '../../geometry/mesh/orient.ts'
import { outsideParts } from '../../operations/meshes/bodies.ts'
import { measurePartFacing, orientationsAsDrawn, partsToTurn } from '../../operations/meshes/measure-part-facing.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { formatCount, plural } from '../../support/wording.ts'

const parameters = z.object({ leaveAlone: namesInItem })

/** Turns over the faces that look inward. */
export const turnOutward = defineStep<z.infer<typeof parameters>>({
  id: 'turn-outward',
  version: 3,
  stage: 'mesh',
  title: 'Turn faces outward',
  purpose: 'Finds the outer side of every connected piece and turns over the faces that look the other way.',
  parameters,
  fields: () => [{ type: 'parts', key: 'leaveAlone', label: 'Leave alone' }],
  defaults: () => ({ leaveAlone: [] }),
  propose(context) {
    const outside = outsideParts(context.document, context)
    const { share, parts } = measurePartFacing(outside)
    if (
      share < 0.001 ||
      partsToTurn(
        outside,
        parts.map((part) => part.name),
      ).size === 0
    )
      return []
    return [
      {
        parameters: { leaveAlone: [] },
        reason:
          `From outside ${(share * 100).toFixed(1)} % of what one sees are backs of faces, most of all on ` +
          `${parts[0].name}.`,
      },
    ]
  },
  async run({ document, rulebook, kind, parameters: { leaveAlone }, progress }) {
    const parts = outsideParts(document, { rulebook, kind })
    const orientationOf = orientationsAsDrawn(parts)
    let turned = 0
    let turnedPieces = 0
    let pieces = 0
    const details: string[] = []
    // Two parts may draw one mesh, which is turned once.
    const done = new Set<Primitive>()
    for (const [number, part] of parts.entries()) {
      await progress(number / parts.length, part.name)
      if (leaveAlone.includes(part.name)) continue
      let inPart = 0
      for (const primitive of part.mesh.listPrimitives()) {
        const { positions, indices, normals } = readPrimitive(primitive)
        const orientation = orientationOf(part, primitive)
        const flips = done.has(primitive) ? 0 : orientation.flip.reduce((sum, flip) => sum + flip, 0)
        pieces += orientation.pieces
        if (flips > 0) turnedPieces += orientation.turnedPieces
        if (orientation.piecesWithoutOutside > 0)
          details.push(
            `${part.name}: ${plural(orientation.piecesWithoutOutside, 'piece has', 'pieces have')} one side ` +
              'only, as a twisted band has, so there is no outside; make ' +
              `${orientation.piecesWithoutOutside === 1 ? 'it' : 'them'} two-sided.`,
          )
        if (flips === 0) continue
        done.add(primitive)
        inPart += flips
        const corners = positions.length / 3
        writeIndices(document, primitive, flipTriangles(indices, orientation.flip), corners)
        if (normals) writeAttribute(document, primitive, 'NORMAL', turnNormals(normals, indices, orientation.flip), 3)
      }
      if (inPart > 0) details.push(`${part.name}: ${formatCount(inPart)} triangles turned.`)
      turned += inPart
    }
    dropUnusedAccessors(document)
    details.push(`${plural(turnedPieces, 'connected piece')} of ${formatCount(pieces)} had faces the wrong way round.`)
    return { headline: `${formatCount(turned)} turned`, details, changed: turned > 0 }
  },
})

/**
 * Normals of corners that mostly turned triangles use are turned with them.
 * @example const normals = turnNormals(given, indices, orientation.flip)
 */
export function turnNormals(normals: Float32Array, indices: Uint32Array, flip: Uint8Array): Float32Array {
  const votes = new Int32Array(normals.length / 3)
  for (let index = 0; index < indices.length; index++) votes[indices[index]] += flip[Math.floor(index / 3)] ? 1 : -1
  return normals.map((value, at) => (votes[Math.floor(at / 3)] > 0 ? -value : value))
}
