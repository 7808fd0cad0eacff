import { z } from 'zod'

/**
 * What a body of level geometry does: it stands there, it is cut out of those that stand there, or it is only seen and
 * nobody bumps into it.
 */
export const bodyRoleSchema = z.enum(['solid', 'hollow', 'trim'])
export type BodyRole = z.infer<typeof bodyRoleSchema>
