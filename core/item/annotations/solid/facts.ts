import { z } from 'zod'

export const solidShapes = ['box', 'ball', 'capsule', 'cylinder', 'hull', 'mesh'] as const

export const solidFacts = {
  solid: z
    .object({
      shape: z.enum(solidShapes),
      surface: z.string().max(64).nullable(),
      layers: z.array(z.string().max(64)).max(1000),
      massKilograms: z.number().nullable(),
    })
    .optional(),
}
