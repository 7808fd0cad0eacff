import { z } from 'zod'
import { solidShapes } from '../document/extras.ts'

/** What a solid is made from; `points` counts for hulls, `triangles` for the part’s reduced mesh. */
export const addSolidParameters = z.object({
  part: z.string().max(200),
  shape: z.enum(solidShapes),
  surface: z.string().max(64),
  layers: z.array(z.string().max(64)).max(16),
  massKilograms: z.number().nonnegative().max(1_000_000),
  /** For hulls. */
  points: z.number().int().min(4).max(1024),
  /** For the part's own mesh, reduced. */
  triangles: z.number().int().min(4).max(1_000_000),
})
export type AddSolidParameters = z.infer<typeof addSolidParameters>

