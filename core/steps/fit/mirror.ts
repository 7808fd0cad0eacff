import { z } from 'zod'
import { identityMatrix } from '../../maths/axes.ts'
import { rememberFit } from '../../item/fit.ts'
import { changeBasis } from '../../geometry/mesh/change-basis.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({ across: z.enum(['x', 'y', 'z']) })

/** Turns the item into its mirror image. */
export const mirror = defineStep<z.infer<typeof parameters>>({
  id: 'mirror',
  version: 1,
  stage: 'fit',
  title: 'Mirror',
  purpose: 'Makes the mirror image: winding, normals, tangents, bones, motion and solids go with it.',
  parameters,
  fields: () => [
    {
      type: 'choice',
      key: 'across',
      label: 'Exchange',
      options: [
        { value: 'x', label: 'left and right (X)' },
        { value: 'y', label: 'top and bottom (Y)' },
        { value: 'z', label: 'front and back (Z)' },
      ],
    },
  ],
  defaults: () => ({ across: 'x' }),
  propose: () => [],
  async run({ document, parameters: { across } }) {
    const matrix = identityMatrix()
    matrix['xyz'.indexOf(across) * 5] = -1
    changeBasis(document, matrix, 1)
    rememberFit(document, matrix)
    return {
      headline: `across ${across.toUpperCase()}`,
      details: [`Everything was mirrored across the plane where ${across.toUpperCase()} is 0.`],
      changed: true,
    }
  },
})
