import { z } from 'zod'
import { getNodeExtras, setNodeExtras } from '../../item/extras.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { readPrimitive, writeAttribute } from '../../item/primitive-arrays.ts'
import { UNTURNED, type Quaternion, type Triple } from '../../geometry/shapes/placed-shape.ts'
import { shapeEditSchema } from '../../operations/solids/add-solid-parameters.ts'
import { massesOf } from '../../operations/solids/put-solid.ts'
import { editShape } from '../../operations/solids/solid-shape.ts'
import { nameInItem } from '../item-names.ts'
import { defineStep, gonePart, type StepField } from '../step.ts'
import { formatLength } from '../../support/wording.ts'

const KEEP = ''

const parameters = shapeEditSchema.extend({
  solid: nameInItem,
  /** Empty keeps what it has. */
  surface: z.string().max(64).default(KEEP),
  layers: z.array(z.string().max(64)).max(16).default([]),
  changeLayers: z.boolean().default(false),
  weighing: z.enum(['keep', 'volume', 'hand']).default('keep'),
  massKilograms: z.number().nonnegative().max(1_000_000).default(0),
})

/** Changes a solid that is there: its place, turn, size and what it is. */
export const changeSolid = defineStep<z.infer<typeof parameters>>({
  id: 'change-solid',
  version: 1,
  stage: 'solids',
  title: 'Change a solid',
  purpose:
    'Moves, turns and sizes a solid that is there, for instance one that came with the source, and says what it ' +
    'is made of, what it permits and what it weighs.',
  parameters,
  fields: ({ document, rulebook, kind }) => [
    {
      type: 'choice',
      key: 'solid',
      label: 'Solid',
      options: listSolids(document).map(({ name }) => ({ value: name, label: name })),
    },
    { type: 'shape-edit', key: 'shape-edit', label: 'Moved, turned, sized', unit: rulebook.space.unit.plural },
    {
      type: 'choice',
      key: 'surface',
      label: 'Surface kind',
      options: [
        { value: KEEP, label: 'as it is' },
        ...rulebook.materials.surfaces.map(({ name }) => ({ value: name, label: name })),
      ],
    },
    { type: 'toggle', key: 'changeLayers', label: 'Other layers' },
    {
      type: 'layers',
      key: 'layers',
      label: 'Layers',
      options: rulebook.solids.layers.map(({ name, meaning }) => ({ value: name, label: meaning })),
      when: { key: 'changeLayers', is: [true] },
    },
    ...(kind.solids?.massKilograms
      ? ([
          {
            type: 'choice',
            key: 'weighing',
            label: 'Mass',
            options: [
              { value: 'keep', label: 'as it is' },
              { value: 'volume', label: 'Volume × density' },
              { value: 'hand', label: 'By hand' },
            ],
          },
          {
            type: 'number',
            key: 'massKilograms',
            label: 'Weighs',
            unit: `kg (${kind.solids.massKilograms.least} to ${kind.solids.massKilograms.most})`,
            least: kind.solids.massKilograms.least,
            most: kind.solids.massKilograms.most,
            step: 0.1,
            when: { key: 'weighing', is: ['hand'] },
          },
        ] satisfies StepField[])
      : []),
  ],
  defaults: ({ document, rulebook }) => ({
    ...parameters.parse({ solid: '' }),
    solid: listSolids(document)[0]?.name ?? '',
    layers: rulebook.solids.defaultLayers,
  }),
  propose: () => [],
  async run({ document, rulebook, kind, parameters: how }) {
    const solid = listSolids(document).find(({ name }) => name === how.solid)
    const facts = solid?.extras.solid
    if (!solid || !facts) return gonePart(how.solid || 'a solid')
    const [primitive] = solid.mesh.listPrimitives()
    const { positions, indices } = readPrimitive(primitive)
    const shape = {
      mesh: { positions, indices },
      translation: solid.node.getTranslation() as Triple,
      rotation: (solid.node.getRotation() ?? UNTURNED) as Quaternion,
    }
    const edited = editShape(facts.shape, shape, how)
    if (how.sized.some((factor) => factor !== 1))
      writeAttribute(document, primitive, 'POSITION', edited.mesh.positions, 3)
    solid.node.setTranslation(edited.translation).setRotation(edited.rotation)
    const surface = how.surface === KEEP ? facts.surface : how.surface
    const masses =
      how.weighing === 'keep'
        ? null
        : massesOf(
            [edited],
            { weighing: how.weighing, massKilograms: how.massKilograms, surface: surface ?? '' },
            rulebook,
            kind,
          )
    const massKilograms = how.weighing === 'keep' ? facts.massKilograms : (masses?.[0] ?? null)
    setNodeExtras(solid.node, {
      ...getNodeExtras(solid.node),
      solid: { ...facts, surface, layers: how.changeLayers ? how.layers : facts.layers, massKilograms },
    })
    const moved = Math.hypot(...how.moved)
    return {
      headline: moved > 0 ? `by ${formatLength(moved)}` : (surface ?? 'changed'),
      details: [
        `${solid.name}, a ${facts.shape} of ` +
          `${surface ?? 'no surface kind'}${massKilograms === null ? '' : `, ${formatLength(massKilograms)} kg`}: ` +
          `moved by ${how.moved.map(formatLength).join(', ')}, turned by ${how.turnedDegrees.join(', ')}°, sized × ` +
          `${how.sized.join(', ')}.`,
      ],
      changed: true,
    }
  },
})
