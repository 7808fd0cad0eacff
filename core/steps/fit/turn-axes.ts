import { z } from 'zod'
import { axesTurn, identityMatrix, multiplyMatrices } from '../../maths/axes.ts'
import { getRootExtras, setRootExtras } from '../../item/extras.ts'
import { axisNames, axisNameSchema } from '../../maths/axes.ts'
import { PlainError } from '../../support/plain-error.ts'
import { changeBasis } from '../../geometry/mesh/change-basis.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({ up: axisNameSchema, forward: axisNameSchema, mirrored: z.boolean().default(false) })

const axisOptions = axisNames.map((axis) => ({ value: axis, label: axis.toUpperCase().replace('-', '−') }))
const shown = (axis: string): string => axis.toUpperCase().replace('-', '−')

/** Turns the item from the source's axes to the game's. */
export const turnAxes = defineStep<z.infer<typeof parameters>>({
  id: 'turn-axes',
  version: 2,
  stage: 'fit',
  title: 'Turn axes',
  purpose:
    'Turns the model so that its up and forward are the game’s, and mirrors it where the game’s space is the other hand’s.',
  parameters,
  fields: () => [
    { type: 'choice', key: 'up', label: 'Up in the source', options: axisOptions },
    { type: 'choice', key: 'forward', label: 'Forward in the source', options: axisOptions },
    { type: 'toggle', key: 'mirrored', label: 'Source is mirrored' },
  ],
  defaults({ document }) {
    const { up, forward } = getRootExtras(document.getRoot()).axes
    return { up, forward, mirrored: false }
  },
  propose({ document, rulebook }) {
    const { axes } = getRootExtras(document.getRoot())
    const { up, forward } = rulebook.space
    if (axes.up === up && axes.forward === forward && rulebook.space.handedness === 'right') return []
    return [
      {
        parameters: { up: axes.up, forward: axes.forward, mirrored: rulebook.space.handedness === 'left' },
        reason: `In the source ${shown(axes.up)} is up and ${shown(axes.forward)} is forward (${axes.from}); ${rulebook.title} has ${shown(up)} up and ${shown(forward)} forward.`,
      },
    ]
  },
  async run({ document, parameters: { up, forward, mirrored }, rulebook }) {
    if (up[1] === forward[1])
      throw new PlainError(
        `up (${shown(up)}) and forward (${shown(forward)}) lie on the same axis`,
        'Turn axes',
        'Choose two different axes.',
      )
    const { space } = rulebook
    const turned = axesTurn(up, forward, space.up, space.forward)
    const turn = mirrored ? multiplyMatrices(mirrorAcrossSide(space.up, space.forward), turned) : turned
    const changed = turn.some((value, index) => value !== identityMatrix()[index])
    if (changed) changeBasis(document, turn, 1)
    const extras = getRootExtras(document.getRoot())
    setRootExtras(document.getRoot(), {
      ...extras,
      axes: { up: space.up, forward: space.forward, from: 'chosen' },
      fit: multiplyMatrices(turn, extras.fit ?? identityMatrix()),
    })
    const headline = changed ? `${shown(up)} → ${shown(space.up)} up${mirrored ? ', mirrored' : ''}` : 'as it was'
    if (mirrored)
      return {
        headline,
        details: [
          `Up went from ${shown(up)} to ${shown(space.up)}, forward from ${shown(forward)} to ${shown(space.forward)}.`,
          'Left and right were exchanged; winding, normals, tangents, bones, motion and solids went with it.',
        ],
        changed: true,
      }
    return {
      headline,
      details: [
        changed
          ? `Up went from ${shown(up)} to ${shown(space.up)}, forward from ${shown(forward)} to ${shown(space.forward)}.`
          : 'The source already has the game’s axes.',
      ],
      changed,
    }
  },
})

/** Exchanges left and right: the axis that is neither up nor forward. */
function mirrorAcrossSide(up: string, forward: string): number[] {
  const side = [...'xyz'].findIndex((axis) => axis !== up[1] && axis !== forward[1])
  const matrix = identityMatrix()
  matrix[side * 5] = -1
  return matrix
}
