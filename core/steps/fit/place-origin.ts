import type { Document, vec3 } from '@gltf-transform/core'
import { z } from 'zod'
import { rememberFit } from '../../item/fit.ts'
import { translationMatrix } from '../../maths/matrices.ts'
import { partBounds, partsBounds, type Bounds } from '../../item/measure.ts'
import { listAllParts, listViewParts } from '../../item/parts.ts'
import { PlainError } from '../../support/plain-error.ts'
import { moveItem } from '../../geometry/mesh/move-item.ts'
import { nameInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { formatLength } from '../../support/wording.ts'

const parameters = z.object({
  at: z.enum(['keep', 'base', 'centre', 'point', 'part']),
  point: z.array(z.array(z.number()).length(3)).max(1),
  part: nameInItem,
  snap: z.enum(['none', 'origin', 'bounds']),
  /** Distance between grid lines, in game units. */
  grid: z.number().positive().max(1000),
})
type Parameters = z.infer<typeof parameters>

/** Puts the item's origin where the game takes hold of it. */
export const placeOrigin = defineStep<Parameters>({
  id: 'place-origin',
  version: 1,
  stage: 'fit',
  title: 'Place the origin',
  purpose: 'Moves the item so that the point by which the game places it is where it belongs, on the grid if wanted.',
  parameters,
  fields: ({ rulebook: { space } }) => [
    {
      type: 'choice',
      key: 'at',
      label: 'Origin',
      options: [
        { value: 'keep', label: 'where it is' },
        { value: 'base', label: 'in the middle of the base' },
        { value: 'centre', label: 'in the centre' },
        { value: 'point', label: 'at a picked point' },
        { value: 'part', label: 'at the base of a part' },
      ],
    },
    {
      type: 'points',
      key: 'point',
      label: 'Point',
      count: 1,
      unit: space.unit.plural,
      when: { key: 'at', is: ['point'] },
    },
    { type: 'part', key: 'part', label: 'Part', when: { key: 'at', is: ['part'] } },
    {
      type: 'choice',
      key: 'snap',
      label: 'On the grid',
      options: [
        { value: 'none', label: 'no' },
        { value: 'origin', label: 'the origin' },
        { value: 'bounds', label: 'the lower edges of the item' },
      ],
    },
    {
      type: 'number',
      key: 'grid',
      label: 'Grid lines every',
      unit: space.unit.plural,
      least: 0.01,
      most: 100,
      step: 0.1,
      when: { key: 'snap', is: ['origin', 'bounds'] },
    },
  ],
  defaults: ({ document, rulebook }) => ({
    at: 'base',
    point: [],
    part: listViewParts(document)[0]?.name ?? '',
    snap: 'none',
    grid: rulebook.space.gridCell,
  }),
  propose: () => [],
  async run({ document, parameters: chosen, rulebook }) {
    if (chosen.at === 'part' && !listAllParts(document).some((part) => part.name === chosen.part))
      return gonePart(chosen.part)
    if (listViewParts(document).length === 0) {
      const reason = 'The item has no part that is seen, so there is nothing to place.'
      return { headline: 'does not apply', details: [reason], changed: false, doesNotApply: reason }
    }
    const origin = originOf(document, chosen)
    const snapped = chosen.snap === 'origin' ? origin.map((value) => roundTo(value, chosen.grid)) : origin
    const moved = snapped.map((value) => -value)
    if (chosen.snap === 'bounds') {
      const { min } = partsBounds(listViewParts(document))
      for (let axis = 0; axis < 3; axis++)
        moved[axis] += roundTo(min[axis] + moved[axis], chosen.grid) - (min[axis] + moved[axis])
    }
    const offset = moved.map((value) => value + 0) as vec3
    const far = Math.hypot(...offset)
    if (far > 0) moveItem(document, offset)
    rememberFit(document, translationMatrix(...offset))
    const unit = rulebook.space.unit.plural
    return {
      headline: far > 0 ? `moved ${formatLength(far)}` : 'as it was',
      details: [
        far > 0
          ? `The item was moved by ${offset.map(formatLength).join(', ')} ${unit} along X, Y, Z.`
          : 'The origin already was there.',
      ],
      changed: far > 0,
    }
  },
})

const roundTo = (value: number, grid: number): number => Math.round(value / grid) * grid

function originOf(document: Document, { at, point, part }: Parameters): number[] {
  const whole = partsBounds(listViewParts(document))
  switch (at) {
    case 'keep':
      return [0, 0, 0]
    case 'base':
      return baseOf(whole)
    case 'centre':
      return whole.min.map((value, axis) => (value + whole.max[axis]) / 2)
    case 'part':
      return baseOf(
        listAllParts(document)
          .filter((each) => each.name === part)
          .map(partBounds)[0] ?? whole,
      )
    case 'point':
      if (point.length === 0)
        throw new PlainError('no point is picked yet', 'Place the origin', 'Click a point of the item in the yard.')
      return point[0]
  }
}

const baseOf = ({ min, max }: Bounds): number[] => [(min[0] + max[0]) / 2, min[1], (min[2] + max[2]) / 2]
