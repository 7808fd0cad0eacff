import { z } from 'zod'

/** What settings that are clicked in the yard hold; anything else counts as nothing picked yet. */
const place = z.tuple([z.number(), z.number(), z.number()])
export const pointsSchema = z.array(place).catch([])
export const facesSchema = z
  .array(
    z.object({
      part: z.string(),
      point: place,
      growth: z.enum(['face', 'flat', 'piece', 'surface', 'round']),
      angleDegrees: z.number(),
      radius: z.number().default(0),
    }),
  )
  .catch([])

export const placementSchema = z.object({
  right: z.number().catch(0),
  up: z.number().catch(0),
  width: z.number().positive().catch(1),
  turnDegrees: z.number().catch(0),
})

/** A placement after it was moved in its own frame, which may be turned against the surface's. */
export function movedPlacement(
  { right, up, width, turnDegrees }: z.infer<typeof placementSchema>,
  moved: { right: number; up: number; width: number; turnDegrees: number },
): z.infer<typeof placementSchema> {
  const rounded = (value: number): number => Number(value.toFixed(3))
  const turned = ((((turnDegrees + moved.turnDegrees) % 360) + 540) % 360) - 180
  // What was moved before is kept in the new frame, so that turning does not carry the picture away.
  const angle = (-moved.turnDegrees * Math.PI) / 180
  const [x, y] = [right + moved.right, up + moved.up]
  return {
    right: rounded(x * Math.cos(angle) - y * Math.sin(angle)),
    up: rounded(x * Math.sin(angle) + y * Math.cos(angle)),
    width: Math.max(0.01, rounded(width * moved.width)),
    turnDegrees: rounded(turned),
  }
}

const zeros: [number, number, number] = [0, 0, 0]
const ones: [number, number, number] = [1, 1, 1]
export const shapeEditSchema = z.object({
  moved: place.catch(zeros),
  turnedDegrees: place.catch(zeros),
  sized: place.catch(ones),
})
type ShapeEdit = z.infer<typeof shapeEditSchema>

/** A shape's edit after it was moved by its handles: moves and turns add up, sizes multiply. */
export function movedShape(
  edit: ShapeEdit,
  moved: { moved: readonly number[]; turnedDegrees: number; sized: readonly number[] },
): ShapeEdit {
  const rounded = (value: number): number => Number(value.toFixed(3)) + 0
  const each = (change: (axis: 0 | 1 | 2) => number): [number, number, number] => [
    rounded(change(0)),
    rounded(change(1)),
    rounded(change(2)),
  ]
  const turned = ((((edit.turnedDegrees[1] + moved.turnedDegrees) % 360) + 540) % 360) - 180
  return {
    moved: each((axis) => edit.moved[axis] + moved.moved[axis]),
    turnedDegrees: [edit.turnedDegrees[0], rounded(turned), edit.turnedDegrees[2]],
    sized: each((axis) => edit.sized[axis] * moved.sized[axis]),
  }
}
