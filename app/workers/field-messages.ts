import { z } from 'zod'
import { nodeExtrasSchema } from '../../core/item/extras'

/** What every field has: the parameter it edits, and when it is shown. */
const fieldBase = z.object({
  key: z.string(),
  label: z.string(),
  when: z.object({ key: z.string(), is: z.array(z.union([z.string(), z.number(), z.boolean()])) }).optional(),
})
const fieldOf = <T extends string, S extends z.ZodRawShape>(type: T, shape: S) =>
  fieldBase.extend({ type: z.literal(type), ...shape })

export const fieldSchema = z.discriminatedUnion('type', [
  fieldOf('number', {
    unit: z.string(),
    least: z.number(),
    most: z.number(),
    step: z.number(),
    slider: z.boolean().optional(),
  }),
  fieldOf('toggle', {}),
  fieldOf('choice', {
    options: z.array(
      z.object({ value: z.union([z.string(), z.number()]), label: z.string(), refused: z.string().optional() }),
    ),
  }),
  fieldOf('vector', { unit: z.string() }),
  fieldOf('shape-edit', { unit: z.string() }),
  fieldOf('part', {}),
  fieldOf('parts', {}),
  fieldOf('layers', { options: z.array(z.object({ value: z.string(), label: z.string() })) }),
  fieldOf('tags', {
    surfaces: z.array(z.string()),
    flags: z.array(z.object({ name: z.string(), meaning: z.string() })),
    shadings: z.array(z.object({ name: z.string(), title: z.string() })),
  }),
  fieldOf('points', { count: z.number().int(), unit: z.string() }),
  fieldOf('faces', {}),
  fieldOf('placement', {}),
  fieldOf('weights', { least: z.number(), most: z.number() }),
  fieldOf('colour', {}),
  fieldOf('outline', {}),
  fieldOf('text', {}),
  fieldOf('map-roles', {
    options: z.array(z.object({ value: z.string(), label: z.string() })),
    names: z.array(z.string()),
  }),
  fieldOf('cards', {
    layouts: z.array(
      z.object({
        role: z.string(),
        title: z.string(),
        channels: z.object({
          r: z.string().nullable(),
          g: z.string().nullable(),
          b: z.string().nullable(),
          a: z.string().nullable(),
        }),
      }),
    ),
    rows: z.array(z.object({ value: z.string(), label: z.string(), picture: z.string() })),
    pictures: z.array(z.string()),
  }),
  fieldOf('events', {
    causes: z.array(z.object({ value: z.string(), label: z.string() })),
    actions: z.array(z.object({ value: z.string(), label: z.string() })),
    things: z.array(z.string()),
  }),
  fieldOf('hues', {}),
  fieldOf('variants', { modes: z.array(z.object({ value: z.string(), label: z.string() })) }),
])
export type Field = z.infer<typeof fieldSchema>

const partChoiceSchema = z.object({
  name: z.string(),
  role: nodeExtrasSchema.shape.role.unwrap(),
  bounds: z.object({ min: z.array(z.number()), max: z.array(z.number()) }),
})
/** A part that a setting may name. */
export type PartChoice = z.infer<typeof partChoiceSchema>

/** What can be set on a step, and the parts to choose among, in the state that the step is given. */
export const stepSettingsSchema = z.object({ fields: z.array(fieldSchema), parts: z.array(partChoiceSchema) })
export type StepSettings = z.infer<typeof stepSettingsSchema>
