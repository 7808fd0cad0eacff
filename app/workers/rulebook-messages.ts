import { z } from 'zod'
import { severities } from '../../core/rules/rule'

export const rulebookFileSchema = z.object({
  bytes: z.custom<Uint8Array>((value) => value instanceof Uint8Array),
  ending: z.enum(['json', 'zip']),
})
export type RulebookFile = z.infer<typeof rulebookFileSchema>

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
