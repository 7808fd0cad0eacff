import { z } from 'zod'
import { identityMatrix } from '../../maths/axes.ts'
import { rememberFit } from '../../item/fit.ts'
import { changeBasis } from '../../geometry/mesh/change-basis.ts'
import { axisLetter } from '../../game/space.ts'
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
  fields: ({ rulebook: { space } }) => [
    {
      type: 'choice',
      key: 'across',
      label: 'Exchange',
      options: [
        { value: 'x', label: `left and right (${axisLetter(space, 'x')})` },
        { value: 'y', label: `top and bottom (${axisLetter(space, 'y')})` },
        { value: 'z', label: `front and back (${axisLetter(space, 'z')})` },
      ],
    },
  ],
  defaults: () => ({ across: 'x' }),
  propose: () => [],
  async run({ document, parameters: { across }, rulebook: { space } }) {
    const matrix = identityMatrix()
    matrix['xyz'.indexOf(across) * 5] = -1
    changeBasis(document, matrix, 1)
    rememberFit(document, matrix)
    return {
      headline: `across ${axisLetter(space, across)}`,
      details: [`Everything was mirrored across the plane where ${axisLetter(space, across)} is 0.`],
      changed: true,
    }
  },
})
