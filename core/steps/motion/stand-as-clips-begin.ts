import { z } from 'zod'
import { offRest } from '../../operations/motion/first-pose.ts'
import { plural } from '../../support/wording.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({})

/** Stands everything as its clip has it at its first key: what is measured is then what the game shows first. */
export const standAsClipsBegin = defineStep<z.infer<typeof parameters>>({
  id: 'stand-as-clips-begin',
  version: 1,
  stage: 'motion',
  title: 'Stand as clips begin',
  purpose:
    'Stands what moves as its clip has it at its first key, so that size, solids and markers are measured there.',
  parameters,
  fields: () => [],
  defaults: () => ({}),
  propose({ document, kind, rulebook }) {
    const off = kind.motionAsked ? offRest(document, rulebook.space.smallestDrawn) : []
    if (off.length === 0) return []
    const names = off.map(({ node }) => node.getName())
    return [
      {
        parameters: {},
        reason:
          `${names.slice(0, 3).join(', ')}${names.length > 3 ? ` and ${names.length - 3} more` : ''} ` +
          `${names.length === 1 ? 'does' : 'do'} not stand as ${off[0].clip} begins.`,
      },
    ]
  },
  async run({ document, rulebook }) {
    const off = offRest(document, rulebook.space.smallestDrawn)
    for (const { node, first } of off)
      node
        .setTranslation(first.translation as [number, number, number])
        .setRotation(first.rotation as [number, number, number, number])
        .setScale(first.scale as [number, number, number])
    return {
      headline: plural(off.length, 'node'),
      details:
        off.length > 0
          ? off.map(({ node, clip }) => `${node.getName()} stands as ${clip} begins.`).slice(0, 20)
          : ['Everything stands as its clip begins.'],
      changed: off.length > 0,
    }
  },
})
