import { z } from 'zod'
import { turningSchema } from '../../core/item/turning'
import { nodeExtrasSchema } from '../../core/item/extras'

/** An item as the yard draws it: plain arrays that cross from worker to page without being copied. */
const floats = z.instanceof(Float32Array)

const primitiveSchema = z.object({
  positions: floats,
  indices: z.instanceof(Uint32Array),
  normals: floats.nullable(),
  uvs: floats.nullable(),
  material: z.number().int(),
  looks: z.array(z.number().int()),
})

export const scenePartSchema = z.object({
  name: z.string(),
  role: nodeExtrasSchema.shape.role.unwrap(),
  level: z.number().int(),
  triangles: z.number(),
  /** Column-major, to the scene. */
  matrix: z.array(z.number()).length(16),
  bounds: z.object({ min: z.array(z.number()), max: z.array(z.number()) }),
  primitives: z.array(primitiveSchema),
})

export const sceneMaterialSchema = z.object({
  name: z.string(),
  /** Linear red, green, blue and opacity. */
  colour: z.array(z.number()).length(4),
  roughness: z.number(),
  metalness: z.number(),
  twoSided: z.boolean(),
  cutOut: z.boolean(),
  blended: z.boolean(),
  colourMap: z.number().int().nullable(),
  normalMap: z.number().int().nullable(),
  mixedMap: z.number().int().nullable(),
  /** Drawn without light, throwing no shadow, receiving none: as the material's flags say. */
  unlit: z.boolean(),
  throwsShadow: z.boolean(),
  receivesShadow: z.boolean(),
})

export const scenePictureSchema = z.object({
  name: z.string(),
  width: z.number().int(),
  height: z.number().int(),
  data: z.instanceof(Uint8Array),
})

const triple = z.tuple([z.number(), z.number(), z.number()])

/** A node without mesh that is something to the game: where it stands, and which way it looks (unit length). */
const scenePlaceSchema = z.object({
  name: z.string(),
  title: z.string(),
  /** What may join at an attach point, by the game's word. */
  joins: z.string().nullable(),
  at: triple,
  ahead: triple,
})

export const sceneDataSchema = z.object({
  parts: z.array(scenePartSchema),
  places: z.array(scenePlaceSchema),
  /** Events of the item, from what sets them off to what they are done to; null where that is another item. */
  links: z.array(z.object({ from: triple, to: triple.nullable(), text: z.string() })),
  materials: z.array(sceneMaterialSchema),
  pictures: z.array(scenePictureSchema),
  /** Names of the item's looks; `looks` of a primitive has its material in each. */
  looks: z.array(z.string()),
  /** How parts go over the whole motion, frame by frame: column-major, to the scene; null where nothing moves. */
  motion: z
    .object({
      seconds: z.number().positive(),
      frames: z.number().int().min(2),
      parts: z.array(z.object({ name: z.string(), matrices: floats })),
      /** Of each bone of `bend`, in its order, the way from the scene at rest to where it carries what it holds. */
      bones: z.array(z.object({ name: z.string(), matrices: floats })),
    })
    .nullable(),
  /** What the item lights with. */
  lights: z.array(
    z.object({
      name: z.string(),
      /** Linear red, green and blue. */
      colour: triple,
      /** Candela, as for game units instead of metres. */
      intensity: z.number(),
      range: z.number().nullable(),
      at: triple,
      /** Of a spot: where it shines to, and half the angles of its cone. */
      beam: z.object({ towards: triple, innerDegrees: z.number(), outerDegrees: z.number() }).nullable(),
    }),
  ),
  /** How it turns to who looks; null for what stands as it is. */
  turns: turningSchema.nullable(),
  /** What bones hold, and what goes where they go; null where nothing bends. */
  bend: z
    .object({
      bones: z.array(z.object({ name: z.string(), above: z.number().int(), at: triple })),
      held: z.array(
        z.object({
          part: z.string(),
          bones: z.array(z.number().int()),
          /** From the mesh to the scene as each bone holds it at rest. */
          rest: floats,
          surfaces: z.array(z.object({ boneOf: z.instanceof(Uint16Array), weightOf: floats })),
        }),
      ),
      carried: z.array(z.object({ part: z.string(), bone: z.number().int() })),
    })
    .nullable(),
  /** Column-major matrix from the source's space to this one. */
  fit: z.array(z.number()).length(16),
})

export type SceneData = z.infer<typeof sceneDataSchema>
export type ScenePart = z.infer<typeof scenePartSchema>
export type SceneMaterial = z.infer<typeof sceneMaterialSchema>

/** The box round a box that was moved by a column-major matrix. */
export function movedBounds(bounds: ScenePart['bounds'], m: readonly number[]): ScenePart['bounds'] {
  const moved = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] }
  for (let corner = 0; corner < 8; corner++) {
    const [x, y, z] = [0, 1, 2].map((axis) => (corner & (1 << axis) ? bounds.max[axis] : bounds.min[axis]))
    for (let axis = 0; axis < 3; axis++) {
      const value = m[axis] * x + m[4 + axis] * y + m[8 + axis] * z + m[12 + axis]
      moved.min[axis] = Math.min(moved.min[axis], value)
      moved.max[axis] = Math.max(moved.max[axis], value)
    }
  }
  return moved
}

/** The buffers of a scene, to be handed over instead of copied. */
export function sceneTransfers(scene: SceneData): Transferable[] {
  const buffers = new Set<ArrayBufferLike>()
  for (const part of scene.parts) {
    for (const { positions, indices, normals, uvs } of part.primitives)
      for (const array of [positions, indices, normals, uvs]) if (array) buffers.add(array.buffer)
  }
  for (const picture of scene.pictures) buffers.add(picture.data.buffer)
  for (const { matrices } of scene.motion?.parts ?? []) buffers.add(matrices.buffer)
  for (const { rest, surfaces } of scene.bend?.held ?? []) {
    buffers.add(rest.buffer)
    for (const { boneOf, weightOf } of surfaces) buffers.add(boneOf.buffer).add(weightOf.buffer)
  }
  return [...buffers].filter((buffer): buffer is ArrayBuffer => buffer instanceof ArrayBuffer)
}
