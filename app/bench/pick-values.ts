import { z } from 'zod'

/** What settings that are clicked in the yard hold; anything else counts as nothing picked yet. */
const place = z.tuple([z.number(), z.number(), z.number()])
export const pointsSchema = z.array(place).catch([])
export const facesSchema = z.array(z.object({ part: z.string(), point: place, growth: z.enum(['face', 'flat', 'piece', 'surface', 'round']), angleDegrees: z.number(), radius: z.number().default(0) })).catch([])

export const placementSchema = z.object({ right: z.number().catch(0), up: z.number().catch(0), width: z.number().positive().catch(1), turnDegrees: z.number().catch(0) })

/** A placement after it was moved in its own frame, which may be turned against the surface's. */
export function movedPlacement({ right, up, width, turnDegrees }: z.infer<typeof placementSchema>, moved: { right: number; up: number; width: number; turnDegrees: number }): z.infer<typeof placementSchema> {
  const rounded = (value: number): number => Number(value.toFixed(3))
  const turned = ((((turnDegrees + moved.turnDegrees) % 360) + 540) % 360) - 180
  // What was moved before is kept in the new frame, so that turning does not carry the picture away.
  const angle = (-moved.turnDegrees * Math.PI) / 180
  const [x, y] = [right + moved.right, up + moved.up]
  return { right: rounded(x * Math.cos(angle) - y * Math.sin(angle)), up: rounded(x * Math.sin(angle) + y * Math.cos(angle)), width: Math.max(0.01, rounded(width * moved.width)), turnDegrees: rounded(turned) }
}
