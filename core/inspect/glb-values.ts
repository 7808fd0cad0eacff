import type { GlbFile, GltfPrimitive } from './glb-file.ts'

type Values = Float32Array | Uint8Array | Uint16Array | Uint32Array
const arrays: Record<number, new (length: number) => Values> = {
  5121: Uint8Array,
  5123: Uint16Array,
  5125: Uint32Array,
  5126: Float32Array,
}
const FLOAT = 5126
const LARGE_WHOLE = 5125

/** How the numbers of an attribute are kept (glTF 2.0 specification, section 3.7.2.1). */
interface Shape {
  type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4' | 'MAT4'
  size: number
  /** Floats alone; floats, or shares in whole numbers; whole numbers alone. */
  numbers: 'floats' | 'shares' | 'whole'
}
const shapeOf = (semantic: string): Shape | null => {
  if (semantic === 'POSITION' || semantic === 'NORMAL') return { type: 'VEC3', size: 3, numbers: 'floats' }
  if (semantic === 'TANGENT') return { type: 'VEC4', size: 4, numbers: 'floats' }
  if (semantic === 'TEXCOORD_0') return { type: 'VEC2', size: 2, numbers: 'shares' }
  if (/^JOINTS_\d+$/.test(semantic)) return { type: 'VEC4', size: 4, numbers: 'whole' }
  return /^WEIGHTS_\d+$/.test(semantic) ? { type: 'VEC4', size: 4, numbers: 'shares' } : null
}
export const indexShape: Shape = { type: 'SCALAR', size: 1, numbers: 'whole' }
export const bindShape: Shape = { type: 'MAT4', size: 16, numbers: 'floats' }
export const timeShape: Shape = { type: 'SCALAR', size: 1, numbers: 'floats' }
export const clipShapes: Record<string, Shape> = {
  translation: { type: 'VEC3', size: 3, numbers: 'floats' },
  scale: { type: 'VEC3', size: 3, numbers: 'floats' },
  rotation: { type: 'VEC4', size: 4, numbers: 'shares' },
}

/**
 * The numbers of an accessor in an array of their own; shares in whole numbers are made floats from 0 to 1.
 * @throws Error when it is of another shape, does not lie within the buffer, or holds what is no number
 *
 * @example const indices = readValues(file, primitive.indices, indexShape)
 */
export function readValues({ gltf, buffer }: GlbFile, number: number, shape: Shape): Values {
  const accessor = gltf.accessors[number]
  const view = accessor?.bufferView === undefined ? undefined : gltf.bufferViews[accessor.bufferView]
  const made = accessor ? arrays[accessor.componentType] : undefined
  if (
    !accessor ||
    !view ||
    !made ||
    view.buffer !== 0 ||
    accessor.sparse !== undefined ||
    Object.keys(view.extensions).length > 0
  )
    throw new Error(`accessor ${number} is not one the game reads`)
  const isFloat = accessor.componentType === FLOAT
  const isShare = !isFloat && accessor.normalized && accessor.componentType !== LARGE_WHOLE
  const fits =
    shape.numbers === 'whole'
      ? !isFloat && !accessor.normalized
      : (isFloat && !accessor.normalized) || (shape.numbers === 'shares' && isShare)
  if (accessor.type !== shape.type || !fits) throw new Error(`accessor ${number} is of another type`)
  const values = new made(accessor.count <= buffer.length ? accessor.count * shape.size : 0)
  const width = values.BYTES_PER_ELEMENT
  const step = view.byteStride ?? width * shape.size
  const first = view.byteOffset + accessor.byteOffset
  const reachesTo = accessor.byteOffset + (accessor.count - 1) * step + width * shape.size
  if (reachesTo > view.byteLength || view.byteOffset + view.byteLength > buffer.length)
    throw new Error(`accessor ${number} reaches past the end`)
  if (first % width !== 0 || step % width !== 0 || step < width * shape.size)
    throw new Error(`accessor ${number} does not lie on whole numbers`)
  const bytes = new Uint8Array(values.buffer)
  for (let element = 0; element < accessor.count; element++)
    bytes.set(
      buffer.subarray(first + element * step, first + element * step + width * shape.size),
      element * width * shape.size,
    )
  if (isFloat && values.some((value) => !Number.isFinite(value)))
    throw new Error(`accessor ${number} holds what is no number`)
  return isShare ? Float32Array.from(values, (value) => value / (width === 1 ? 255 : 65535)) : values
}

/** What is drawn of a primitive: indices, and arrays by attribute, one entry a corner. */
export interface ReadPrimitive {
  indices: Uint32Array
  attributes: Map<string, { values: Values; type: Shape['type'] }>
}

/**
 * @throws Error when it is no triangle mesh, or its attributes do not belong together
 * @example const { indices, attributes } = readTriangles(file, primitive)
 */
export function readTriangles(file: GlbFile, primitive: GltfPrimitive): ReadPrimitive {
  if (primitive.mode !== 4) throw new Error('it holds points, lines or strips; the game draws triangles only')
  const attributes: ReadPrimitive['attributes'] = new Map()
  for (const semantic of namesRead(primitive)) {
    const shape = shapeOf(semantic)
    if (shape)
      attributes.set(semantic, { values: readValues(file, primitive.attributes[semantic], shape), type: shape.type })
  }
  const corners = (attributes.get('POSITION')?.values.length ?? 0) / 3
  if (corners === 0) throw new Error('a mesh has no places')
  for (const [semantic, { values }] of attributes)
    if (values.length / (shapeOf(semantic)?.size ?? 1) !== corners)
      throw new Error(`${semantic} is not there for every corner`)
  const indices =
    primitive.indices === undefined
      ? Uint32Array.from({ length: corners }, (_, corner) => corner)
      : Uint32Array.from(readValues(file, primitive.indices, indexShape))
  if (indices.length % 3 !== 0 || indices.some((corner) => corner >= corners))
    throw new Error('a triangle has corners that are not there')
  if (primitive.material !== undefined && primitive.material >= file.gltf.materials.length)
    throw new Error('a material is not there')
  return { indices, attributes }
}

/** The attributes the game reads; bone numbers and weights in sets, from the first on. */
function namesRead({ attributes }: GltfPrimitive): string[] {
  const names = ['POSITION', 'NORMAL', 'TANGENT', 'TEXCOORD_0'].filter((semantic) => semantic in attributes)
  for (let set = 0; `JOINTS_${set}` in attributes || `WEIGHTS_${set}` in attributes; set++) {
    if (!(`JOINTS_${set}` in attributes && `WEIGHTS_${set}` in attributes))
      throw new Error('bones and weights do not come together')
    names.push(`JOINTS_${set}`, `WEIGHTS_${set}`)
  }
  return names
}
