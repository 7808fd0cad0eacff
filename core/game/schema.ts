import { contradictions } from './contradictions.ts'
import { z } from 'zod'
import { itemEventSchema } from '../item/entry.ts'
import { isLinearPattern } from '../support/pattern.ts'
import {
  behaviourSchema,
  bodiesSchema,
  kindSchema,
  levelsSchema,
  markerSchema,
  motionSchema,
  pointsSchema,
  solidsSchema,
} from './schema-kinds.ts'
import { catalogueSchema, lineValueSchema } from './schema-catalogue.ts'
import { halfBlocksSchema } from './schema-half-blocks.ts'
import { manifestWriters, recordWriters, textSchema, wordsSchema } from './schema-records.ts'
import { mapsSchema, materialsSchema } from './schema-surface.ts'

/**
 * Everything one game demands, as data. Lengths are in game units unless a name says otherwise.
 * `docs/rulebook.schema.json` is made from this file.
 */

const axis = z.enum(['+x', '-x', '+y', '-y', '+z', '-z'])

export const spaceSchema = z
  .object({
    up: axis,
    forward: axis,
    handedness: z.enum(['right', 'left']),
    unit: z.object({ name: z.string(), plural: z.string(), metres: z.number().positive() }),
    figure: z.object({
      height: z.number().positive(),
      width: z.number().positive(),
      eyeHeight: z.number().positive(),
      stepHeight: z.number().positive(),
      slopeDegrees: z.number().min(0).max(90),
    }),
    doorway: z.object({ width: z.number().positive(), height: z.number().positive() }),
    gridCell: z.number().positive(),
    smallestDrawn: z.number().nonnegative(),
    /** Longest side an item is believed at; beyond it the unit is probably wrong. */
    largestItem: z.number().positive(),
    /** How the game tells near from far: where its view begins, in game units, and how many bits a depth has. */
    depth: z
      .object({ near: z.number().positive(), bits: z.number().int().min(16).max(32) })
      .default({ near: 0.2, bits: 24 }),
    root: z
      .object({ atOrigin: z.boolean(), unturned: z.boolean(), unscaled: z.boolean() })
      .describe('Not read yet: all three are always asked.'),
  })
  .refine(({ up, forward }) => up[1] !== forward[1], {
    message: 'up and forward lie on the same axis',
    path: ['forward'],
  })

export const namesSchema = z.object({
  /** Regular expression source that a name must match as a whole. */
  pattern: z.string().max(200).refine(isLinearPattern, {
    error: 'this is no regular expression, or one that looks back or ahead, which is not read',
    abort: true,
  }),
  described: z.string(),
  longest: z.number().int().positive(),
  reserved: z.array(z.string()),
})

/** The formats that are written; each has a writer in `core/pack/writers` and a loader in `core/trial/loaders`. */
export const meshWriters = ['glb', 'gltf', 'obj', 'dae', 'part-list'] as const
export const textureWriters = ['dds', 'ktx2', 'tga', 'png'] as const
export const archiveWriters = ['zip-deflated', 'zip-stored', 'folder'] as const

const oneOf = <T extends string>(what: string, known: readonly [T, ...T[]]) =>
  z.enum(known, { error: `no ${what} is written as that; written are ${known.join(', ')}` })

export const filesSchema = z.object({
  mesh: z.object({
    writer: oneOf('mesh', meshWriters),
    ending: z.string().describe('Not read yet: the template of its path says it.'),
    images: z.enum(['none', 'inside', 'beside']),
  }),
  texture: z.object({
    writer: oneOf('texture', textureWriters),
    ending: z.string().describe('Not read yet: the template of its path says it.'),
    /** TGA: whether the first row of the file is the top one, and whether rows are packed in packets. */
    topDown: z.boolean().default(false),
    packed: z.boolean().default(false),
  }),
  archive: z.object({
    /** `folder` where files lie loose in the game's own folders; they travel in a stored ZIP. */
    writer: oneOf('archive', archiveWriters),
    /** Whether folders have entries of their own in the archive. */
    folders: z.boolean().default(false),
    largestBytes: z.number().int().positive(),
    /**
     * The game's own pack, where packs lie beside each other and later names win: it is never written, and whoever
     * wants to be seen has a later name.
     */
    base: z.string().max(100).nullable().default(null),
  }),
  manifest: z.object({
    /** `none` where the game has no list of a pack's files, and reads whatever lies there. */
    writer: oneOf('manifest', manifestWriters).default('json'),
    path: z.string(),
    checksums: z.enum(['sha256', 'none']),
  }),
  entry: z.object({ writer: oneOf('entry', recordWriters) }).prefault({ writer: 'json' }),
  look: z.object({ writer: oneOf('look', recordWriters) }).prefault({ writer: 'json' }),
  text: textSchema.prefault({}),
  words: wordsSchema.prefault({}),
  /**
   * Templates with {category}, {item}, {slot}, {SLOT}, {look}, {map}; {item} of a mesh has the model's name after it
   * where a kind has several; {material} for the text file that some games want for each material.
   */
  paths: z.object({
    mesh: z.string(),
    look: z.string(),
    map: z.string(),
    entry: z.string(),
    material: z.string().optional(),
  }),
  /**
   * The text file of a material: lines with {material}, {surface}, {flags} and a word for each role of map (paths
   * without ending); a line whose words are all empty is left out.
   */
  materialTemplate: z.array(z.string().max(500)).max(64).optional(),
})

const threeNumbers = z.tuple([z.number(), z.number(), z.number()])

/** Bones that the game has already, as they stand at rest in its own axes and unit. */
export const skeletonSchema = z.object({
  id: z
    .string()
    .regex(/^[a-z][a-z0-9_-]*$/)
    .max(40),
  title: z.string().max(100),
  bones: z
    .array(
      z.object({
        name: z.string().min(1).max(200),
        /** The bone that it hangs on: one that is listed before it; null for one that hangs on nothing. */
        parent: z.string().max(200).nullable(),
        /** Where it is in the whole skeleton. */
        at: threeNumbers,
        /** How it is turned in the whole skeleton: x, y, z, w of a quaternion. */
        turn: z.tuple([z.number(), z.number(), z.number(), z.number()]).default([0, 0, 0, 1]),
      }),
    )
    .min(1)
    .max(1024),
})
export type Skeleton = z.infer<typeof skeletonSchema>

export const stockSchema = z.object({
  donors: z.array(
    z.object({
      id: z.string(),
      title: z.string(),
      /** What it sounds like when it is struck. */
      surface: z.string(),
      /** How many blows it takes. */
      toughness: z.number(),
      /** What is left of it when it breaks. */
      remains: z.string(),
      /** What those pieces are made of; null where nothing is left. */
      remainsSurface: z.string().nullable().default(null),
      /** What it does, in a few words to choose by. */
      does: z.string().max(200).default(''),
      /** Kinds that may be like it; null for all. */
      kinds: z.array(z.string()).nullable().default(null),
    }),
  ),
  /** What the game's catalogue says of things of its own, to start from. */
  entries: z
    .array(
      z.object({
        id: z.string().min(1).max(64),
        title: z.string().max(100),
        kind: z.string(),
        fields: z.record(z.string().max(200), lineValueSchema),
        like: z.string().optional(),
        events: z.array(itemEventSchema).max(100).default([]),
      }),
    )
    .max(4096)
    .default([]),
  objects: z.array(z.object({ id: z.string(), title: z.string(), role: z.enum(['official', 'host']) })),
  textures: z.array(z.object({ path: z.string(), role: z.string() })),
  skeletons: z.array(skeletonSchema).max(256).default([]),
})

/**
 * Where the game has no room for new things, only places of its own that others may stand in for: {slot} of a path is
 * the name as it is listed, {SLOT} in capitals.
 */
export const slotsSchema = z.object({
  described: z.string().max(200),
  listed: z
    .array(
      z.object({
        slot: z
          .string()
          .regex(/^[a-z0-9][a-z0-9_-]*$/i)
          .max(32),
        /** What stands there in the game as it comes. */
        title: z.string().max(100),
        kinds: z.array(z.string()).min(1),
      }),
    )
    .min(1)
    .max(4096),
})

const rulebookShape = z.object({
  id: z.string().regex(/^[a-z][a-z0-9-]*$/),
  title: z.string().min(1),
  version: z.string().regex(/^\d+\.\d+$/),
  summary: z.string(),
  space: spaceSchema,
  names: namesSchema,
  files: filesSchema,
  maps: mapsSchema,
  materials: materialsSchema,
  levels: levelsSchema,
  solids: solidsSchema,
  motion: motionSchema,
  markers: z.array(markerSchema),
  points: pointsSchema.prefault({}),
  behaviour: behaviourSchema,
  catalogue: catalogueSchema.prefault({}),
  kinds: z.array(kindSchema).min(1),
  stock: stockSchema,
  bodies: bodiesSchema,
  slots: slotsSchema.nullable().default(null),
  halfBlocks: halfBlocksSchema.nullable().default(null),
})

/** A rulebook that holds together: what it names in one place is there in another, and what it asks for is written. */
export const rulebookSchema = rulebookShape.superRefine((rulebook, context) => {
  for (const { path, message } of contradictions(rulebook)) context.addIssue({ code: 'custom', path, message })
})

export type Rulebook = z.infer<typeof rulebookShape>
export type { Kind } from './schema-kinds.ts'

export type { MapRole } from './schema-surface.ts'
