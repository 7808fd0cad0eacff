import { z } from 'zod'

/** What the loader reads of a glTF's JSON (glTF 2.0, section 5); the rest it does not look at. */
const index = z.number().int().nonnegative()
const extensions = z.record(z.string(), z.unknown()).optional()

export const gltfSchema = z.looseObject({
  asset: z.looseObject({ version: z.string().regex(/^2\.\d+$/) }),
  scene: index.optional(),
  scenes: z.array(z.looseObject({ nodes: z.array(index).optional() })).min(1),
  nodes: z
    .array(
      z.looseObject({
        name: z.string().optional(),
        mesh: index.optional(),
        skin: index.optional(),
        children: z.array(index).optional(),
        matrix: z.array(z.number()).length(16).optional(),
        translation: z.array(z.number()).length(3).optional(),
        rotation: z.array(z.number()).length(4).optional(),
        scale: z.array(z.number()).length(3).optional(),
        extras: z.record(z.string(), z.unknown()).optional(),
        extensions,
      }),
    )
    .default([]),
  meshes: z
    .array(
      z.looseObject({
        primitives: z
          .array(
            z.looseObject({
              attributes: z.record(z.string(), index),
              indices: index.optional(),
              material: index.optional(),
              mode: index.optional(),
              targets: z.array(z.unknown()).default([]),
              extensions,
            }),
          )
          .min(1),
      }),
    )
    .default([]),
  materials: z.array(z.looseObject({ name: z.string().optional() })).default([]),
  accessors: z
    .array(
      z.looseObject({
        bufferView: index.optional(),
        byteOffset: index.optional(),
        componentType: z.number(),
        count: index.min(1),
        type: z.string(),
        normalized: z.boolean().default(false),
        sparse: z.unknown().optional(),
      }),
    )
    .default([]),
  bufferViews: z
    .array(
      z.looseObject({
        buffer: index,
        byteOffset: index.optional(),
        byteLength: index.min(1),
        byteStride: index.optional(),
        extensions,
      }),
    )
    .default([]),
  buffers: z.array(z.looseObject({ byteLength: index.min(1), uri: z.string().optional() })).default([]),
  images: z.array(z.unknown()).default([]),
  extensions,
  extensionsRequired: z.array(z.string()).default([]),
  skins: z.array(z.looseObject({ joints: z.array(index).min(1), inverseBindMatrices: index.optional() })).default([]),
  animations: z
    .array(
      z.looseObject({
        name: z.string().optional(),
        channels: z
          .array(z.looseObject({ sampler: index, target: z.looseObject({ node: index.optional(), path: z.string() }) }))
          .min(1),
        samplers: z.array(z.looseObject({ input: index, output: index, interpolation: z.string().optional() })).min(1),
      }),
    )
    .default([]),
})
export type LoadedGltf = z.infer<typeof gltfSchema>
export type GltfPrimitive = LoadedGltf['meshes'][number]['primitives'][number]
