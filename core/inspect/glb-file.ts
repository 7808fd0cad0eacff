import { assertBoundedGltf } from '../item/gltf-bounds.ts'
import { z } from 'zod'
import { ByteReader } from '../support/byte-reader.ts'

/**
 * The parts of a glTF that a game's mesh file is made of (glTF 2.0 specification, section 5). What is not named here is
 * not looked at.
 */
const whole = z.number().int().min(0)
const atLeastOne = z.number().int().min(1)
const extended = { extensions: z.record(z.string(), z.unknown()).default({}) }
const numbers = (count: number) => z.array(z.number()).length(count)

const primitiveSchema = z.object({
  attributes: z.record(z.string(), whole),
  indices: whole.optional(),
  material: whole.optional(),
  mode: whole.default(4),
  targets: z.array(z.unknown()).default([]),
  ...extended,
})
const nodeSchema = z.object({
  name: z.string().default(''),
  mesh: whole.optional(),
  skin: whole.optional(),
  children: z.array(whole).default([]),
  matrix: numbers(16).optional(),
  translation: numbers(3).optional(),
  rotation: numbers(4).optional(),
  scale: numbers(3).optional(),
  extras: z.record(z.string(), z.unknown()).default({}),
  ...extended,
})
const accessorSchema = z.object({
  bufferView: whole.optional(),
  byteOffset: whole.default(0),
  componentType: z.number(),
  count: atLeastOne,
  type: z.string(),
  normalized: z.boolean().default(false),
  sparse: z.unknown().optional(),
})
const animationSchema = z.object({
  name: z.string().optional(),
  channels: z
    .array(z.object({ sampler: whole, target: z.object({ node: whole.optional(), path: z.string() }) }))
    .min(1),
  samplers: z.array(z.object({ input: whole, output: whole, interpolation: z.string().default('LINEAR') })).min(1),
})
const glbSchema = z.object({
  asset: z.object({ version: z.string().regex(/^2\.\d+$/, 'another version of glTF') }),
  scene: whole.default(0),
  scenes: z.array(z.object({ nodes: z.array(whole).default([]) })).min(1),
  nodes: z.array(nodeSchema).default([]),
  meshes: z.array(z.object({ primitives: z.array(primitiveSchema).min(1) })).default([]),
  materials: z.array(z.object({ name: z.string().default('') })).default([]),
  accessors: z.array(accessorSchema).default([]),
  bufferViews: z
    .array(
      z.object({
        buffer: whole,
        byteOffset: whole.default(0),
        byteLength: atLeastOne,
        byteStride: whole.optional(),
        ...extended,
      }),
    )
    .default([]),
  buffers: z.array(z.object({ byteLength: atLeastOne, uri: z.string().optional() })).default([]),
  images: z.array(z.unknown()).default([]),
  extensionsRequired: z.array(z.string()).default([]),
  skins: z.array(z.object({ joints: z.array(whole).min(1), inverseBindMatrices: whole.optional() })).default([]),
  animations: z.array(animationSchema).default([]),
})
export type Gltf = z.infer<typeof glbSchema>
export type GltfPrimitive = z.infer<typeof primitiveSchema>
export type GltfNode = z.infer<typeof nodeSchema>

export interface GlbFile {
  gltf: Gltf
  buffer: Uint8Array
}

const GLB = 0x46546c67
const JSON_CHUNK = 0x4e4f534a
const BINARY_CHUNK = 0x4e4942

/**
 * Opens a binary glTF: what it says and its one buffer (glTF 2.0 specification, section 4.4).
 * @throws Error with the reason when it is not whole, longer than it says, or needs what a game's loader does not have
 *
 * @example const { gltf, buffer } = openGlbFile(bytes)
 */
export function openGlbFile(bytes: Uint8Array): GlbFile {
  const reader = new ByteReader(bytes, () => new Error('it is cut off'))
  if (bytes.length < 20 || reader.uint32() !== GLB || reader.uint32() !== 2) throw new Error('it is no binary glTF 2')
  const length = reader.uint32()
  if (length !== bytes.length) throw new Error(`its header says ${length} bytes; it has ${bytes.length}`)
  const text = readChunk(reader, JSON_CHUNK)
  if (text.length % 4 !== 0) throw new Error('its text does not end on a whole word')
  const parsed = glbSchema.safeParse(parseText(text))
  if (!parsed.success) throw new Error(`it is wrong at “${parsed.error.issues[0].path.join('.')}”`)
  const gltf = parsed.data
  assertBoundedGltf(gltf, 'the mesh')
  const chunk = reader.left === 0 ? new Uint8Array(0) : readChunk(reader, BINARY_CHUNK)
  if (gltf.extensionsRequired.length > 0)
    throw new Error(`it needs ${gltf.extensionsRequired.join(', ')}, which the game does not know`)
  const [buffer, ...others] = gltf.buffers
  if (others.length > 0 || buffer?.uri !== undefined) throw new Error('its numbers are in another file')
  if ((buffer?.byteLength ?? 0) > chunk.length) throw new Error('its buffer is cut off')
  return { gltf, buffer: chunk.subarray(0, buffer?.byteLength ?? 0) }
}

function readChunk(reader: ByteReader, kind: number): Uint8Array {
  const length = reader.uint32()
  if (reader.uint32() !== kind) throw new Error('a chunk of it is missing')
  return reader.take(length)
}

function parseText(text: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(text)) as unknown
  } catch {
    throw new Error('its text is no JSON')
  }
}
