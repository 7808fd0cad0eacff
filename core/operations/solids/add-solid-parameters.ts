import { z } from 'zod'
import { solidShapes } from '../../item/annotations/solid/facts.ts'
import { facePicksSchema } from '../meshes/face-picks.ts'

const triple = z.tuple([z.number(), z.number(), z.number()])

/** How a shape is moved, turned and sized after it was fitted; what the yard's handles and the numbers change. */
export const shapeEditSchema = z.object({
  /** In game units. */
  moved: triple.default([0, 0, 0]),
  /** About x, then y, then z. */
  turnedDegrees: triple.default([0, 0, 0]),
  /** Factors along the shape's own axes. */
  sized: triple.default([1, 1, 1]),
})
export type ShapeEdit = z.infer<typeof shapeEditSchema>

/** What a solid is made from, what it is like, and where it goes. */
export const addSolidParameters = shapeEditSchema.extend({
  /** The part that it belongs to. */
  part: z.string().max(200),
  /** What it is fitted to: that part, several parts, picked faces, or the whole item. */
  of: z.enum(['part', 'parts', 'faces', 'item']).default('part'),
  parts: z.array(z.string().max(200)).max(500).default([]),
  faces: facePicksSchema.default([]),
  shape: z.enum(solidShapes),
  /** For boxes: turned as tightly as can be, or along the axes. */
  turned: z.boolean().default(false),
  surface: z.string().max(64),
  layers: z.array(z.string().max(64)).max(16),
  /** Where the mass comes from, for things that are loose. */
  weighing: z.enum(['volume', 'hand']).default('hand'),
  massKilograms: z.number().nonnegative().max(1_000_000),
  /** For hulls: the most corners. */
  points: z.number().int().min(4).max(1024),
  /** For hulls: what they may miss, in game units; 0 takes all the corners there may be. */
  error: z.number().min(0).max(1000).default(0),
  /** For hulls: into how many it is split. */
  hulls: z.number().int().min(1).max(48).default(1),
  /** For the part's own mesh, reduced. */
  triangles: z.number().int().min(4).max(1_000_000),
  /** For the part's own mesh: only what can be touched from outside. */
  onlyOutside: z.boolean().default(false),
})
export type AddSolidParameters = z.infer<typeof addSolidParameters>
