import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import type { Kind, Rulebook } from '../game/schema.ts'
import type { Stray } from '../item/strays.ts'
import type { Survey } from '../intake/survey.ts'
import { axisNameSchema } from '../maths/axes.ts'
import { jsonRecordSchema } from '../support/json-value.ts'

/** What an answer changes of an item: how its source is read, what it becomes, or a setting of a step. */
export const answerChangeSchema = z.object({
  reading: z
    .object({
      metresPerUnit: z.number().positive().optional(),
      up: axisNameSchema.optional(),
      forward: axisNameSchema.optional(),
    })
    .optional(),
  kind: z.string().max(64).optional(),
  step: z.object({ id: z.string().max(64), parameters: jsonRecordSchema }).optional(),
})
export type AnswerChange = z.infer<typeof answerChangeSchema>

export const answerSchema = z.object({
  id: z.string(),
  label: z.string(),
  /** What it would come to, with its number. */
  note: z.string(),
  /** What its picture shows: the item so large, so turned, or the mark of a kind; null where words say it. */
  picture: z
    .union([
      z.object({ of: z.literal('size'), metres: z.array(z.number()).length(3) }),
      z.object({ of: z.literal('view'), up: axisNameSchema, forward: axisNameSchema }),
      z.object({ of: z.literal('kind'), kind: z.string() }),
    ])
    .nullable(),
  change: answerChangeSchema,
})
export type Answer = z.infer<typeof answerSchema>

/** Something that preparing may not decide alone: two to four answers, the likeliest chosen already. */
export const questionSchema = z.object({
  id: z.string(),
  title: z.string(),
  /** Why it is asked, in a sentence. */
  why: z.string(),
  /** Rules whose findings it decides: there the answers stand in place. */
  decides: z.array(z.string()),
  /** The likeliest first. */
  answers: z.array(answerSchema).min(2).max(4),
  /** The answer that holds as long as nobody gives another. */
  chosen: z.string(),
  /** Whether a person gave it. */
  answered: z.boolean(),
})
export type Question = z.infer<typeof questionSchema>

/** What questions are made from. */
export interface AskedAbout {
  /** The item before its first step. */
  document: Document
  survey: Survey
  strays: readonly Stray[]
  rulebook: Rulebook
  kind: Kind
  /** What a person has answered already, by question. */
  answers: Readonly<Record<string, string>>
  /** Steps that a person has set: what they decide is asked no more. */
  decidedSteps: readonly string[]
}

/** One thing that may have to be asked; null where there is nothing to ask. */
export type Asker = (about: AskedAbout) => Omit<Question, 'answered'> | null

export const MOST_ANSWERS = 4
