import { KHRLightsPunctual } from '@gltf-transform/extensions'
import { z } from 'zod'
import { cleanName, uniqueName } from '../../game/clean-name.ts'
import { setNodeExtras } from '../../item/extras.ts'
import { LIGHTS_EXTENSION } from '../../item/annotations/light/light.ts'
import { itemScene, listSceneNodes } from '../../item/parts.ts'
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
})

/** A light that shines to all sides, as the open extension for lights has it. */
export const putLight = defineStep<z.infer<typeof parameters>>({
  id: 'put-light',
  version: 1,
  stage: 'motion',
  title: 'Put a light',
  purpose: 'Puts a light that shines to all sides, with its colour, strength and range, as many as the kind may have.',
  parameters,
  fields: ({ rulebook: { space } }) => [
    { type: 'text', key: 'name', label: 'Name' },
    { type: 'points', key: 'at', label: 'Place', count: 1, unit: space.unit.plural },
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
  }),
  propose: () => [],
  async run({ document, rulebook, kind, parameters: { name, at, colour, candela, range } }): Promise<StepSummary> {
    const [place] = at as [number, number, number][]
    const there = itemLights(document).length
    if (there >= kind.mostLights)
      return nothing(
        kind.mostLights === 0
          ? `${kind.title} has no lights.`
          : `${kind.title} has ${plural(kind.mostLights, 'light')} at most; there ${there === 1 ? 'is one' : `are ${there}`} already.`,
      )
    if (!place) return nothing('Click where it shines from.')
    const [red, green, blue] = factorOfHex(colour)
    const light = document
      .createExtension(KHRLightsPunctual)
      .createLight(name)
      .setType('point')
      .setColor([red, green, blue])
      .setIntensity(candela)
      .setRange(range)
    const taken = new Set(listSceneNodes(document).map((node) => node.getName()))
    const node = document
      .createNode(uniqueName(rulebook, cleanName(rulebook, name, 'light'), taken))
      .setTranslation(place)
      .setExtension(LIGHTS_EXTENSION, light)
    setNodeExtras(node, { role: 'light' })
    itemScene(document).addChild(node)
    return {
      headline: node.getName(),
      details: [`${node.getName()}: ${candela} cd, ${range} ${rulebook.space.unit.plural} far.`],
      changed: true,
    }
  },
})

const nothing = (reason: string): StepSummary => ({ headline: 'no light', details: [reason], changed: false })
