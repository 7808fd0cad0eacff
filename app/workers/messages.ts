import { pathRowSchema } from '../../core/crate/path-row'
import { z } from 'zod'
import { stepRecordSchema } from '../../core/worklist/result-store'
import { worklistEntrySchema, worklistSchema } from '../../core/worklist/entry'
import { questionSchema } from '../../core/questions/question'
import { togetherFactsSchema } from '../../core/game/catalogue/together-facts'
import { severities } from '../../core/rules/rule'
import { stages } from '../../core/support/stages'
import { sceneDataSchema } from './scene-data'
import { sourceReportSchema } from './source-messages'

/** What crosses between page and workers. Both sides parse what they are given. */
export const stageSchema = z.enum(stages)

export const stepInfoSchema = z.object({
  id: z.string(),
  stage: stageSchema,
  title: z.string(),
  purpose: z.string(),
  pixelwise: z.boolean(),
})
export type StepInfo = z.infer<typeof stepInfoSchema>

const boundsSchema = z.object({
  min: z.tuple([z.number(), z.number(), z.number()]),
  max: z.tuple([z.number(), z.number(), z.number()]),
})

export const findingSchema = z.object({
  rule: z.string(),
  severity: z.enum(severities),
  stage: stageSchema,
  title: z.string(),
  where: z.string(),
  place: z.object({
    parts: z.array(z.string()),
    bounds: boundsSchema.nullable(),
    spots: z.array(z.tuple([z.number(), z.number(), z.number()])),
    texture: z.string().nullable(),
  }),
  value: z.string(),
  limit: z.string(),
  message: z.string(),
  why: z.string(),
  mend: z.object({ step: z.string(), label: z.string(), parameters: z.record(z.string(), z.unknown()) }).nullable(),
})
export type FindingMessage = z.infer<typeof findingSchema>

export const gaugeSchema = z.object({
  id: z.string(),
  label: z.string(),
  stage: stageSchema,
  value: z.number(),
  limit: z.number().nullable(),
  least: z.number(),
  unit: z.enum(['count', 'bytes']),
})

export const outcomeSchema = z.discriminatedUnion('state', [
  z.object({ entry: z.string(), state: z.literal('done'), record: stepRecordSchema, reused: z.boolean() }),
  z.object({ entry: z.string(), state: z.literal('off') }),
  z.object({ entry: z.string(), state: z.literal('failed'), message: z.string() }),
  z.object({ entry: z.string(), state: z.literal('waiting') }),
])

export const evaluationSchema = z.object({
  key: z.string(),
  outcomes: z.array(outcomeSchema),
  findings: z.array(findingSchema),
  gauges: z.array(gaugeSchema),
  /** What the other items of its crate have to know of it. */
  facts: togetherFactsSchema,
  source: sourceReportSchema,
  /** Every file that it asks for: as written, and as packed. */
  paths: z.array(pathRowSchema),
  questions: z.array(questionSchema),
  steps: z.array(stepInfoSchema),
  milliseconds: z.number(),
})
export type Evaluation = z.infer<typeof evaluationSchema>

export const scenesSchema = z.object({ source: sceneDataSchema, result: sceneDataSchema })
export type Scenes = z.infer<typeof scenesSchema>

const floats = z.custom<Float32Array>((value) => value instanceof Float32Array)

/** How far two states of an item lie apart, in game units. */
export const differenceSchema = z.object({
  worst: z.number(),
  mean: z.number(),
  worstAt: z.tuple([z.number(), z.number(), z.number()]),
  /** Share of the outline that changed, from eight directions. */
  outlines: z.array(z.number()),
  /** At each corner of each surface of each part. */
  parts: z.array(z.object({ name: z.string(), distances: z.array(floats) })),
})
export type Difference = z.infer<typeof differenceSchema>

/** Levels of an item for dragging a slider: triangles into the corners that the state before the step has. */
export const ladderSchema = z.object({
  levels: z
    .array(
      z.object({
        triangles: z.number(),
        shift: z.number(),
        parts: z.array(
          z.object({
            name: z.string(),
            surfaces: z.array(z.custom<Uint32Array>((value) => value instanceof Uint32Array)),
          }),
        ),
      }),
    )
    .min(1),
})
export type Ladder = z.infer<typeof ladderSchema>

/** How sampling changes an item's curves, for drawing while its settings are tried. */
export const samplingReportSchema = z.object({
  keysBefore: z.number(),
  keysAfter: z.number(),
  bytesBefore: z.number(),
  bytesAfter: z.number(),
  curves: z.array(
    z.object({
      clip: z.string(),
      node: z.string(),
      path: z.enum(['translation', 'rotation', 'scale']),
      unit: z.enum(['length', 'degrees', 'share']),
      seconds: floats,
      before: floats,
      after: floats,
      error: floats,
      keys: floats,
      keyValues: floats,
      allowed: z.number(),
      worst: z.object({ error: z.number(), at: z.number() }),
    }),
  ),
})
export type SamplingReport = z.infer<typeof samplingReportSchema>

/** One state of an item, and how it is moved to stand where the result does. */
export const itemStateSchema = z.object({ scene: sceneDataSchema, placement: z.array(z.number()).length(16) })
export type ItemState = z.infer<typeof itemStateSchema>

export const progressSchema = z.object({
  entry: z.string(),
  title: z.string(),
  fraction: z.number(),
  doing: z.string(),
})
export type Progress = z.infer<typeof progressSchema>

/** What preparing came to, what was tried after each check, and what is known of the result. */
export const preparedSchema = z.object({
  worklist: worklistSchema,
  rounds: z.array(z.string()),
  evaluation: evaluationSchema,
})
export type PreparedMessage = z.infer<typeof preparedSchema>

export const proposalSchema = z.object({
  at: z.number().int(),
  entries: z.array(worklistEntrySchema.omit({ id: true })),
})
