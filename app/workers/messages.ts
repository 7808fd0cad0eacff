import { z } from 'zod'
import { stepRecordSchema } from '../../core/worklist/result-store'
import { worklistEntrySchema } from '../../core/worklist/entry'
import { severities } from '../../core/rules/rule'
import { stages } from '../../core/steps/step'
import { sceneDataSchema } from './scene-data'

/** What crosses between page and workers. Both sides parse what they are given. */
export const stageSchema = z.enum(stages)

export const fieldSchema = z.discriminatedUnion('type', [
  z.object({ type: z.literal('number'), key: z.string(), label: z.string(), unit: z.string(), least: z.number(), most: z.number(), step: z.number(), slider: z.boolean().optional() }),
  z.object({ type: z.literal('toggle'), key: z.string(), label: z.string() }),
  z.object({ type: z.literal('choice'), key: z.string(), label: z.string(), options: z.array(z.object({ value: z.union([z.string(), z.number()]), label: z.string() })) }),
  z.object({ type: z.literal('part'), key: z.string(), label: z.string() }),
  z.object({ type: z.literal('parts'), key: z.string(), label: z.string() }),
  z.object({ type: z.literal('layers'), key: z.string(), label: z.string(), options: z.array(z.object({ value: z.string(), label: z.string() })) }),
  z.object({ type: z.literal('tags'), key: z.string(), label: z.string(), surfaces: z.array(z.string()), flags: z.array(z.object({ name: z.string(), meaning: z.string() })) }),
])
export type Field = z.infer<typeof fieldSchema>

export const stepInfoSchema = z.object({ id: z.string(), stage: stageSchema, title: z.string(), purpose: z.string(), fields: z.array(fieldSchema) })
export type StepInfo = z.infer<typeof stepInfoSchema>

const boundsSchema = z.object({ min: z.tuple([z.number(), z.number(), z.number()]), max: z.tuple([z.number(), z.number(), z.number()]) })

export const findingSchema = z.object({
  rule: z.string(), severity: z.enum(severities), stage: stageSchema, title: z.string(), where: z.string(),
  place: z.object({ parts: z.array(z.string()), bounds: boundsSchema.nullable(), texture: z.string().nullable() }),
  value: z.string(), limit: z.string(), message: z.string(), why: z.string(),
  mend: z.object({ step: z.string(), label: z.string(), parameters: z.record(z.string(), z.unknown()) }).nullable(),
})
export type FindingMessage = z.infer<typeof findingSchema>

export const gaugeSchema = z.object({ id: z.string(), label: z.string(), stage: stageSchema, value: z.number(), limit: z.number().nullable(), least: z.number(), unit: z.enum(['count', 'bytes']) })

export const outcomeSchema = z.discriminatedUnion('state', [
  z.object({ entry: z.string(), state: z.literal('done'), record: stepRecordSchema, reused: z.boolean() }),
  z.object({ entry: z.string(), state: z.literal('off') }),
  z.object({ entry: z.string(), state: z.literal('failed'), message: z.string() }),
  z.object({ entry: z.string(), state: z.literal('waiting') }),
])

const textureReference = z.object({ material: z.string(), role: z.string(), path: z.string(), found: z.string().nullable() })

export const evaluationSchema = z.object({
  key: z.string(),
  outcomes: z.array(outcomeSchema),
  findings: z.array(findingSchema),
  gauges: z.array(gaugeSchema),
  /** What came in: parts and references of the source. */
  source: z.object({ triangles: z.number(), parts: z.array(z.object({ name: z.string(), triangles: z.number(), stray: z.boolean() })), references: z.array(textureReference), unit: z.string(), axes: z.string(), bounds: boundsSchema }),
  steps: z.array(stepInfoSchema),
  milliseconds: z.number(),
})
export type Evaluation = z.infer<typeof evaluationSchema>

export const scenesSchema = z.object({ source: sceneDataSchema, result: sceneDataSchema })
export type Scenes = z.infer<typeof scenesSchema>

export const progressSchema = z.object({ entry: z.string(), title: z.string(), fraction: z.number(), doing: z.string() })
export type Progress = z.infer<typeof progressSchema>

export const proposalSchema = z.object({ at: z.number().int(), entries: z.array(worklistEntrySchema.omit({ id: true })) })

export const filesSchema = z.array(z.object({ path: z.string().min(1).max(4096), bytes: z.instanceof(Uint8Array) })).max(5000)
