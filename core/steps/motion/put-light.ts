import { KHRLightsPunctual } from '@gltf-transform/extensions'
import { z } from 'zod'
import { cleanName, uniqueName } from '../../game/clean-name.ts'
import { setNodeExtras } from '../../item/extras.ts'
import { LIGHTS_EXTENSION } from '../../item/annotations/light/light.ts'
import { itemScene, listSceneNodes } from '../../item/parts.ts'
import { gameAxes } from '../../game/space.ts'
import { axisVector } from '../../maths/axes.ts'
import { lookingAlong } from '../../operations/motion/attach-points.ts'
import { itemLights } from '../../operations/motion/lights.ts'
import { factorOfHex } from '../../pictures/srgb.ts'
import { plural } from '../../support/wording.ts'
import { defineStep, type StepSummary } from '../step.ts'

const parameters = z.object({
  name: z.string().max(200),
  /** Where it shines from: one place in the scene. */
  at: z.array(z.array(z.number()).length(3)).max(1),
  colour: z.string().regex(/^#[0-9a-f]{6}$/i),
  candela: z.number().min(0).max(100_000),
  /** How far it shines, in game units. */
  range: z.number().positive().max(1e6),
  /** To all sides, or in a cone. */
  shines: z.enum(['all-round', 'cone']).default('all-round'),
  /** Where a cone points to, along an axis of the working space. */
  towards: z.enum(['+x', '-x', '+y', '-y', '+z', '-z']).default('-y'),
  /** From one side of the cone to the other. */
  coneDegrees: z.number().min(1).max(179).default(60),
})

/** Share of a cone up to which it is as bright as in its middle. */
const SOFT_FROM = 0.8

/** A light that shines to all sides or in a cone, as the open extension for lights has it. */
export const putLight = defineStep<z.infer<typeof parameters>>({
  id: 'put-light',
  version: 1,
  stage: 'motion',
  title: 'Put a light',
  purpose:
    'Puts a light that shines to all sides or in a cone, with its colour, strength and range, as many as the ' +
    'kind may have.',
  parameters,
  fields: ({ rulebook: { space } }) => [
    { type: 'text', key: 'name', label: 'Name' },
    { type: 'points', key: 'at', label: 'Place', count: 1, unit: space.unit.plural },
    {
      type: 'choice',
      key: 'shines',
      label: 'Shines',
      options: [
        { value: 'all-round', label: 'to all sides' },
        { value: 'cone', label: 'in a cone' },
      ],
    },
    {
      type: 'choice',
      key: 'towards',
      label: 'Towards',
      options: gameAxes(space).flatMap(({ letter, working, sign }) =>
        ([1, -1] as const).map((way) => ({
          value: `${way * sign > 0 ? '+' : '-'}${'xyz'[working]}`,
          label: `${way > 0 ? '+' : '−'}${letter}`,
        })),
      ),
      when: { key: 'shines', is: ['cone'] },
    },
    {
      type: 'number',
      key: 'coneDegrees',
      label: 'Cone',
      unit: '° wide',
      least: 5,
      most: 170,
      step: 1,
      slider: true,
      when: { key: 'shines', is: ['cone'] },
    },
    { type: 'colour', key: 'colour', label: 'Colour' },
    { type: 'number', key: 'candela', label: 'Strength', unit: 'cd', least: 0, most: 1000, step: 0.5 },
    {
      type: 'number',
      key: 'range',
      label: 'Shines',
      unit: `${space.unit.plural} far`,
      least: 0.1,
      most: 1000,
      step: 0.5,
    },
  ],
  defaults: ({ rulebook: { space } }) => ({
    name: 'glow',
    at: [],
    colour: '#ffb066',
    candela: 8,
    range: Number((space.figure.height * 2).toPrecision(2)),
    shines: 'all-round',
    towards: '-y',
    coneDegrees: 60,
  }),
  propose: () => [],
  async run({ document, rulebook, kind, parameters: chosen }): Promise<StepSummary> {
    const { name, at, colour, candela, range, shines, towards, coneDegrees } = chosen
    const [place] = at as [number, number, number][]
    const there = itemLights(document).length
    if (there >= kind.mostLights)
      return nothing(
        kind.mostLights === 0
          ? `${kind.title} has no lights.`
          : `${kind.title} has ${plural(kind.mostLights, 'light')} at most; there ` +
              `${there === 1 ? 'is one' : `are ${there}`} already.`,
      )
    if (!place) return nothing('Click where it shines from.')
    const [red, green, blue] = factorOfHex(colour)
    const light = document
      .createExtension(KHRLightsPunctual)
      .createLight(name)
      .setType(shines === 'cone' ? 'spot' : 'point')
      .setColor([red, green, blue])
      .setIntensity(candela)
      .setRange(range)
    const taken = new Set(listSceneNodes(document).map((node) => node.getName()))
    const node = document
      .createNode(uniqueName(rulebook, cleanName(rulebook, name, 'light'), taken))
      .setExtension(LIGHTS_EXTENSION, light)
    if (shines === 'cone') {
      const half = (coneDegrees * Math.PI) / 360
      light.setOuterConeAngle(half).setInnerConeAngle(half * SOFT_FROM)
      // It shines along its own −Z.
      const back = axisVector(towards).map((value) => -value) as [number, number, number]
      node.setMatrix(lookingAlong(place, back) as Parameters<typeof node.setMatrix>[0])
    } else node.setTranslation(place)
    setNodeExtras(node, { role: 'light' })
    itemScene(document).addChild(node)
    return {
      headline: node.getName(),
      details: [
        `${node.getName()}: ${candela} cd, ${range} ${rulebook.space.unit.plural} ` +
          `far${shines === 'cone' ? `, in a cone of ${coneDegrees}°` : ''}.`,
      ],
      changed: true,
    }
  },
})

const nothing = (reason: string): StepSummary => ({ headline: 'no light', details: [reason], changed: false })
