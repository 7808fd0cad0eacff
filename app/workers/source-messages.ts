import { z } from 'zod'
import { presetsSchema } from '../../core/crate/preset'
import { sourceReferenceSchema } from '../../core/crate/schema'
import { axisNameSchema } from '../../core/maths/axes'

/** What came in, as the intake desk tells it. */
export const sourceReportSchema = z.object({
  triangles: z.number(),
  parts: z.array(
    z.object({ name: z.string(), triangles: z.number(), material: z.string(), stray: z.string().nullable() }),
  ),
  /** Cameras, lamps and the like: things without faces that came along. */
  others: z.array(z.object({ name: z.string(), what: z.string() })),
  references: z.array(
    z.object({
      material: z.string(),
      role: z.string(),
      path: z.string(),
      found: z.string().nullable(),
      stock: z.string().nullable(),
      problem: z.string().nullable(),
      pixels: z.object({ width: z.number(), height: z.number() }).nullable(),
    }),
  ),
  units: z.object({ metresPerUnit: z.number().nullable(), from: z.string() }),
  sizes: z.array(
    z.object({ unit: z.string(), metresPerUnit: z.number(), metres: z.array(z.number()).length(3), why: z.string() }),
  ),
  axes: z.object({ up: axisNameSchema, forward: axisNameSchema, from: z.string() }),
  clips: z.array(z.object({ name: z.string(), seconds: z.number(), keys: z.number() })),
  bones: z.number(),
  oddities: z.array(
    z.object({
      id: z.string(),
      where: z.string(),
      message: z.string(),
      mend: z
        .union([
          z.object({ do: z.literal('set-unit'), metresPerUnit: z.number(), label: z.string() }),
          z.object({ do: z.literal('drop-strays'), label: z.string() }),
          z.object({ do: z.literal('link-texture'), label: z.string() }),
          z.object({ do: z.literal('step'), step: z.string(), label: z.string() }),
        ])
        .nullable(),
    }),
  ),
})
export type SourceReport = z.infer<typeof sourceReportSchema>

export const partChangeSchema = z.object({
  name: z.string(),
  state: z.enum(['same', 'moved', 'changed', 'added', 'gone']),
  before: z.number().nullable(),
  after: z.number().nullable(),
})
export const newerSchema = z.object({
  main: z.string(),
  sources: z.array(sourceReferenceSchema),
  change: z.object({
    parts: z.array(partChangeSchema),
    triangles: z.object({ before: z.number(), after: z.number() }),
    size: z.object({ before: z.array(z.number()), after: z.array(z.number()) }),
    textures: z.array(z.object({ name: z.string(), state: z.enum(['same', 'changed', 'added', 'gone']) })),
    materials: z.object({ added: z.array(z.string()), gone: z.array(z.string()) }),
  }),
})
export type Newer = z.infer<typeof newerSchema>

export const officialSchema = z.object({
  parts: z.array(
    z.object({
      name: z.string(),
      state: z.enum(['untouched', 'moved', 'changed', 'new']),
      official: z.string().nullable(),
      triangles: z.number(),
    }),
  ),
  gone: z.array(z.string()),
})
export type Official = z.infer<typeof officialSchema>

/** The kinds that an item may become, the likeliest first, and what speaks for each. */
export const guessSchema = z.array(z.object({ kind: z.string(), reason: z.string() }))
export type Guess = z.infer<typeof guessSchema>

export const contentsSchema = z.object({
  kind: z.enum(['pack', 'crate']),
  title: z.string(),
  items: z.array(z.object({ name: z.string(), kind: z.string() })),
  textures: z.array(z.string()),
})
export type ArchiveContents = z.infer<typeof contentsSchema>

/** Small pictures of an item's images, for choosing among them. */
export const thumbnailSchema = z.object({
  path: z.string(),
  width: z.number(),
  height: z.number(),
  bytes: z.number(),
  pixels: z.object({ width: z.number(), height: z.number(), data: z.instanceof(Uint8ClampedArray) }),
})
export type Thumbnail = z.infer<typeof thumbnailSchema>

export const intakeProgressSchema = z.object({ fraction: z.number(), doing: z.string() })

export const filesSchema = z
  .array(z.object({ path: z.string().min(1).max(4096), bytes: z.instanceof(Uint8Array) }))
  .max(5000)

/** A game to begin with: one that ships, one of the modder's own that is kept here, or a file. */
export type GameChoice = { id: string } | { own: string } | { bytes: Uint8Array; name: string }

/** How files are brought: presets by their names, and whether each thing of a scene is an item of its own. */
export const bringingSchema = z.object({ presets: presetsSchema, split: z.boolean() })
export type Bringing = z.infer<typeof bringingSchema>
