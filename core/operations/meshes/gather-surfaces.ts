import type { Accessor, Document, Material, Mesh, Primitive } from '@gltf-transform/core'
import { listLooks, materialInLook } from '../../item/looks.ts'
import { POLYGON_ATTRIBUTE, POLYGON_NUMBERS } from '../../item/polygons.ts'
import { accessorToFloats, primitiveIndices, writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'

/**
 * Makes one surface of those of a mesh that show one material in every look and carry the same values at their corners:
 * a game draws each surface by itself. Surfaces with shapes to blend between are left.
 *
 * @example for (const mesh of document.getRoot().listMeshes()) gatherSurfaces(document, mesh)
 */
export function gatherSurfaces(document: Document, mesh: Mesh): void {
  const groups = new Map<string, Primitive[]>()
  const numbers = new Map<Material | null, number>()
  const numberOf = (material: Material | null): number => {
    const number = numbers.get(material) ?? numbers.size
    numbers.set(material, number)
    return number
  }
  const looks = listLooks(document)
  for (const primitive of mesh.listPrimitives()) {
    if (primitive.listTargets().length > 0) continue
    const shown = looks.map((look) => numberOf(materialInLook(primitive, look)))
    const key = [...shown, primitive.getMode(), ...primitive.listSemantics().sort()].join(' ')
    const alike = groups.get(key)
    if (alike) alike.push(primitive)
    else groups.set(key, [primitive])
  }
  for (const [first, ...others] of groups.values()) {
    if (others.length === 0) continue
    appendAll(document, first, others)
    for (const other of others) mesh.removePrimitive(other)
  }
}

function appendAll(document: Document, first: Primitive, others: readonly Primitive[]): void {
  const all = [first, ...others]
  const counts = all.map((primitive) => primitive.getAttribute('POSITION')?.getCount() ?? 0)
  const parts = all.map((primitive) => primitiveIndices(primitive))
  const indices = new Uint32Array(parts.reduce((sum, { length }) => sum + length, 0))
  let corner = 0
  let at = 0
  for (const [number, own] of parts.entries()) {
    for (const index of own) indices[at++] = index + corner
    corner += counts[number]
  }
  for (const semantic of first.listSemantics()) {
    const accessors = all.map((primitive) => primitive.getAttribute(semantic)).filter((accessor) => accessor !== null)
    if (semantic.startsWith('JOINTS')) {
      const bones = Uint16Array.from(concatenated(accessors, (accessor) => accessor.getArray() ?? []))
      first.setAttribute(semantic, accessors[0].clone().setArray(bones))
      continue
    }
    const size = accessors[0].getElementSize() as 1 | 2 | 3 | 4
    const values = concatenated(accessors, accessorToFloats)
    if (semantic === POLYGON_ATTRIBUTE) numberThrough(values, counts)
    writeAttribute(document, first, semantic, values, size)
  }
  writeIndices(document, first, indices, corner)
}

function concatenated(
  accessors: readonly Accessor[],
  numbersOf: (accessor: Accessor) => ArrayLike<number>,
): Float32Array<ArrayBuffer> {
  const all = accessors.map(numbersOf)
  const together = new Float32Array(all.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const numbers of all) {
    together.set(numbers, at)
    at += numbers.length
  }
  return together
}

/** Counts the polygons of several surfaces through, each of which began at 0. @param counts corners of each surface */
function numberThrough(values: Float32Array, counts: readonly number[]): void {
  let at = 0
  let before = 0
  for (const count of counts) {
    let most = -1
    for (const end = at + count * POLYGON_NUMBERS; at < end; at += POLYGON_NUMBERS) {
      most = Math.max(most, values[at])
      values[at] += before
    }
    before += most + 1
  }
}
