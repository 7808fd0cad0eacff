import { z } from 'zod'

export const codecSchema = z.enum(['bc1', 'bc3', 'bc4', 'bc5', 'bc7', 'none'])

/** What one channel of a map can say; `gloss` is roughness turned round, `full` is always white. */
export const channelMeanings = [
  'red',
  'green',
  'blue',
  'opacity',
  'normal-x',
  'normal-y',
  'normal-z',
  'occlusion',
  'roughness',
  'gloss',
  'metalness',
  'glow',
  'height',
  'specular',
  'full',
] as const
const channelMeaning = z.enum(channelMeanings)
export type ChannelMeaning = z.infer<typeof channelMeaning>

export const mapRoleSchema = z.object({
  /** The game's own name for it. */
  role: z
    .string()
    .regex(/^[a-z][a-z0-9_-]*$/i)
    .max(64),
  title: z.string(),
  ending: z.string(),
  colourSpace: z.enum(['srgb', 'data']),
  codecs: z.array(codecSchema).min(1),
  preferred: codecSchema,
  /** A smaller codec that may be chosen when no pixel is see-through. */
  whenOpaque: codecSchema.nullable(),
  channels: z.object({
    r: channelMeaning.nullable(),
    g: channelMeaning.nullable(),
    b: channelMeaning.nullable(),
    a: channelMeaning.nullable(),
  }),
  normalY: z.enum(['up', 'down']).nullable(),
})
export type MapRole = z.infer<typeof mapRoleSchema>

/** What the game reads as textures: sizes in pixels, memory in bytes. */
export const mapsSchema = z.object({
  powersOfTwo: z.boolean(),
  smallestPixels: z.number().int().positive(),
  largestPixels: z.number().int().positive(),
  widestAspect: z.number().positive(),
  mipmaps: z.enum(['all', 'none', 'any']),
  roles: z.array(mapRoleSchema),
})

/** What a game's flag can mean; code asks for these and never for a flag's name. */
export const flagMeanings = [
  'two-sided',
  'cut-out',
  'blended',
  'unlit',
  'throws-no-shadow',
  'receives-no-shadow',
  'lets-through',
] as const
export const flagMeaningSchema = z.enum(flagMeanings)
export type FlagMeaning = z.infer<typeof flagMeaningSchema>

export const materialsSchema = z.object({
  /**
   * How a material's name in the game's files carries what it is made of and how it is drawn: by marks behind its name,
   * not at all, or not at all because the name is the path of one of its maps. What a name does not carry stands in the
   * material's file.
   */
  naming: z.discriminatedUnion('form', [
    z.object({ form: z.literal('marks'), surfaceMark: z.string().length(1), flagMark: z.string().length(1) }),
    z.object({ form: z.literal('plain') }),
    z.object({ form: z.literal('path'), ofRole: z.string(), longest: z.number().int().positive() }),
  ]),
  largestCount: z.number().int().positive(),
  /** Whether a look gives each material one plain colour, rather than pictures. */
  tinted: z.boolean().default(false),
  /** Density in kg/m³; friction and bounce from 0 to 1. */
  surfaces: z.array(
    z.object({
      name: z.string(),
      density: z.number().positive(),
      friction: z.number().min(0).max(1),
      bounce: z.number().min(0).max(1),
      /** Words in a material's own name that suggest this surface. */
      hints: z.array(z.string()),
      /** Whether its own name is so common a word that any other surface's name goes before it. */
      weak: z.boolean().optional(),
      /** How it rings when it is knocked: pitch, how long, and how much of it is noise. */
      knock: z
        .object({
          hertz: z.number().positive(),
          seconds: z.number().positive().max(2),
          noise: z.number().min(0).max(1),
        })
        .optional(),
    }),
  ),
  flags: z.array(z.object({ name: z.string(), meaning: z.string(), means: flagMeaningSchema.nullable() })),
  shadingModels: z.array(
    z.object({
      name: z.string(),
      title: z.string(),
      /** The flag that asks for this model; null for one that is chosen by the maps there are. */
      flag: z.string().nullable().default(null),
      requires: z.array(z.string()),
      forbids: z.array(z.string()),
    }),
  ),
})
