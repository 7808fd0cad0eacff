import { z } from 'zod'

/**
 * A GLB reader of the loader's own (glTF 2.0, sections 3.6, 3.7 and 4.4), for what this game reads: still
 * triangle meshes in a tree of nodes. It trusts nothing: every index and range is checked.
 */
export interface LoadedPrimitive {
  positions: Float32Array
  indices: Uint32Array
  normals: Float32Array | null
  tangents: boolean
  uvs: Float32Array | null
  material: string | null
}

export interface LoadedNode {
  name: string
  /** Column-major, to the scene. */
  world: number[]
  translation: number[]
  rotation: number[]
  scale: number[]
  primitives: LoadedPrimitive[]
  parent: LoadedNode | null
  extras: Record<string, unknown>
  /** Names of the bones that hold its mesh. */
  bones: string[]
  /** Whether a clip moves it, or something above or below it. */
  moves: boolean
}

export interface LoadedGlb {
  nodes: LoadedNode[]
  images: number
}

const index = z.number().int().nonnegative()
const gltfSchema = z.looseObject({
  scene: index.optional(),
  scenes: z.array(z.looseObject({ nodes: z.array(index).optional() })).min(1),
  nodes: z.array(z.looseObject({
    name: z.string().optional(), mesh: index.optional(), skin: index.optional(), children: z.array(index).optional(), matrix: z.array(z.number()).length(16).optional(),
    translation: z.array(z.number()).length(3).optional(), rotation: z.array(z.number()).length(4).optional(), scale: z.array(z.number()).length(3).optional(),
    extras: z.record(z.string(), z.unknown()).optional(),
  })).default([]),
  meshes: z.array(z.looseObject({ primitives: z.array(z.looseObject({ attributes: z.record(z.string(), index), indices: index.optional(), material: index.optional(), mode: index.optional() })) })).default([]),
  materials: z.array(z.looseObject({ name: z.string().optional() })).default([]),
  accessors: z.array(z.looseObject({ bufferView: index.optional(), byteOffset: index.optional(), componentType: z.number(), count: index, type: z.string() })).default([]),
  bufferViews: z.array(z.looseObject({ buffer: index, byteOffset: index.optional(), byteLength: index, byteStride: index.optional() })).default([]),
  images: z.array(z.unknown()).default([]),
  extensionsRequired: z.array(z.string()).default([]),
  skins: z.array(z.looseObject({ joints: z.array(index) })).default([]),
  animations: z.array(z.looseObject({ channels: z.array(z.looseObject({ target: z.looseObject({ node: index.optional() }) })) })).default([]),
})
type Gltf = z.infer<typeof gltfSchema>

/** @throws Error with a short reason when the bytes are not a GLB that can be read */
export function readGlb(bytes: Uint8Array): LoadedGlb {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < 20 || view.getUint32(0, true) !== 0x46546c67 || view.getUint32(4, true) !== 2) throw new Error('not a binary glTF 2')
  if (view.getUint32(8, true) > bytes.length) throw new Error('cut off')
  if (view.getUint32(8, true) < bytes.length) throw new Error(`${bytes.length - view.getUint32(8, true)} bytes more than its header says`)
  const jsonLength = view.getUint32(12, true)
  if (20 + jsonLength > bytes.length) throw new Error('cut off')
  const gltf = gltfSchema.parse(JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + jsonLength))))
  const [needed] = gltf.extensionsRequired
  if (needed !== undefined) throw new Error(`it needs ${needed.slice(0, 60)}, which the game does not know`)
  const binaryStart = 20 + jsonLength + 8
  const binary = binaryStart <= bytes.length ? bytes.subarray(binaryStart, Math.min(bytes.length, binaryStart + view.getUint32(20 + jsonLength, true))) : new Uint8Array(0)
  return { nodes: readNodes(gltf, binary), images: gltf.images.length }
}

function readNodes(gltf: Gltf, binary: Uint8Array): LoadedNode[] {
  const loaded: LoadedNode[] = []
  const visited = new Set<number>()
  const animated = new Set(gltf.animations.flatMap((animation) => animation.channels.map((channel) => channel.target.node)))
  const visit = (number: number, parent: LoadedNode | null): boolean => {
    const node = gltf.nodes[number]
    if (!node || visited.has(number)) throw new Error('node tree is broken')
    visited.add(number)
    const translation = node.translation ?? [0, 0, 0]
    const rotation = node.rotation ?? [0, 0, 0, 1]
    const scale = node.scale ?? [1, 1, 1]
    if ([...translation, ...rotation, ...scale, ...(node.matrix ?? [])].some((value) => !Number.isFinite(value))) throw new Error('a place that is not a number')
    const local = node.matrix ?? compose(translation, rotation, scale)
    const mesh = node.mesh === undefined ? undefined : gltf.meshes[node.mesh]
    const made: LoadedNode = {
      name: node.name ?? '', world: parent ? multiply(parent.world, local) : local, translation, rotation, scale, parent, extras: node.extras ?? {},
      primitives: mesh ? mesh.primitives.map((primitive) => readPrimitive(gltf, binary, primitive)) : [],
      bones: (node.skin === undefined ? [] : (gltf.skins[node.skin]?.joints ?? [])).map((joint) => gltf.nodes[joint]?.name ?? ''),
      moves: animated.has(number) || parent?.moves === true,
    }
    loaded.push(made)
    let below = false
    for (const child of node.children ?? []) below = visit(child, made) || below
    made.moves ||= below
    return made.moves && (animated.has(number) || below)
  }
  const scene = gltf.scenes[gltf.scene ?? 0]
  for (const number of scene?.nodes ?? []) visit(number, null)
  return loaded
}

function readPrimitive(gltf: Gltf, binary: Uint8Array, primitive: Gltf['meshes'][number]['primitives'][number]): LoadedPrimitive {
  if ((primitive.mode ?? 4) !== 4) throw new Error('only triangles are drawn')
  const floats = (semantic: string, size: number): Float32Array | null => {
    const accessor = primitive.attributes[semantic]
    return accessor === undefined ? null : readNumbers(gltf, binary, accessor, size)
  }
  const positions = floats('POSITION', 3)
  if (!positions) throw new Error('a mesh without positions')
  const corners = positions.length / 3
  const indices = primitive.indices === undefined ? Uint32Array.from({ length: corners }, (_, corner) => corner) : Uint32Array.from(readNumbers(gltf, binary, primitive.indices, 1))
  if (indices.some((corner) => corner >= corners)) throw new Error('a corner number out of range')
  if (positions.some((value) => !Number.isFinite(value))) throw new Error('a position that is not a number')
  const uvs = floats('TEXCOORD_0', 2)
  if (uvs?.some((value) => !Number.isFinite(value))) throw new Error('a UV that is not a number')
  const weights = floats('WEIGHTS_0', 4)
  if (weights?.some((value) => !Number.isFinite(value))) throw new Error('a weight that is not a number')
  const material = primitive.material === undefined ? undefined : gltf.materials[primitive.material]
  return { positions, indices, normals: floats('NORMAL', 3), tangents: primitive.attributes['TANGENT'] !== undefined, uvs, material: material?.name ?? null }
}

const readers: Record<number, [number, (view: DataView, offset: number) => number]> = {
  5121: [1, (view, offset) => view.getUint8(offset)],
  5123: [2, (view, offset) => view.getUint16(offset, true)],
  5125: [4, (view, offset) => view.getUint32(offset, true)],
  5126: [4, (view, offset) => view.getFloat32(offset, true)],
}

function readNumbers(gltf: Gltf, binary: Uint8Array, number: number, size: number): Float32Array {
  const accessor = gltf.accessors[number]
  const bufferView = accessor?.bufferView === undefined ? undefined : gltf.bufferViews[accessor.bufferView]
  const reader = accessor ? readers[accessor.componentType] : undefined
  if (!accessor || !bufferView || !reader) throw new Error('an accessor that is not read')
  const [width, read] = reader
  const stride = bufferView.byteStride ?? width * size
  const start = (bufferView.byteOffset ?? 0) + (accessor.byteOffset ?? 0)
  if (accessor.count > 0 && start + (accessor.count - 1) * stride + width * size > binary.length) throw new Error('an accessor past the end')
  const view = new DataView(binary.buffer, binary.byteOffset, binary.byteLength)
  const numbers = new Float32Array(accessor.count * size)
  for (let element = 0; element < accessor.count; element++) {
    for (let axis = 0; axis < size; axis++) numbers[element * size + axis] = read(view, start + element * stride + axis * width)
  }
  return numbers
}

function compose(t: readonly number[], q: readonly number[], s: readonly number[]): number[] {
  const [x, y, z, w] = q
  return [
    (1 - 2 * (y * y + z * z)) * s[0], 2 * (x * y + z * w) * s[0], 2 * (x * z - y * w) * s[0], 0,
    2 * (x * y - z * w) * s[1], (1 - 2 * (x * x + z * z)) * s[1], 2 * (y * z + x * w) * s[1], 0,
    2 * (x * z + y * w) * s[2], 2 * (y * z - x * w) * s[2], (1 - 2 * (x * x + y * y)) * s[2], 0,
    t[0], t[1], t[2], 1,
  ]
}

function multiply(a: readonly number[], b: readonly number[]): number[] {
  return Array.from({ length: 16 }, (_, at) => {
    const row = at % 4
    const column = at - row
    return a[row] * b[column] + a[row + 4] * b[column + 1] + a[row + 8] * b[column + 2] + a[row + 12] * b[column + 3]
  })
}
