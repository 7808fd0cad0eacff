import { z } from 'zod'
import { identityMatrix, scaleMatrix } from '../../maths/axes.ts'
import { rememberFit } from '../../item/fit.ts'
import { boundsSize, partsBounds } from '../../item/measure.ts'
import { listViewParts } from '../../item/parts.ts'
import { PlainError } from '../../support/plain-error.ts'
import { changeBasis } from '../../geometry/mesh/change-basis.ts'
import type { Rulebook } from '../../game/schema.ts'
import { defineStep } from '../step.ts'
import { formatLength } from '../../support/wording.ts'

const point = z.array(z.number()).length(3)
const parameters = z.object({
  by: z.enum(['factor', 'edge', 'figure', 'doorway', 'cells']),
  factor: z.number().positive().max(1_000_000),
  /** Two points of the item as the step is given it. */
  ends: z.array(point).max(2),
  /** How long the line between the two points is to be, in game units. */
  length: z.number().positive().max(1_000_000),
  /** How many figures tall. */
  figures: z.number().positive().max(10_000),
  /** How many grid cells its longer side on the ground fills. */
  cells: z.number().positive().max(10_000),
})
type Parameters = z.infer<typeof parameters>

/** Makes the item as large as something the modder can point at. */
export const setSize = defineStep<Parameters>({
  id: 'set-size',
  version: 1,
  stage: 'fit',
  title: 'Set the size',
  purpose: 'Makes the item as large as wanted: against the figure, the doorway, the grid, or an edge of known length.',
  parameters,
  fields: ({ rulebook: { space } }) => [
    {
      type: 'choice',
      key: 'by',
      label: 'Size it',
      options: [
        { value: 'factor', label: 'by a factor' },
        { value: 'edge', label: 'by an edge’s length' },
        { value: 'figure', label: 'as tall as the figure' },
        { value: 'doorway', label: 'to fit through the doorway' },
        { value: 'cells', label: 'to fill grid cells' },
      ],
    },
    {
      type: 'number',
      key: 'factor',
      label: 'Times',
      unit: 'as large',
      least: 0.000001,
      most: 1_000_000,
      step: 0.01,
      when: { key: 'by', is: ['factor'] },
    },
    {
      type: 'points',
      key: 'ends',
      label: 'Ends of the edge',
      count: 2,
      unit: space.unit.plural,
      when: { key: 'by', is: ['edge'] },
    },
    {
      type: 'number',
      key: 'length',
      label: 'This edge is',
      unit: space.unit.plural,
      least: 0.001,
      most: 10_000,
      step: 0.1,
      when: { key: 'by', is: ['edge'] },
    },
    {
      type: 'number',
      key: 'figures',
      label: 'As tall as',
      unit: `figures of ${space.figure.height}`,
      least: 0.01,
      most: 100,
      step: 0.1,
      when: { key: 'by', is: ['figure'] },
    },
    {
      type: 'number',
      key: 'cells',
      label: 'Longer side fills',
      unit: `cells of ${space.gridCell}`,
      least: 0.01,
      most: 100,
      step: 1,
      when: { key: 'by', is: ['cells'] },
    },
  ],
  defaults: () => ({ by: 'figure', factor: 1, ends: [], length: 1, figures: 1, cells: 1 }),
  propose(context) {
    const { document, rulebook } = context
    if (!rulebook.halfBlocks) return []
    const least = rulebook.halfBlocks.shortestEdge * LEAST_BLOCKS_ACROSS
    const longest = Math.max(...boundsSize(partsBounds(listViewParts(document))))
    if (!(longest > 0) || longest >= least) return []
    const factor = Number((least / longest).toPrecision(3))
    const unit = rulebook.space.unit.plural
    return [
      {
        parameters: { ...(this.defaults(context) as Parameters), by: 'factor' as const, factor },
        reason:
          `Its longest side is ${formatLength(longest)} ${unit}, and no half-block has a side under ` +
          `${rulebook.halfBlocks.shortestEdge}: at ${factor} times the size there is room for ` +
          `${LEAST_BLOCKS_ACROSS} of them.`,
      },
    ]
  },
  async run({ document, parameters: chosen, rulebook }) {
    const factor = factorFor(chosen, boundsSize(partsBounds(listViewParts(document))), rulebook)
    changeBasis(document, identityMatrix(), factor)
    rememberFit(document, scaleMatrix(factor))
    const [width, height, depth] = boundsSize(partsBounds(listViewParts(document))).map(formatLength)
    return {
      headline: `× ${Number(factor.toPrecision(4))}`,
      details: [
        `Everything was multiplied by ${Number(factor.toPrecision(6))}.`,
        `It is now ${width} wide, ${height} tall and ${depth} deep, in ${rulebook.space.unit.plural}.`,
      ],
      changed: factor !== 1,
    }
  },
})

/** Built of fewer than so many half-blocks across, a thing is hardly known again. */
const LEAST_BLOCKS_ACROSS = 40

/** A little play, so that the thing does not touch the frame. */
const DOORWAY_PLAY = 0.98

function factorFor(
  { by, factor, ends, length, figures, cells }: Parameters,
  [width, height, depth]: readonly number[],
  { space }: Rulebook,
): number {
  const by0 = (measure: number, what: string): number => {
    if (measure > 0) return measure
    throw new PlainError(`the item has no ${what}`, 'Set the size', 'Size it by a factor.')
  }
  switch (by) {
    case 'factor':
      return factor
    case 'figure':
      return (figures * space.figure.height) / by0(height, 'height')
    case 'cells':
      return (cells * space.gridCell) / by0(Math.max(width, depth), 'extent on the ground')
    case 'doorway':
      return (
        DOORWAY_PLAY *
        Math.min(
          space.doorway.height / by0(height, 'height'),
          space.doorway.width / by0(Math.min(width, depth) || Math.max(width, depth), 'width'),
        )
      )
    case 'edge': {
      if (ends.length < 2)
        throw new PlainError(
          'the two ends of the edge are not picked yet',
          'Set the size',
          'Click two points of the item in the yard.',
        )
      return (
        length /
        by0(Math.hypot(...ends[0].map((value, axis) => value - ends[1][axis])), 'distance between the two points')
      )
    }
  }
}
