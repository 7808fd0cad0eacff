import { z } from 'zod'
import { axesTurn, identityMatrix, multiplyMatrices, WORKING_FORWARD, WORKING_UP } from '../../maths/axes.ts'
import { axisWord } from '../../game/space.ts'
import { getRootExtras, setRootExtras } from '../../item/extras.ts'
import { axisNames, axisNameSchema } from '../../maths/axes.ts'
import { PlainError } from '../../support/plain-error.ts'
import { changeBasis } from '../../geometry/mesh/change-basis.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({ up: axisNameSchema, forward: axisNameSchema, mirrored: z.boolean().default(false) })

const axisOptions = axisNames.map((axis) => ({ value: axis, label: axisWord(axis) }))

/** Turns the item from the source's axes to the game's. */
export const turnAxes = defineStep<z.infer<typeof parameters>>({
  id: 'turn-axes',
  version: 3,
  stage: 'fit',
  title: 'Turn axes',
  purpose: 'Turns the model so that its up and forward are the game’s. The game’s own hand is made when it is packed.',
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
  propose({ document, rulebook: { title, space } }) {
    const { axes } = getRootExtras(document.getRoot())
    if (axes.up === WORKING_UP && axes.forward === WORKING_FORWARD) return []
    return [
      {
        parameters: { up: axes.up, forward: axes.forward, mirrored: false },
        reason:
          `In the source ${axisWord(axes.up)} is up and ${axisWord(axes.forward)} is forward (${axes.from}); ` +
          `${title} has ${axisWord(space.up)} up and ${axisWord(space.forward)} forward.`,
      },
    ]
  },
  async run({ document, parameters: { up, forward, mirrored }, rulebook }) {
    if (up[1] === forward[1])
      throw new PlainError(
        `up (${axisWord(up)}) and forward (${axisWord(forward)}) lie on the same axis`,
        'Turn axes',
        'Choose two different axes.',
      )
    const turned = axesTurn(up, forward, WORKING_UP, WORKING_FORWARD)
    const turn = mirrored ? multiplyMatrices(mirrorSideways, turned) : turned
    const changed = turn.some((value, index) => value !== identityMatrix()[index])
    if (changed) changeBasis(document, turn, 1)
    const extras = getRootExtras(document.getRoot())
    setRootExtras(document.getRoot(), {
      ...extras,
      axes: { up: WORKING_UP, forward: WORKING_FORWARD, from: 'chosen' },
      fit: multiplyMatrices(turn, extras.fit ?? identityMatrix()),
    })
    const { space } = rulebook
    const headline = changed ? `${axisWord(up)} → ${axisWord(space.up)} up${mirrored ? ', mirrored' : ''}` : 'as it was'
    if (mirrored)
      return {
        headline,
        details: [
          `Up went from ${axisWord(up)} to ${axisWord(space.up)}, forward from ${axisWord(forward)} to ` +
            `${axisWord(space.forward)}.`,
          'Left and right were exchanged; winding, normals, tangents, bones, motion and solids went with it.',
        ],
        changed: true,
      }
    return {
      headline,
      details: [
        changed
          ? `Up went from ${axisWord(up)} to ${axisWord(space.up)}, forward from ${axisWord(forward)} to ` +
            `${axisWord(space.forward)}.`
          : 'The source already has the game’s axes.',
      ],
      changed,
    }
  },
})

/** Exchanges left and right. */
const mirrorSideways = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
