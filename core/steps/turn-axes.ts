import { z } from 'zod'
import { axesTurn, identityMatrix, multiplyMatrices } from '../document/axes.ts'
import { axisNames, axisNameSchema, getRootExtras, setRootExtras } from '../document/extras.ts'
import { PlainError } from '../document/plain-error.ts'
import { changeBasis } from '../geometry/change-basis.ts'
import { defineStep } from './step.ts'

const parameters = z.object({ up: axisNameSchema, forward: axisNameSchema })

const axisOptions = axisNames.map((axis) => ({ value: axis, label: axis.toUpperCase().replace('-', '−') }))
const shown = (axis: string): string => axis.toUpperCase().replace('-', '−')

/** Turns the item from the source's axes to the game's. */
export const turnAxes = defineStep<z.infer<typeof parameters>>({
  id: 'turn-axes',
  version: 1,
  stage: 'fit',
  title: 'Turn axes',
  purpose: 'Turns the model so that its up and forward are the game’s.',
  parameters,
  fields: () => [
    { type: 'choice', key: 'up', label: 'Up in the source', options: axisOptions },
    { type: 'choice', key: 'forward', label: 'Forward in the source', options: axisOptions },
  ],
  defaults({ document }) {
    const { up, forward } = getRootExtras(document.getRoot()).axes
    return { up, forward }
  },
  propose({ document, rulebook }) {
    const { axes } = getRootExtras(document.getRoot())
    const { up, forward } = rulebook.space
    if (axes.up === up && axes.forward === forward) return []
    return [
      {
        parameters: { up: axes.up, forward: axes.forward },
        reason: `In the source ${shown(axes.up)} is up and ${shown(axes.forward)} is forward (${axes.from}); ${rulebook.title} has ${shown(up)} up and ${shown(forward)} forward.`,
      },
    ]
  },
  async run({ document, parameters: { up, forward }, rulebook }) {
    if (up[1] === forward[1]) throw new PlainError(`up (${shown(up)}) and forward (${shown(forward)}) lie on the same axis`, 'Turn axes', 'Choose two different axes.')
    const { space } = rulebook
    const turn = axesTurn(up, forward, space.up, space.forward)
    const changed = turn.some((value, index) => value !== identityMatrix()[index])
    if (changed) changeBasis(document, turn, 1)
    const extras = getRootExtras(document.getRoot())
    setRootExtras(document.getRoot(), {
      ...extras,
      axes: { up: space.up, forward: space.forward, from: 'chosen' },
      fit: multiplyMatrices(turn, extras.fit ?? identityMatrix()),
    })
    const headline = changed ? `${shown(up)} → ${shown(space.up)} up` : 'as it was'
    return { headline, details: [changed ? `Up went from ${shown(up)} to ${shown(space.up)}, forward from ${shown(forward)} to ${shown(space.forward)}.` : 'The source already has the game’s axes.'], changed }
  },
})
