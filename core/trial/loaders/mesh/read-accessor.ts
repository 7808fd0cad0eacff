import type { LoadedGltf } from './gltf-schema.ts'

type Reader = (view: DataView, offset: number) => number
const readers: Record<number, [width: number, read: Reader, greatest: number]> = {
  5121: [1, (view, offset) => view.getUint8(offset), 255],
  5123: [2, (view, offset) => view.getUint16(offset, true), 65535],
  5125: [4, (view, offset) => view.getUint32(offset, true), 0],
  5126: [4, (view, offset) => view.getFloat32(offset, true), 0],
}
const sizes: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT4: 16 }
export const FLOAT = 5126

/** How numbers may be kept: floats alone; floats or shares in whole numbers; whole numbers that count something. */
export type Keeping = 'floats' | 'shares' | 'whole'
const allowed: Record<Keeping, (componentType: number, normalized: boolean) => boolean> = {
  floats: (type, normalized) => type === FLOAT && !normalized,
  shares: (type, normalized) => (type === FLOAT) !== normalized && type !== 5125,
  whole: (type, normalized) => type !== FLOAT && !normalized,
}

/**
 * The numbers of an accessor, one after another; shares come as 0 to 1.
 * @param type `VEC3` and the like
 * @throws Error when they are not of that type, lie outside the buffer, across its steps, or are not numbers
 *
 * @example const places = readNumbers(gltf, binary, primitive.attributes['POSITION'], 'VEC3', 'floats')
 */
export function readNumbers(
  gltf: LoadedGltf,
  binary: Uint8Array,
  number: number,
  type: string,
  keeping: Keeping,
): Float32Array {
  const accessor = gltf.accessors[number]
  const bufferView = accessor?.bufferView === undefined ? undefined : gltf.bufferViews[accessor.bufferView]
  const reader = accessor ? readers[accessor.componentType] : undefined
  if (
    !accessor ||
    !bufferView ||
    !reader ||
    bufferView.buffer !== 0 ||
    accessor.sparse !== undefined ||
    bufferView.extensions !== undefined
  )
    throw new Error('an accessor that is not read')
  const [width, read, greatest] = reader
  const size = sizes[type]
  if (accessor.type !== type || !allowed[keeping](accessor.componentType, accessor.normalized))
    throw new Error('an accessor of another type')
  const stride = bufferView.byteStride ?? width * size
  const from = accessor.byteOffset ?? 0
  const start = (bufferView.byteOffset ?? 0) + from
  const end = from + (accessor.count - 1) * stride + width * size
  if (end > bufferView.byteLength || (bufferView.byteOffset ?? 0) + bufferView.byteLength > binary.length)
    throw new Error('an accessor past the end')
  if (start % width !== 0 || stride % width !== 0 || stride < width * size)
    throw new Error('an accessor across the grid')
  const view = new DataView(binary.buffer, binary.byteOffset, binary.byteLength)
  const numbers = new Float32Array(accessor.count * size)
  for (let element = 0; element < accessor.count; element++) {
    for (let axis = 0; axis < size; axis++)
      numbers[element * size + axis] = read(view, start + element * stride + axis * width)
  }
  if (numbers.some((value) => !Number.isFinite(value))) throw new Error('a value that is not a number')
  return accessor.normalized ? numbers.map((value) => value / greatest) : numbers
}
