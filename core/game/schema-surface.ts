import { z } from 'zod'

export const codecSchema = z.enum(['bc1', 'bc3', 'bc4', 'bc5', 'bc7', 'none'])

const channelMeaning = z.enum([
  'red',
  'green',
  'blue',
  'opacity',
  'normal-x',
  'normal-y',
  'occlusion',
  'roughness',
  'metalness',
  'glow',
])

export const mapRoleSchema = z.object({
  role: z.enum(['colour', 'normal', 'mixed']),
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

export const materialsSchema = z.object({
  /** How a material's name carries what it is made of and how it is drawn. */
  tag: z.object({ surfaceMark: z.string().length(1), flagMark: z.string().length(1) }),
  largestCount: z.number().int().positive(),
  /** Density in kg/m³; friction and bounce from 0 to 1. */
  surfaces: z.array(
    z.object({
      name: z.string(),
      density: z.number().positive(),
      friction: z.number().min(0).max(1),
      bounce: z.number().min(0).max(1),
      /** Words in a material's own name that suggest this surface. */
      hints: z.array(z.string()),
    }),
  ),
  flags: z.array(z.object({ name: z.string(), meaning: z.string() })),
  shadingModels: z.array(
    z.object({
      name: z.string(),
      title: z.string(),
      requires: z.array(z.enum(['colour', 'normal', 'mixed'])),
      forbids: z.array(z.enum(['colour', 'normal', 'mixed'])),
    }),
  ),
})
