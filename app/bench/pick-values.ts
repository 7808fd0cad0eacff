import { z } from 'zod'

/** What settings that are clicked in the yard hold; anything else counts as nothing picked yet. */
const place = z.tuple([z.number(), z.number(), z.number()])
export const pointsSchema = z.array(place).catch([])
export const facesSchema = z.array(z.object({ part: z.string(), point: place, growth: z.enum(['face', 'flat', 'piece', 'surface']), angleDegrees: z.number() })).catch([])
