import type { Document, Mesh, Primitive } from '@gltf-transform/core'
import {
  accessorToFloats,
  gatherCorners,
  primitiveIndices,
  writeAttribute,
  writeIndices,
} from '../../item/primitive-arrays.ts'
import type { CornerAttribute, CornerAttributes } from '../../geometry/mesh/corner-attributes.ts'
import { groupPositions } from '../../geometry/mesh/position-groups.ts'
import { compactCorners } from '../../geometry/mesh/reduce.ts'

/**
 * All surfaces of a mesh in one set of arrays, so that what is done to them keeps the borders between materials closed.
 */
export interface MeshArrays {
  positions: Float32Array
  indices: Uint32Array
  attributes: CornerAttributes
  /** 1 where surfaces of the mesh meet: those corners stay together. */
  protectedCorners: Uint8Array
  /** First corner of each primitive, and one past the last. */
  firstCorner: number[]
}

/** Weights after trials on curved and hard-edged meshes: UVs count as much as place, normals half. */
const errorWeights: Record<string, number> = { NORMAL: 0.5, TEXCOORD_0: 1, COLOR_0: 0.5, WEIGHTS_0: 1 }

/**
 * Reads a mesh with all its surfaces. Attributes that not every surface has are zero where they lack.
 *
 * @example const { positions, indices } = readMesh(part.mesh)
 */
export function readMesh(mesh: Mesh): MeshArrays {
  const primitives = mesh.listPrimitives()
  const firstCorner = [0]
  for (const primitive of primitives)
    firstCorner.push((firstCorner.at(-1) ?? 0) + (primitive.getAttribute('POSITION')?.getCount() ?? 0))
  const cornerCount = firstCorner.at(-1) ?? 0
  const indexLists = primitives.map(primitiveIndices)
  const indices = new Uint32Array(indexLists.reduce((sum, list) => sum + list.length, 0))
  let at = 0
  indexLists.forEach((list, number) => {
    for (const corner of list) indices[at++] = corner + firstCorner[number]
  })
  const gathered = (semantic: string, size: number): Float32Array => {
    const array = new Float32Array(cornerCount * size)
    primitives.forEach((primitive, number) => {
      const accessor = primitive.getAttribute(semantic)
      if (!accessor) return
      const floats = accessorToFloats(accessor)
      const own = accessor.getElementSize()
      if (own === size) array.set(floats, firstCorner[number] * size)
      else
        for (let corner = 0; corner < accessor.getCount(); corner++)
          for (let each = 0; each < size; each++)
            array[(firstCorner[number] + corner) * size + each] = each < own ? floats[corner * own + each] : 1
    })
    return array
  }
  const attributes = new Map<string, CornerAttribute>()
  for (const [semantic, size] of [
    ['NORMAL', 3],
    ['TEXCOORD_0', 2],
    ['COLOR_0', 4],
  ] as const) {
    if (primitives.some((primitive) => primitive.getAttribute(semantic)))
      attributes.set(semantic, {
        array: gathered(semantic, size),
        size,
        weight: errorWeights[semantic],
        keep: semantic === 'NORMAL' ? 'unit length' : 'as it is',
      })
  }
  const bones = denseWeights(primitives, firstCorner, cornerCount)
  if (bones) attributes.set('WEIGHTS_0', bones)
  const positions = gathered('POSITION', 3)
  return {
    positions,
    indices,
    attributes,
    firstCorner,
    protectedCorners: cornersWhereSurfacesMeet(positions, firstCorner),
  }
}

function cornersWhereSurfacesMeet(positions: Float32Array, firstCorner: readonly number[]): Uint8Array {
  const marked = new Uint8Array(positions.length / 3)
  if (firstCorner.length <= 2) return marked
  const { groupOfCorner, cornerOfGroup } = groupPositions(positions)
  const surfaceOfGroup = new Int32Array(cornerOfGroup.length).fill(-1)
  const shared = new Uint8Array(cornerOfGroup.length)
  for (let surface = 0; surface + 1 < firstCorner.length; surface++) {
    for (let corner = firstCorner[surface]; corner < firstCorner[surface + 1]; corner++) {
      const group = groupOfCorner[corner]
      if (surfaceOfGroup[group] >= 0 && surfaceOfGroup[group] !== surface) shared[group] = 1
      surfaceOfGroup[group] = surface
    }
  }
  return marked.map((_, corner) => shared[groupOfCorner[corner]])
}

/** Room beside normal, UV and colour. */
const MOST_BONES = 23

/** Bone weights with one float a bone, so that a collapse between differently bound corners costs something. */
function denseWeights(
  primitives: readonly Primitive[],
  firstCorner: readonly number[],
  cornerCount: number,
): CornerAttribute | null {
  const totals = new Map<number, number>()
  const each = (visit: (corner: number, bone: number, weight: number) => void): void => {
    primitives.forEach((primitive, number) => {
      const joints = primitive.getAttribute('JOINTS_0')
      const weights = primitive.getAttribute('WEIGHTS_0')
      if (!joints || !weights) return
      const floats = accessorToFloats(weights)
      const array = joints.getArray() ?? []
      for (let at = 0; at < floats.length; at++)
        if (floats[at] > 0) visit(firstCorner[number] + Math.floor(at / 4), array[at], floats[at])
    })
  }
  each((_, bone, weight) => totals.set(bone, (totals.get(bone) ?? 0) + weight))
  if (totals.size === 0) return null
  const size = Math.min(MOST_BONES, totals.size)
  // Beyond the room there is, those that hold least share the last number: what tells well apart stays told apart.
  const bones = [...totals.keys()]
  if (bones.length > size) bones.sort((a, b) => (totals.get(b) ?? 0) - (totals.get(a) ?? 0))
  const numberOf = new Map(bones.map((bone, number) => [bone, Math.min(number, size - 1)]))
  const array = new Float32Array(cornerCount * size)
  each((corner, bone, weight) => {
    array[corner * size + (numberOf.get(bone) ?? size - 1)] += weight
  })
  return { array, size, weight: errorWeights['WEIGHTS_0'], keep: 'sum of one' }
}

/** What was changed of a mesh: indices into the old corners, and their new places and attributes. */
export interface ChangedMesh {
  positions: Float32Array
  indices: Uint32Array
  attributes: CornerAttributes
}

/**
 * Puts changed arrays back into the surfaces they came from. Where surfaces meet their corners are protected, so every
 * triangle has all its corners from one surface. Bone weights, tangents and what else corners carry are those of the
 * corners that stayed.
 *
 * @example writeMesh(document, mesh, readMesh(mesh), changed)
 */
export function writeMesh(document: Document, mesh: Mesh, from: MeshArrays, changed: ChangedMesh): void {
  const lists = trianglesBySurface(from, changed.indices)
  mesh.listPrimitives().forEach((primitive, number) => {
    const first = from.firstCorner[number]
    const own = from.firstCorner[number + 1] - first
    if (lists[number].length === 0) {
      mesh.removePrimitive(primitive)
      return
    }
    const compact = compactCorners(Uint32Array.from(lists[number]), own)
    gatherCorners(document, primitive, compact.oldCorner)
    const gather = (array: Float32Array, size: number): Float32Array => {
      const out = new Float32Array(compact.oldCorner.length * size)
      compact.oldCorner.forEach((corner, at) =>
        out.set(array.subarray((first + corner) * size, (first + corner + 1) * size), at * size),
      )
      return out
    }
    writeAttribute(document, primitive, 'POSITION', gather(changed.positions, 3), 3)
    for (const semantic of ['NORMAL', 'TEXCOORD_0'] as const) {
      const attribute = changed.attributes.get(semantic)
      if (attribute && primitive.getAttribute(semantic))
        writeAttribute(document, primitive, semantic, gather(attribute.array, attribute.size), attribute.size as 2 | 3)
    }
    const colours = changed.attributes.get('COLOR_0')
    if (colours && primitive.getAttribute('COLOR_0'))
      writeAttribute(
        document,
        primitive,
        'COLOR_0',
        gather(colours.array, 4).map((value) => Math.min(1, Math.max(0, value))),
        4,
      )
    writeIndices(document, primitive, compact.indices, compact.oldCorner.length)
  })
}

function trianglesBySurface({ firstCorner }: MeshArrays, indices: Uint32Array): number[][] {
  const surfaces = firstCorner.length - 1
  const lists: number[][] = Array.from({ length: surfaces }, () => [])
  const surfaceOf = (corner: number): number => {
    let low = 0
    let high = surfaces - 1
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (firstCorner[middle] <= corner) low = middle
      else high = middle - 1
    }
    return low
  }
  for (let index = 0; index < indices.length; index += 3) {
    const own = [surfaceOf(indices[index]), surfaceOf(indices[index + 1]), surfaceOf(indices[index + 2])]
    if (own[0] !== own[1] || own[1] !== own[2]) continue
    for (let corner = 0; corner < 3; corner++) lists[own[0]].push(indices[index + corner] - firstCorner[own[0]])
  }
  return lists
}
