import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { joinByName } from '../../game/joins.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { listPlaces, type Place } from '../../item/annotations/places.ts'
import { setNodeExtras } from '../../item/extras.ts'
import { formatLength, plural } from '../../support/wording.ts'
import { nameInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'

const BY_NAME = ''

const parameters = z.object({
  /** Name of an attach point; empty for all that say nothing yet. */
  point: nameInItem,
  /** One of the rulebook's joins; empty for what the point's name says. */
  joins: z.string().max(64),
  /** How wide what joins is, in game units; 0 where it does not matter. */
  width: z.number().min(0).max(1e5),
})

/** What may join at attach points, by the game's own words. */
export const sayWhatJoins = defineStep<z.infer<typeof parameters>>({
  id: 'say-what-joins',
  version: 1,
  stage: 'motion',
  title: 'Say what joins',
  purpose: 'Says what may join at attach points, and how wide it is, by the words of the game.',
  parameters,
  fields: ({ document, rulebook }) => [
    {
      type: 'choice',
      key: 'point',
      label: 'Point',
      options: [
        { value: '', label: 'all that say nothing' },
        ...attachPointsOf(document).map(({ name }) => ({ value: name, label: name })),
      ],
    },
    {
      type: 'choice',
      key: 'joins',
      label: 'Takes',
      options: [
        { value: BY_NAME, label: 'what its name says' },
        ...rulebook.points.joins.map(({ name, meaning }) => ({ value: name, label: `${name}: ${meaning}` })),
      ],
    },
    {
      type: 'number',
      key: 'width',
      label: 'As wide as',
      unit: `${rulebook.space.unit.plural}, 0 for any`,
      least: 0,
      most: 1000,
      step: 0.1,
    },
  ],
  defaults: () => ({ point: '', joins: BY_NAME, width: 0 }),
  propose({ document, rulebook, kind }) {
    const untold = untoldPoints(document, rulebook, kind)
    return untold.length === 0
      ? []
      : [
          {
            parameters: { point: '', joins: BY_NAME, width: 0 },
            reason:
              `${untold.map(({ name }) => name).join(', ')} ${untold.length === 1 ? 'does' : 'do'} not say what ` +
              'may join there.',
          },
        ]
  },
  async run({ document, rulebook, kind, parameters: { point, joins, width } }) {
    const { points, space } = rulebook
    const chosen = point
      ? attachPointsOf(document).filter(({ name }) => name === point)
      : untoldPoints(document, rulebook, kind)
    const details: string[] = []
    for (const { node, name, extras } of chosen) {
      const known = points.joins.find((each) => each.name === joins) ?? joinByName(rulebook, name)
      const join = known ?? points.joins.at(0)
      if (!join) continue
      setNodeExtras(node, { ...extras, joint: { joins: join.name, width: width || null } })
      const wide = width ? `, ${formatLength(width)} ${space.unit.plural} wide` : ''
      details.push(
        known
          ? `${name} takes ${join.name}${wide}: ${join.meaning}.`
          : `${name} takes ${join.name}${wide}, the first that the game knows: its name says nothing.`,
      )
    }
    return {
      headline: plural(details.length, 'point'),
      details: details.length > 0 ? details : [point ? `There is no attach point ${point}.` : 'Every point says it.'],
      changed: details.length > 0,
    }
  },
})

const attachPointsOf = (document: Document): Place[] =>
  listPlaces(document).filter(({ extras }) => extras.role === 'attach-point')

/** Attach points that do not say what may join, in a game that asks. */
function untoldPoints(document: Document, { points }: Rulebook, kind: Kind): Place[] {
  if (!kind.attachPoints || points.joins.length === 0) return []
  return attachPointsOf(document).filter(({ extras }) => !points.joins.some(({ name }) => name === extras.joint?.joins))
}
