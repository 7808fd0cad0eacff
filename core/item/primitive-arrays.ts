import type { Accessor, Document, Primitive } from '@gltf-transform/core'

/** A primitive as plain arrays. `positions` has 3 floats a corner, `indices` 3 a triangle. */
export interface PrimitiveArrays {
  positions: Float32Array
  indices: Uint32Array
  normals: Float32Array | null
  uvs: Float32Array | null
}

/**
 * An accessor's values as 32-bit floats, normalised integers resolved.
 *
 * @example const weights = accessorToFloats(accessor) // normalised bytes become 0 to 1
 */
export function accessorToFloats(accessor: Accessor): Float32Array {
  const array = accessor.getArray()
  if (array instanceof Float32Array) return array
  const size = accessor.getElementSize()
  const floats = new Float32Array(accessor.getCount() * size)
  const element: number[] = []
  for (let index = 0; index < accessor.getCount(); index++) {
    accessor.getElement(index, element)
    for (let axis = 0; axis < size; axis++) floats[index * size + axis] = element[axis]
  }
  return floats
}

/**
 * Triangle corner indices of a primitive; strips and fans are unrolled, a missing index is made.
 *
 * @example const triangles = primitiveIndices(primitive).length / 3
 */
export function primitiveIndices(primitive: Primitive): Uint32Array {
  const array = primitive.getIndices()?.getArray()
  const cornerCount = primitive.getAttribute('POSITION')?.getCount() ?? 0
  const corners = array ? Uint32Array.from(array) : Uint32Array.from({ length: cornerCount }, (_, index) => index)
  const mode = primitive.getMode()
  if (mode === 4) return corners
  if (mode !== 5 && mode !== 6) return new Uint32Array(0)
  const triangles = new Uint32Array(Math.max(0, corners.length - 2) * 3)
  for (let index = 0; index + 2 < corners.length; index++) {
    const swap = mode === 5 && index % 2 === 1
    triangles[index * 3] = mode === 6 ? corners[0] : corners[swap ? index + 1 : index]
    triangles[index * 3 + 1] = mode === 6 ? corners[index + 1] : corners[swap ? index : index + 1]
    triangles[index * 3 + 2] = corners[index + 2]
  }
  return triangles
}

/**
 * Reads what geometry works on. The arrays may be the document's own: never write into them.
 *
 * @example const { positions, indices, normals, uvs } = readPrimitive(primitive)
 */
export function readPrimitive(primitive: Primitive): PrimitiveArrays {
  const position = primitive.getAttribute('POSITION')
  const normal = primitive.getAttribute('NORMAL')
  const uv = primitive.getAttribute('TEXCOORD_0')
  return {
    positions: position ? accessorToFloats(position) : new Float32Array(0),
    indices: primitiveIndices(primitive),
    normals: normal ? accessorToFloats(normal) : null,
    uvs: uv ? accessorToFloats(uv) : null,
  }
}

const typeOfSize = { 1: 'SCALAR', 2: 'VEC2', 3: 'VEC3', 4: 'VEC4' } as const

/**
 * Puts a new array under an attribute, in an accessor of its own (the old one may be shared).
 *
 * @example writeAttribute(document, primitive, 'POSITION', Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]), 3)
 */
export function writeAttribute(
  document: Document,
  primitive: Primitive,
  semantic: string,
  array: Float32Array,
  size: 1 | 2 | 3 | 4,
): void {
  const accessor = document
    .createAccessor(semantic)
    .setArray(array as Float32Array<ArrayBuffer>)
    .setType(typeOfSize[size])
    .setBuffer(document.getRoot().listBuffers()[0] ?? document.createBuffer())
  primitive.setAttribute(semantic, accessor)
}

/**
 * Puts a new triangle index, in 16 bits where they suffice.
 *
 * @example writeIndices(document, primitive, Uint32Array.from([0, 1, 2]), 3)
 */
export function writeIndices(
  document: Document,
  primitive: Primitive,
  indices: Uint32Array,
  cornerCount: number,
): void {
  const array = cornerCount <= 65535 ? Uint16Array.from(indices) : indices
  const accessor = document
    .createAccessor('indices')
    .setArray(array as Uint32Array<ArrayBuffer>)
    .setType('SCALAR')
    .setBuffer(document.getRoot().listBuffers()[0] ?? document.createBuffer())
  primitive.setIndices(accessor).setMode(4)
}

/**
 * Every attribute of a primitive, morph targets too, rebuilt from a list of old corners, one for each new corner.
 * Component types are kept, so that joints stay integers.
 *
 * @example gatherCorners(document, primitive, kept) // corner n is what corner kept[n] was
 */
export function gatherCorners(document: Document, primitive: Primitive, oldCorners: Uint32Array): void {
  for (const holder of [primitive, ...primitive.listTargets()]) {
    for (const semantic of holder.listSemantics()) {
      const accessor = holder.getAttribute(semantic)
      if (accessor?.getArray()) holder.setAttribute(semantic, gatherAccessor(document, accessor, oldCorners))
    }
  }
}

function gatherAccessor(document: Document, accessor: Accessor, oldCorners: Uint32Array): Accessor {
  const from = accessor.getArray() ?? new Float32Array(0)
  const size = accessor.getElementSize()
  const to = new (from.constructor as new (length: number) => typeof from)(oldCorners.length * size)
  for (let corner = 0; corner < oldCorners.length; corner++) {
    const offset = oldCorners[corner] * size
    for (let axis = 0; axis < size; axis++) to[corner * size + axis] = from[offset + axis]
  }
  return document
    .createAccessor(accessor.getName())
    .setArray(to)
    .setType(accessor.getType())
    .setNormalized(accessor.getNormalized())
    .setBuffer(accessor.getBuffer() ?? document.getRoot().listBuffers()[0] ?? null)
}

/**
 * Removes the accessors that nothing uses any more, so that kept states stay small.
 *
 * @example mesh.removePrimitive(primitive); dropUnusedAccessors(document)
 */
export function dropUnusedAccessors(document: Document): void {
  for (const accessor of document.getRoot().listAccessors()) {
    const used = accessor
      .listParents()
      .some((parent) => parent.propertyType !== 'Root' && parent.propertyType !== 'Buffer')
    if (!used) accessor.dispose()
  }
}

/**
 * The same triangles, seen from the other side.
 *
 * @example primitive.getIndices()?.setArray(reversedWinding(primitiveIndices(primitive)))
 */
export function reversedWinding(indices: Uint32Array): Uint32Array {
  return indices.map((_, index) => indices[index - (index % 3) + [0, 2, 1][index % 3]])
}
