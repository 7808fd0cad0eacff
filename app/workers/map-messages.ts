import { z } from 'zod'
import { gameSchema } from '../../core/game/game'
import { mapRoleSchema } from '../../core/item/map-roles'

export const pictureSchema = z.object({
  width: z.number().int(),
  height: z.number().int(),
  data: z.instanceof(Uint8Array),
})
const lossFields = {
  psnrDecibels: z.number().nullable(),
  meanAngleDegrees: z.number().nullable(),
  worstBlock: z.object({ x: z.number(), y: z.number(), psnrDecibels: z.number() }).nullable(),
}

/** A map of the item: what it is, what it takes and how it looks. */
export const mapFactsSchema = z.object({
  name: z.string(),
  /** Where the item keeps it. */
  key: z.string(),
  /** What the game calls it, or what it is in the source. */
  role: z.string(),
  materials: z.array(z.string()),
  packed: z.boolean(),
  from: z.string(),
  cameAs: z.string(),
  width: z.number().int(),
  height: z.number().int(),
  codec: z.string().nullable(),
  mipmaps: z.number().int(),
  memory: z.number(),
  quality: z.object({ codec: z.string(), ...lossFields }).nullable(),
  density: z.number().nullable(),
  thumbnail: pictureSchema,
})
export type MapFacts = z.infer<typeof mapFactsSchema>

/** One level of a map as pixels. */
export const mapPictureSchema = pictureSchema.extend({
  level: z.number().int(),
  levels: z.number().int(),
  codec: z.string().nullable(),
  memory: z.number(),
  ...lossFields,
})
export type MapPicture = z.infer<typeof mapPictureSchema>

const triple = z.tuple([z.number(), z.number(), z.number()])

/** A picture over a surface: its plane, the loose triangles it covers, and the picture itself. */
export const placedDecalSchema = z.object({
  plane: z.object({
    middle: triple,
    right: triple,
    up: triple,
    outward: triple,
    width: z.number(),
    height: z.number(),
  }),
  positions: z.instanceof(Float32Array),
  uvs: z.instanceof(Float32Array),
  picture: pictureSchema,
})
export type PlacedDecal = z.infer<typeof placedDecalSchema>

/** A map that a step with other parameters is asked for. */
export const previewWishSchema = z.object({
  rawItem: z.unknown(),
  game: gameSchema,
  index: z.number().int().nonnegative(),
  parameters: z.record(z.string(), z.unknown()),
  wanted: z.object({ material: z.string(), role: mapRoleSchema }),
})
export const previewSchema = pictureSchema
export type Preview = z.infer<typeof previewSchema>

/** The chain from a look over its materials to its maps, as it would be packed. */
export const lookChainSchema = z.object({
  look: z.string(),
  file: z.string(),
  materials: z.array(
    z.object({
      name: z.string(),
      base: z.string(),
      shading: z.string(),
      maps: z.array(z.object({ role: z.string(), texture: z.string(), file: z.string(), stock: z.boolean() })),
    }),
  ),
})
export type LookChain = z.infer<typeof lookChainSchema>

export const uvLayoutSchema = z.object({
  triangles: z.instanceof(Float32Array),
  stretch: z.instanceof(Float32Array),
  density: z.instanceof(Float32Array),
  overlap: z.number(),
  covered: z.number(),
  svg: z.string(),
})
export type UvLayoutMessage = z.infer<typeof uvLayoutSchema>
