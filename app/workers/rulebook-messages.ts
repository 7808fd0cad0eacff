import { z } from 'zod'
import { surenesses } from '../../core/learn/learned'
import { severities } from '../../core/rules/rule'

export const rulebookFileSchema = z.object({
  bytes: z.custom<Uint8Array>((value) => value instanceof Uint8Array),
  ending: z.enum(['json', 'zip']),
})
export type RulebookFile = z.infer<typeof rulebookFileSchema>

/** What files of a game say of it. */
export const learnedSchema = z.object({
  base: z.string(),
  lines: z.array(
    z.object({
      path: z.array(z.string()),
      value: z.unknown(),
      files: z.number(),
      sureness: z.enum(surenesses),
      why: z.string(),
      against: z.array(z.object({ file: z.string(), value: z.unknown() })),
    }),
  ),
  /** What entries say besides: where, and what it was seen to be. */
  entryFields: z.array(z.object({ place: z.string(), said: z.string() })),
  unread: z.array(z.object({ file: z.string(), why: z.string() })),
  meshes: z.array(z.string()),
})
export type LearnedReport = z.infer<typeof learnedSchema>

/** What was put into a game's stock. */
export const givenStockSchema = z.object({
  objects: z.number(),
  textures: z.number(),
  donors: z.number(),
  skeletons: z.number(),
})
export type GivenStock = z.infer<typeof givenStockSchema>

const triedFindingSchema = z.object({
  rule: z.string(),
  severity: z.enum(severities),
  title: z.string(),
  where: z.string(),
  message: z.string(),
})
export const triedItemsSchema = z.array(
  z.object({ name: z.string(), more: z.array(triedFindingSchema), less: z.array(triedFindingSchema) }),
)
