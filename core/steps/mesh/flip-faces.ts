import { z } from 'zod'
import { dropUnusedAccessors, readPrimitive, writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import { flipTriangles } from '../../geometry/mesh/orient.ts'
import { facePicksSchema, pickedFaces } from '../../operations/meshes/face-picks.ts'
import { defineStep, gonePart } from '../step.ts'
import { formatCount } from '../../support/wording.ts'
import { turnNormals } from './turn-outward.ts'

const parameters = z.object({ faces: facePicksSchema })

/** Turns over the faces that were picked. */
export const flipFaces = defineStep<z.infer<typeof parameters>>({
  id: 'flip-faces',
  version: 1,
  stage: 'mesh',
  title: 'Flip picked faces',
  purpose: 'Turns over just the faces that you click in the yard, where the automatic way guessed wrong.',
  parameters,
  fields: () => [{ type: 'faces', key: 'faces', label: 'Faces' }],
  defaults: () => ({ faces: [] }),
  propose: () => [],
  async run({ document, parameters: { faces } }) {
    const picked = pickedFaces(document, faces)
    if (faces.length > 0 && picked.gone.length === faces.length) return gonePart(picked.gone[0])
    for (const [primitive, marks] of picked.triangles) {
      const { indices, normals, positions } = readPrimitive(primitive)
      writeIndices(document, primitive, flipTriangles(indices, marks), positions.length / 3)
      if (normals) writeAttribute(document, primitive, 'NORMAL', turnNormals(normals, indices, marks), 3)
    }
    dropUnusedAccessors(document)
    return {
      headline: `${formatCount(picked.count)} flipped`,
      details: [
        faces.length === 0
          ? 'No faces are picked yet: click them in the yard.'
          : `${formatCount(picked.count)} triangles were turned over.`,
      ],
      changed: picked.count > 0,
    }
  },
})
