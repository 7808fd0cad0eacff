import { z } from 'zod'

/** How a thing turns to who looks: about its upright line alone, or about its middle any way. */
export const turningSchema = z.enum(['upright', 'freely'])
export type Turning = z.infer<typeof turningSchema>

/** The same in words that follow “turns”. */
export const turningWords: Record<Turning, string> = {
  upright: 'about its upright line',
  freely: 'any way about its middle',
}
