import { z } from 'zod'
import { eventEffects } from '../../core/game/schema-catalogue'
import { yardActions } from '../../core/trial/yard/actions'

/** What crosses between the page and the workers about solids and the yard's physics. */
const triple = z.tuple([z.number(), z.number(), z.number()])
const turn = z.tuple([z.number(), z.number(), z.number(), z.number()])
const rest = z.object({
  verdict: z.enum(['rests', 'topples', 'jitters', 'sinks']),
  seconds: z.number().nullable(),
  turnedDegrees: z.number(),
  endHeight: z.number(),
})

export const touchReportSchema = z.object({
  openings: z.array(
    z.object({ middle: triple, width: z.number(), height: z.number().nullable(), passes: z.boolean() }),
  ),
  bodies: z.array(
    z.object({
      id: z.string(),
      title: z.string(),
      standsOff: z.number(),
      getsInto: z.number(),
      standsOffAt: triple,
      getsIntoAt: triple,
    }),
  ),
  solids: z.array(
    z.object({
      name: z.string(),
      shape: z.string(),
      surface: z.string().nullable(),
      layers: z.array(z.string()),
      massKilograms: z.number().nullable(),
      triangles: z.number(),
      points: z.number(),
      outside: z.number(),
      inside: z.number(),
    }),
  ),
  mass: z.object({ kilograms: z.number(), centre: triple }).nullable(),
  rest: z.object({ put: rest, dropped: rest.extend({ from: z.number() }) }).nullable(),
})
export type TouchReport = z.infer<typeof touchReportSchema>

const floats = z.instanceof(Float32Array)

/** Solids cut finely, each corner with how far it lies outside (positive) or inside what is seen. */
export const standOutsSchema = z.array(
  z.object({ name: z.string(), positions: floats, indices: z.instanceof(Uint32Array), distances: floats }),
)
export type StandOuts = z.infer<typeof standOutsSchema>

/** The shapes that a step's settings stand for, each as its own box in the scene and its corners there. */
export const placedShapesSchema = z.array(
  z.object({ middle: triple, half: triple, turn, positions: floats, indices: z.instanceof(Uint32Array) }),
)
export type PlacedShapes = z.infer<typeof placedShapesSchema>

export const yardInputSchema = z.object({
  walk: triple,
  look: triple,
  actions: z.array(z.enum(yardActions)).max(8),
  mindsEdges: z.boolean().default(false),
})
export type YardInputMessage = z.infer<typeof yardInputSchema>

export const yardFrameSchema = z.object({
  seconds: z.number(),
  feet: triple,
  touches: z.object({ solid: z.string(), surface: z.string() }).nullable(),
  moved: z.array(z.object({ id: z.number(), item: z.string(), pivot: triple, place: triple, turn })),
  balls: z.array(z.object({ id: z.number(), place: triple })),
  remains: z.array(z.object({ id: z.number(), place: triple, turn })),
  broken: z.array(z.object({ item: z.string(), remains: z.string() })),
  knocks: z.array(z.object({ surface: z.string(), loudness: z.number() })),
  carries: z.string().nullable(),
  ridesOn: z.string().nullable(),
  run: z
    .object({
      places: z.array(z.object({ name: z.string(), place: triple, taken: z.boolean() })),
      goals: z.array(triple),
      falls: z.number(),
      arrivedAfter: z.number().nullable(),
    })
    .nullable(),
  happened: z.array(
    z.object({ seconds: z.number(), item: z.string(), words: z.string(), effect: z.enum(eventEffects) }),
  ),
  hidden: z.array(z.string()),
  lit: z.boolean(),
  standing: z.array(z.object({ part: z.string(), matrix: floats })),
})
export type YardFrameMessage = z.infer<typeof yardFrameSchema>
