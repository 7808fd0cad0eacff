import { formatLength } from '../../support/wording.ts'
import { axesInWords } from '../space.ts'
import type { SentencesOf } from './sentence.ts'

/**
 * Axes, unit, figure and sizes.
 * @example const fields = spaceSentences(rulebook).map(({ field }) => field)
 */
export const spaceSentences: SentencesOf = ({ space }) => {
  const { unit, figure, doorway } = space
  const of = (field: string, sentence: string, why: string) => ({
    topic: 'space' as const,
    field: `space.${field}`,
    kinds: null,
    sentence,
    why,
  })
  return [
    of('up', `${axesInWords(space)}.`, 'What is made in other axes lies on its side, or is seen in a mirror.'),
    of('unit', `1 ${unit.name} is ${unit.metres} m.`, 'A thing made in another unit is a toy or a tower.'),
    of(
      'figure',
      `The figure is ${figure.height} ${unit.plural} tall and ${figure.width} wide, sees from ` +
        `${figure.eyeHeight}, steps up ${figure.stepHeight} and walks up to ${figure.slopeDegrees}°.`,
      'Stairs, tables and gaps are right or wrong beside it.',
    ),
    of(
      'doorway',
      `A doorway is ${doorway.width} × ${doorway.height} ${unit.plural}; things snap to a grid of ${space.gridCell}.`,
      'What is to be walked through or set in rows has to fit.',
    ),
    of(
      'smallestDrawn',
      `Nothing thinner than ${space.smallestDrawn} ${unit.plural} is drawn.`,
      'It would be less than a pixel, and flicker.',
    ),
    of(
      'largestItem',
      `Nothing longer than ${formatLength(space.largestItem)} ${unit.plural} is believed.`,
      'So large a thing is nearly always made in another unit.',
    ),
    of(
      'root',
      'The root stands at the origin, without turn and scale.',
      'The game places a thing by its root and multiplies nothing else in.',
    ),
    of(
      'depth',
      `Depth is told apart in ${space.depth.bits} bits from ${space.depth.near} ${unit.plural} on.`,
      'Surfaces that lie closer to each other than it tells apart flicker.',
    ),
  ]
}
