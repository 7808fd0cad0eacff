import { z } from 'zod'
import { invertMatrix } from '../../maths/matrices.ts'
import {
  liftOf,
  makeMarkers,
  missingMarkers,
  standingMarkers,
  type StandingMarker,
} from '../../operations/motion/markers.ts'
import { hangUnder } from '../../operations/motion/hang.ts'
import { formatLength, plural } from '../../support/wording.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({
  /** Names of markers that are put where the game wants them; empty for all that are off. */
  names: namesInItem,
  /** Whether markers that the game wants and that are not there are put on the item. */
  makeMissing: z.boolean().default(true),
})

/** Puts markers as high above what is under them, and as far below the lowest point, as the game wants. */
export const placeMarkers = defineStep<z.infer<typeof parameters>>({
  id: 'place-markers',
  version: 1,
  stage: 'motion',
  title: 'Place markers',
  purpose:
    'Lifts or lowers markers to the height that the game wants above what is under them, or below the lowest point.',
  parameters,
  fields: ({ document, rulebook }) => [
    {
      type: 'layers',
      key: 'names',
      label: 'Only these',
      options: standingMarkers(document, rulebook).map(({ name, marker }) => ({
        value: name,
        label: name === marker.name ? name : `${name} (${marker.name})`,
      })),
    },
    { type: 'toggle', key: 'makeMissing', label: 'Put what is missing' },
  ],
  defaults: () => ({ names: [], makeMissing: true }),
  propose(context) {
    if (!context.kind.markers) return []
    const standing = standingMarkers(context.document, context.rulebook)
    const off = markersOff(standing)
    const missing = missingMarkers(standing, context.rulebook)
    const elsewhere = hangElsewhere(standing)
    if (off.length + missing.length + elsewhere.length === 0) return []
    const names = off.slice(0, 3).map(({ name }) => name)
    const reasons = [
      ...(missing.length > 0
        ? [
            `The game wants ${missing.map(({ name }) => name).join(', ')}, which ` +
              `${missing.length === 1 ? 'is' : 'are'} missing`,
          ]
        : []),
      ...(off.length > 0
        ? [
            `${names.join(', ')}${off.length > 3 ? ` and ${off.length - 3} more` : ''} ` +
              `${off.length === 1 ? 'stands' : 'stand'} too high or too low`,
          ]
        : []),
    ]
    if (elsewhere.length > 0)
      reasons.push(
        `${elsewhere
          .slice(0, 3)
          .map(({ name }) => name)
          .join(', ')} ${elsewhere.length === 1 ? 'hangs' : 'hang'} on what the game does not read there`,
      )
    return [{ parameters: { names: [], makeMissing: true }, reason: `${reasons.join('; ')}.` }]
  },
  async run({ document, rulebook, parameters: { names, makeMissing } }) {
    const standing = standingMarkers(document, rulebook)
    const made = makeMissing ? makeMarkers(document, rulebook, missingMarkers(standing, rulebook)) : []
    const off = markersOff(standing).filter(({ name }) => names.length === 0 || names.includes(name))
    const unit = rulebook.space.unit.plural
    const details = off.map((standing) => {
      const by = liftOf(standing) ?? 0
      const { node, at } = standing
      const parent = node.getParentNode()
      const back = parent ? invertMatrix(parent.getWorldMatrix()) : null
      const [x, y, z] = [at[0], at[1] + by, at[2]]
      node.setTranslation(
        back
          ? ([0, 1, 2].map((row) => back[row] * x + back[4 + row] * y + back[8 + row] * z + back[12 + row]) as [
              number,
              number,
              number,
            ])
          : [x, y, z],
      )
      return `${standing.name} is ${formatLength(Math.abs(by))} ${unit} ${by > 0 ? 'higher' : 'lower'}.`
    })
    const rehung = hangElsewhere(standing).filter(({ name }) => names.length === 0 || names.includes(name))
    for (const { node, name, ridesOn, leftBy } of rehung) {
      hangUnder(node, leftBy ?? document)
      details.push(
        leftBy ? `${name} rides on ${leftBy.getName()}.` : `${name} no longer moves with ${ridesOn?.getName()}.`,
      )
    }
    const count = new Set([...off, ...rehung]).size + made.length
    return {
      headline: plural(count, 'marker'),
      details:
        made.length + details.length > 0
          ? [...made.map((name) => `${name} was missing and is put on it.`), ...details]
          : ['Every marker stands as high as the game wants.'],
      changed: count > 0,
    }
  },
})

/** Markers that hang on what they may not, or ride on nothing where they could. */
const hangElsewhere = (standing: readonly StandingMarker[]): StandingMarker[] =>
  standing.filter(({ ridesOn, leftBy, marker }) => (ridesOn && !marker.mayRideGroup) || leftBy)

const markersOff = (standing: readonly StandingMarker[]): StandingMarker[] =>
  standing.filter((each) => liftOf(each) !== null)
