import { z } from 'zod'
import { lengthUnits } from '../item/units.ts'
import { axisNameSchema } from '../maths/axes.ts'
import type { ReadOptions } from '../intake/reader.ts'
import { fileName } from '../intake/source-file.ts'
import { fitsPattern } from '../support/name-pattern.ts'
import { PlainError } from '../support/plain-error.ts'
import { newEntryId, worklistSchema, type WorklistEntry } from '../worklist/entry.ts'

const unitIds = lengthUnits.map(({ id }) => id) as [string, ...string[]]

/**
 * What is done with files of certain names when they are brought: what they become, how they are read, and the saved
 * worklist that they get.
 */
export const presetSchema = z.strictObject({
  title: z.string().min(1).max(200),
  /** Names of files that it is for, with * and ?; the first preset of a list that fits a name counts. */
  files: z.array(z.string().min(1).max(200)).max(100),
  /** A kind of the game; told from the file where none is said. */
  kind: z.string().max(64).optional(),
  unit: z.enum(unitIds).optional(),
  up: axisNameSchema.optional(),
  forward: axisNameSchema.optional(),
  /** Whether each thing of a scene becomes an item of its own, or the file as a whole. */
  split: z.boolean().optional(),
  /** The worklist that each gets; null where each is prepared for what it is. */
  worklist: worklistSchema.nullable(),
})
export type Preset = z.infer<typeof presetSchema>

/** Presets as a crate or a file holds them. */
export const presetsSchema = z.array(presetSchema).max(200)

/** A file of presets: a list of them, one, or a bare worklist, which is for every file. */
const presetFileSchema = z.union([
  worklistSchema.min(1).transform((worklist) => [{ title: 'Worklist', files: ['*'], worklist }]),
  presetsSchema,
  presetSchema.transform((preset) => [preset]),
])

/**
 * The preset that a file falls under by its name, or its path where a pattern has a slash.
 * @example const preset = presetFor(crate.presets, 'posts/post_01.obj')
 */
export const presetFor = (presets: readonly Preset[], path: string): Preset | null =>
  presets.find(({ files }) =>
    files.some((pattern) => fitsPattern(pattern.includes('/') ? path : fileName(path), pattern, 'whole')),
  ) ?? null

/**
 * How a preset has a source read; what it does not say stays as it was.
 * @example const reading = await readItem(files, readingOf(preset, {}))
 */
export const readingOf = (preset: Preset | null, otherwise: ReadOptions): ReadOptions => ({
  ...otherwise,
  ...(preset?.unit ? { metresPerUnit: lengthUnits.find(({ id }) => id === preset.unit)?.metres } : {}),
  ...(preset?.up ? { up: preset.up } : {}),
  ...(preset?.forward ? { forward: preset.forward } : {}),
})

/**
 * A preset's worklist as that of an item, after what the item begins with: a person decided on each of it.
 * @example const worklist = preset ? withPreset(proposed, preset) : proposed
 */
export function withPreset(first: readonly WorklistEntry[], { title, worklist }: Preset): WorklistEntry[] | null {
  if (worklist === null) return null
  const entries = [...first]
  for (const entry of worklist) {
    const id = entries.some((each) => each.id === entry.id) ? newEntryId([...entries, ...worklist]) : entry.id
    entries.push({ ...entry, id, reason: entry.reason ?? `Of the preset “${title}”.` })
  }
  return entries
}

/**
 * Presets from the text of a file.
 * @throws PlainError that names the first place that is wrong
 *
 * @example readPresets('[{"title": "Posts", "files": ["post_*"], "kind": "prop", "unit": "cm", "worklist": null}]', 'posts.json')
 */
export function readPresets(text: string, name: string): Preset[] {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    throw new PlainError('it is not JSON', name, 'A preset is a list of steps, or of {title, files, kind, worklist}.')
  }
  const parsed = presetFileSchema.safeParse(data)
  if (parsed.success) return parsed.data
  // A union only says that none fits: what was meant shows in its first piece.
  const first: unknown = Array.isArray(data) ? data[0] : data
  const meant = typeof first === 'object' && first !== null && 'step' in first ? worklistSchema : presetsSchema
  const issue = meant.safeParse(Array.isArray(data) ? data : [data]).error?.issues[0]
  throw new PlainError(
    `it is wrong at ${issue?.path.join('.') || 'the top'} (${issue?.message ?? 'it is neither a list nor a preset'})`,
    name,
    'A preset is {title, files, kind, unit, up, forward, split, worklist}; a worklist is a list of {id, step, ' +
      'on, parameters, reason}.',
  )
}
