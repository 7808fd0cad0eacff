import type { ExtensibleProperty, Root } from '@gltf-transform/core'
import { z } from 'zod'
import { annotationRoles } from './annotations/annotation-kind.ts'
import { annotationFacts } from './annotations/facts.ts'
import { itemEntrySchema } from './entry.ts'
import { axisNameSchema } from '../maths/axes.ts'
import { turningSchema } from './turning.ts'
import { mapRoleSchema } from './map-roles.ts'

/** The one key under which everything that glTF has no word for is kept in `extras`. */
export const EXTRAS_KEY = 'gentle_crate'

/** Where a fact about a source is known from. */
export const provenanceSchema = z.enum(['declared', 'customary', 'chosen', 'unknown'])

export const unitsSchema = z.object({
  metresPerUnit: z.number().positive().nullable(),
  from: provenanceSchema,
})
export const axesSchema = z.object({
  up: axisNameSchema,
  forward: axisNameSchema,
  from: provenanceSchema,
})
export type Units = z.infer<typeof unitsSchema>
export type Axes = z.infer<typeof axesSchema>

/** Something of the source that the item does not carry on, in whole sentences. */
export const givenUpSchema = z.object({
  /** “Shapes to morph between”, “Occlusion on its own UVs”. */
  what: z.string().max(200),
  /** Part, material or clip. */
  where: z.string().max(4096),
  message: z.string().max(1000),
  why: z.string().max(1000),
})
export type GivenUp = z.infer<typeof givenUpSchema>

/** What is known of the whole item: the space it is in now, and how it came from the source's space. */
export const rootExtrasSchema = z.object({
  units: unitsSchema.default({ metresPerUnit: null, from: 'unknown' }),
  axes: axesSchema.default({ up: '+y', forward: '+z', from: 'unknown' }),
  /** Column-major matrix from the source's space to the present one (turns and scale so far). */
  fit: z.array(z.number()).length(16).optional(),
  /** The object of the game's own that it changes, by its id. */
  changes: z.string().max(200).optional(),
  /** How it turns to who looks, where its kind does. */
  turns: turningSchema.optional(),
  /** What its entry says besides its files. */
  entry: itemEntrySchema.optional(),
  /** Names of its looks as its files say them, where it is looked at as it lies in a pack. */
  lookNames: z.array(z.string().max(200)).max(1000).optional(),
  /** What the source had that is gone, by intake and by steps. */
  givenUp: z.array(givenUpSchema).max(500).default([]),
})
export type RootExtras = z.infer<typeof rootExtrasSchema>

export const nodeExtrasSchema = z.object({
  /** What the node is for: a part of the model, or more than geometry. */
  role: z.enum(['part', ...annotationRoles]).default('part'),
  /** Name in the source, where it had to be changed: to tell two parts apart, or for the game. */
  writtenName: z.string().max(4096).optional(),
  /** Whether bones were given to it here, and not by who made the source: only then are its weights ours to improve. */
  heldHere: z.boolean().optional(),
  /** Whether it came with an object of the game's own that the item was put into. */
  ofHost: z.boolean().optional(),
  /** Which of the item's models it belongs to, where its kind has several: `lying`, `worn`. */
  model: z.string().max(64).optional(),
  ...annotationFacts,
})
export type NodeExtras = z.infer<typeof nodeExtrasSchema>

/** What is known of one surface of a part. */
export const primitiveExtrasSchema = z.object({
  /** Stands for the positions, normals and UVs that its tangents were made for. */
  tangentsFor: z.string().max(64).optional(),
})
export type PrimitiveExtras = z.infer<typeof primitiveExtrasSchema>

const textureRoleSchema = z.union([mapRoleSchema, z.literal('other')])
export type TextureRole = z.infer<typeof textureRoleSchema>

/** One texture that a material of the source asks for, as it was written, and what it was matched to. */
export const textureReferenceSchema = z.object({
  role: textureRoleSchema,
  path: z.string().max(4096),
  found: z.string().max(4096).nullable(),
  /** Size of the picture that was found. */
  pixels: z.object({ width: z.number(), height: z.number() }).optional(),
  /** Path of a texture that the game already has, chosen in its place: not packed, resolved by the loader. */
  stock: z.string().max(4096).optional(),
  /** Why the file that was found could not be used. */
  problem: z.string().max(1000).optional(),
})
export type TextureReference = z.infer<typeof textureReferenceSchema>

export const materialExtrasSchema = z.object({
  references: z.array(textureReferenceSchema).max(256).default([]),
  /** Name in the source, where a step has given it another. */
  writtenName: z.string().max(4096).optional(),
  /** What the game is told it is made of and how it is drawn, by the game's own words; unset until somebody says so. */
  tag: z.object({ surface: z.string().max(64).nullable(), flags: z.array(z.string().max(64)).max(64) }).optional(),
  shadingModel: z.string().max(64).optional(),
  /** Its roughness and metalness are not what the source says, but a reading of an older model's shininess. */
  shineIsGuessed: z.boolean().optional(),
})
export type MaterialExtras = z.infer<typeof materialExtrasSchema>

export const textureExtrasSchema = z.object({
  role: textureRoleSchema.default('other'),
  /** Path as written in the source. */
  written: z.string().max(4096).optional(),
  /** What the file was before it came into the item: “TGA 24-bit, packed rows”. */
  cameAs: z.string().max(200).optional(),
  /** What a colour map's opacity is like, measured when it was compressed. */
  opacity: z.enum(['opaque', 'cut', 'blended']).optional(),
  /** What the last compression measured against the pixels it was given. */
  quality: z
    .object({
      codec: z.string(),
      psnrDecibels: z.number().nullable(),
      meanAngleDegrees: z.number().nullable(),
      worstBlock: z.object({ x: z.number(), y: z.number(), psnrDecibels: z.number() }).nullable().default(null),
    })
    .optional(),
})
export type TextureExtras = z.infer<typeof textureExtrasSchema>

/** What nodes were read as, by what is kept at them, which is written anew at each change: it is asked very often. */
const nodesRead = new WeakMap<object, NodeExtras>()
const plainNode = Object.freeze(nodeExtrasSchema.parse({}))

function readNodeExtras(node: ExtensibleProperty | Root): NodeExtras {
  const raw = (node.getExtras() as Record<string, unknown>)[EXTRAS_KEY]
  if (typeof raw !== 'object' || raw === null) return plainNode
  const known = nodesRead.get(raw)
  if (known) return known
  const read = Object.freeze(readExtras(node, nodeExtrasSchema))
  nodesRead.set(raw, read)
  return read
}

function readExtras<T>(holder: ExtensibleProperty | Root, schema: z.ZodType<T>): T {
  const raw = (holder.getExtras() as Record<string, unknown>)[EXTRAS_KEY]
  const parsed = schema.safeParse(raw ?? {})
  return parsed.success ? parsed.data : schema.parse({})
}

function writeExtras(holder: ExtensibleProperty | Root, value: object): void {
  holder.setExtras({ ...holder.getExtras(), [EXTRAS_KEY]: value })
}

type Holder = ExtensibleProperty | Root

/**
 * Reads what we keep about the whole item; anything malformed reads as unknown.
 *
 * @example const { units } = getRootExtras(document.getRoot())
 */
export const getRootExtras = (root: Holder): RootExtras => readExtras(root, rootExtrasSchema)
/**
 * Keeps what is known of the whole item. Throws ZodError for what is not in the schema.
 *
 * @example setRootExtras(root, { ...getRootExtras(root), axes })
 */
export const setRootExtras = (root: Holder, value: z.input<typeof rootExtrasSchema>): void =>
  writeExtras(root, rootExtrasSchema.parse(value))

/**
 * What a node is for, shared with others that ask; a plain part where nothing, or something malformed, is kept.
 *
 * @example const isSolid = getNodeExtras(node).role === 'solid'
 */
export const getNodeExtras = (node: Holder): Readonly<NodeExtras> => readNodeExtras(node)
/**
 * Keeps what a node is for, in place of what was kept.
 *
 * @example setNodeExtras(node, { ...getNodeExtras(node), role: 'marker' })
 */
export const setNodeExtras = (node: Holder, value: NodeExtras): void => writeExtras(node, value)

/**
 * What is known of a surface.
 * @example const { tangentsFor } = getPrimitiveExtras(surface)
 */
export const getPrimitiveExtras = (primitive: Holder): PrimitiveExtras => readExtras(primitive, primitiveExtrasSchema)
/**
 * Keeps what is known of a surface, in place of what was kept.
 * @example setPrimitiveExtras(surface, { ...getPrimitiveExtras(surface), tangentsFor })
 */
export const setPrimitiveExtras = (primitive: Holder, value: PrimitiveExtras): void => writeExtras(primitive, value)

/**
 * What is known of a material beyond glTF: what it asked for, its tag, its shading model.
 *
 * @example const { references } = getMaterialExtras(material)
 */
export const getMaterialExtras = (material: Holder): MaterialExtras => readExtras(material, materialExtrasSchema)
/**
 * Keeps what is known of a material, in place of what was kept.
 *
 * @example setMaterialExtras(material, { ...getMaterialExtras(material), references: [] })
 */
export const setMaterialExtras = (material: Holder, value: MaterialExtras): void => writeExtras(material, value)

/**
 * What is known of a texture: its role, where it came from, how it was compressed.
 *
 * @example const { role } = getTextureExtras(texture)
 */
export const getTextureExtras = (texture: Holder): TextureExtras => readExtras(texture, textureExtrasSchema)
/**
 * Keeps what is known of a texture, in place of what was kept.
 *
 * @example setTextureExtras(texture, { ...getTextureExtras(texture), written: 'wood.png' })
 */
export const setTextureExtras = (texture: Holder, value: TextureExtras): void => writeExtras(texture, value)

/**
 * The extras of a thing without ours: what a packed file may carry.
 * @example const kept = foreignExtras(node)
 */
export function foreignExtras(holder: Holder): Record<string, unknown> {
  const { [EXTRAS_KEY]: _ours, ...rest } = holder.getExtras() as Record<string, unknown>
  return rest
}
