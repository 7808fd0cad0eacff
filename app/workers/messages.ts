import { z } from 'zod'
import { sourceReferenceSchema } from '../../core/crate/schema'
import { stepRecordSchema } from '../../core/worklist/result-store'
import { worklistEntrySchema } from '../../core/worklist/entry'
import { severities } from '../../core/rules/rule'
import { gameMapRoles, ingredientRoles } from '../../core/document/map-roles'
import { axisNameSchema } from '../../core/document/extras'
import { stages } from '../../core/steps/step'
import { sceneDataSchema } from './scene-data'

/** What crosses between page and workers. Both sides parse what they are given. */
export const stageSchema = z.enum(stages)

/** What every field has: the parameter it edits, and when it is shown. */
const fieldBase = z.object({ key: z.string(), label: z.string(), when: z.object({ key: z.string(), is: z.array(z.union([z.string(), z.number(), z.boolean()])) }).optional() })
const fieldOf = <T extends string, S extends z.ZodRawShape>(type: T, shape: S) => fieldBase.extend({ type: z.literal(type), ...shape })

export const fieldSchema = z.discriminatedUnion('type', [
  fieldOf('number', { unit: z.string(), least: z.number(), most: z.number(), step: z.number(), slider: z.boolean().optional() }),
  fieldOf('toggle', {}),
  fieldOf('choice', { options: z.array(z.object({ value: z.union([z.string(), z.number()]), label: z.string(), refused: z.string().optional() })) }),
  fieldOf('vector', { unit: z.string() }),
  fieldOf('shape-edit', { unit: z.string() }),
  fieldOf('part', {}),
  fieldOf('parts', {}),
  fieldOf('layers', { options: z.array(z.object({ value: z.string(), label: z.string() })) }),
  fieldOf('tags', { surfaces: z.array(z.string()), flags: z.array(z.object({ name: z.string(), meaning: z.string() })), shadings: z.array(z.object({ name: z.string(), title: z.string() })) }),
  fieldOf('points', { count: z.number().int(), unit: z.string() }),
  fieldOf('faces', {}),
  fieldOf('placement', {}),
  fieldOf('weights', { least: z.number(), most: z.number() }),
  fieldOf('colour', {}),
  fieldOf('text', {}),
  fieldOf('map-roles', { options: z.array(z.object({ value: z.string(), label: z.string() })), names: z.array(z.string()) }),
  fieldOf('cards', { layouts: z.array(z.object({ role: z.string(), title: z.string(), channels: z.object({ r: z.string().nullable(), g: z.string().nullable(), b: z.string().nullable(), a: z.string().nullable() }) })), rows: z.array(z.object({ value: z.string(), label: z.string(), picture: z.string() })), pictures: z.array(z.string()) }),
  fieldOf('hues', {}),
  fieldOf('variants', { modes: z.array(z.object({ value: z.string(), label: z.string() })) }),
])
export type Field = z.infer<typeof fieldSchema>

export const stepInfoSchema = z.object({ id: z.string(), stage: stageSchema, title: z.string(), purpose: z.string(), pixelwise: z.boolean() })
export type StepInfo = z.infer<typeof stepInfoSchema>

const partChoiceSchema = z.object({ name: z.string(), role: z.enum(['part', 'level', 'shadow', 'solid']), bounds: z.object({ min: z.array(z.number()), max: z.array(z.number()) }) })
/** A part that a setting may name. */
export type PartChoice = z.infer<typeof partChoiceSchema>

/** What can be set on a step, and the parts to choose among, in the state that the step is given. */
export const stepSettingsSchema = z.object({ fields: z.array(fieldSchema), parts: z.array(partChoiceSchema) })
export type StepSettings = z.infer<typeof stepSettingsSchema>

const boundsSchema = z.object({ min: z.tuple([z.number(), z.number(), z.number()]), max: z.tuple([z.number(), z.number(), z.number()]) })

export const findingSchema = z.object({
  rule: z.string(), severity: z.enum(severities), stage: stageSchema, title: z.string(), where: z.string(),
  place: z.object({ parts: z.array(z.string()), bounds: boundsSchema.nullable(), spots: z.array(z.tuple([z.number(), z.number(), z.number()])), texture: z.string().nullable() }),
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

/** What came in, as the intake desk tells it. */
export const sourceReportSchema = z.object({
  triangles: z.number(),
  parts: z.array(z.object({ name: z.string(), triangles: z.number(), material: z.string(), stray: z.string().nullable() })),
  /** Cameras, lamps and the like: things without faces that came along. */
  others: z.array(z.object({ name: z.string(), what: z.string() })),
  references: z.array(
    z.object({
      material: z.string(), role: z.string(), path: z.string(), found: z.string().nullable(), stock: z.string().nullable(), problem: z.string().nullable(),
      pixels: z.object({ width: z.number(), height: z.number() }).nullable(),
    }),
  ),
  units: z.object({ metresPerUnit: z.number().nullable(), from: z.string() }),
  sizes: z.array(z.object({ unit: z.string(), metresPerUnit: z.number(), metres: z.array(z.number()).length(3), why: z.string() })),
  axes: z.object({ up: axisNameSchema, forward: axisNameSchema, from: z.string() }),
  clips: z.array(z.object({ name: z.string(), seconds: z.number(), keys: z.number() })),
  bones: z.number(),
  oddities: z.array(
    z.object({
      id: z.string(), where: z.string(), message: z.string(),
      mend: z.union([
        z.object({ do: z.literal('set-unit'), metresPerUnit: z.number(), label: z.string() }), z.object({ do: z.literal('drop-strays'), label: z.string() }),
        z.object({ do: z.literal('link-texture'), label: z.string() }), z.object({ do: z.literal('step'), step: z.string(), label: z.string() }),
      ]).nullable(),
    }),
  ),
})
export type SourceReport = z.infer<typeof sourceReportSchema>

export const evaluationSchema = z.object({
  key: z.string(),
  outcomes: z.array(outcomeSchema),
  findings: z.array(findingSchema),
  gauges: z.array(gaugeSchema),
  source: sourceReportSchema,
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
  levels: z.array(z.object({ triangles: z.number(), shift: z.number(), parts: z.array(z.object({ name: z.string(), surfaces: z.array(z.custom<Uint32Array>((value) => value instanceof Uint32Array)) })) })).min(1),
})
export type Ladder = z.infer<typeof ladderSchema>

/** One state of an item, and how it is moved to stand where the result does. */
export const itemStateSchema = z.object({ scene: sceneDataSchema, placement: z.array(z.number()).length(16) })
export type ItemState = z.infer<typeof itemStateSchema>

export const progressSchema = z.object({ entry: z.string(), title: z.string(), fraction: z.number(), doing: z.string() })
export type Progress = z.infer<typeof progressSchema>

export const proposalSchema = z.object({ at: z.number().int(), entries: z.array(worklistEntrySchema.omit({ id: true })) })

export const partChangeSchema = z.object({ name: z.string(), state: z.enum(['same', 'moved', 'changed', 'added', 'gone']), before: z.number().nullable(), after: z.number().nullable() })
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
  parts: z.array(z.object({ name: z.string(), state: z.enum(['untouched', 'moved', 'changed', 'new']), official: z.string().nullable(), triangles: z.number() })),
  gone: z.array(z.string()),
})
export type Official = z.infer<typeof officialSchema>

export const contentsSchema = z.object({ kind: z.enum(['pack', 'crate']), title: z.string(), items: z.array(z.object({ name: z.string(), kind: z.string() })), textures: z.array(z.string()) })
export type ArchiveContents = z.infer<typeof contentsSchema>

/** Small pictures of an item's images, for choosing among them. */
export const thumbnailSchema = z.object({ path: z.string(), width: z.number(), height: z.number(), bytes: z.number(), pixels: z.object({ width: z.number(), height: z.number(), data: z.instanceof(Uint8ClampedArray) }) })
export type Thumbnail = z.infer<typeof thumbnailSchema>

export const intakeProgressSchema = z.object({ fraction: z.number(), doing: z.string() })

export const filesSchema = z.array(z.object({ path: z.string().min(1).max(4096), bytes: z.instanceof(Uint8Array) })).max(5000)

const pictureSchema = z.object({ width: z.number().int(), height: z.number().int(), data: z.instanceof(Uint8Array) })
const lossFields = { psnrDecibels: z.number().nullable(), meanAngleDegrees: z.number().nullable(), worstBlock: z.object({ x: z.number(), y: z.number(), psnrDecibels: z.number() }).nullable() }

/** A map of the item: what it is, what it takes and how it looks. */
export const mapFactsSchema = z.object({
  name: z.string(), role: z.string(), materials: z.array(z.string()), packed: z.boolean(), from: z.string(), cameAs: z.string(), width: z.number().int(), height: z.number().int(), codec: z.string().nullable(), mipmaps: z.number().int(), memory: z.number(),
  quality: z.object({ codec: z.string(), ...lossFields }).nullable(), density: z.number().nullable(), thumbnail: pictureSchema,
})
export type MapFacts = z.infer<typeof mapFactsSchema>

/** One level of a map as pixels. */
export const mapPictureSchema = pictureSchema.extend({ level: z.number().int(), levels: z.number().int(), codec: z.string().nullable(), memory: z.number(), ...lossFields })
export type MapPicture = z.infer<typeof mapPictureSchema>

const triple = z.tuple([z.number(), z.number(), z.number()])

/** A picture over a surface: its plane, the loose triangles it covers, and the picture itself. */
export const placedDecalSchema = z.object({
  plane: z.object({ middle: triple, right: triple, up: triple, outward: triple, width: z.number(), height: z.number() }),
  positions: z.instanceof(Float32Array), uvs: z.instanceof(Float32Array), picture: pictureSchema,
})
export type PlacedDecal = z.infer<typeof placedDecalSchema>

/** A map that a step with other parameters is asked for. */
export const previewWishSchema = z.object({
  rawItem: z.unknown(), rulebookId: z.string(), index: z.number().int().nonnegative(), parameters: z.record(z.string(), z.unknown()),
  wanted: z.object({ material: z.string(), role: z.enum([...gameMapRoles, ...ingredientRoles]) }),
})
export const previewSchema = pictureSchema
export type Preview = z.infer<typeof previewSchema>

/** The chain from a look over its materials to its maps, as it would be packed. */
export const lookChainSchema = z.object({
  look: z.string(), file: z.string(),
  materials: z.array(z.object({ name: z.string(), base: z.string(), shading: z.string(), maps: z.array(z.object({ role: z.string(), texture: z.string(), file: z.string(), stock: z.boolean() })) })),
})
export type LookChain = z.infer<typeof lookChainSchema>

export const uvLayoutSchema = z.object({ triangles: z.instanceof(Float32Array), stretch: z.instanceof(Float32Array), density: z.instanceof(Float32Array), overlap: z.number(), covered: z.number(), svg: z.string() })
export type UvLayoutMessage = z.infer<typeof uvLayoutSchema>
