/** A value of an FBX node: number, text, truth, raw bytes or a list of numbers. */
export type FbxValue =
  number | bigint | string | boolean | Uint8Array | Float64Array | Float32Array | Int32Array | BigInt64Array

/** A node of the tree that binary and text files share. */
export interface FbxNode {
  name: string
  values: FbxValue[]
  children: FbxNode[]
}

export interface FbxFile {
  version: number
  root: FbxNode
}

/**
 * The first child of that name; undefined where there is none.
 * @example const points = numbersOf(childOf(geometry, 'Vertices'))
 */
export const childOf = (node: FbxNode | undefined, name: string): FbxNode | undefined =>
  node?.children.find((child) => child.name === name)
/**
 * Every child of that name, in order.
 * @example for (const layer of childrenOf(geometry, 'LayerElementUV')) readUvs(layer)
 */
export const childrenOf = (node: FbxNode | undefined, name: string): FbxNode[] =>
  node?.children.filter((child) => child.name === name) ?? []

/**
 * A property as text; empty for any other.
 * @example const mapping = textOf(childOf(layer, 'MappingInformationType'))
 */
export function textOf(node: FbxNode | undefined, index = 0): string {
  const value = node?.values[index]
  return typeof value === 'string' ? value : ''
}

/**
 * Every number of a node's values: one list, or many single numbers as old text files write them.
 * @example const points = Float32Array.from(numbersOf(childOf(geometry, 'Vertices')))
 */
export function numbersOf(node: FbxNode | undefined): ArrayLike<number> {
  const first = node?.values[0]
  if (first instanceof Float64Array || first instanceof Float32Array || first instanceof Int32Array) return first
  if (first instanceof BigInt64Array) return Float64Array.from(first, Number)
  if (!node) return []
  return node.values.filter((value) => typeof value === 'number' || typeof value === 'bigint').map(Number)
}

/**
 * Name of an object without its class: “Cube” of “Model::Cube” and of the binary form with the class behind.
 * @example objectName('Model::Cube') // 'Cube'
 */
export function objectName(value: FbxValue | undefined): string {
  if (typeof value !== 'string') return ''
  return value.split('\u0000\u0001')[0].replace(/^[A-Za-z]+::/, '')
}

/**
 * Identifiers are whole numbers of 64 bits; as text they can be keys.
 * @example idOf(12n) // '12'
 */
export const idOf = (value: FbxValue | undefined): string =>
  typeof value === 'bigint' || typeof value === 'number' ? String(value) : ''

/** Values of a `Properties70` block by name. */
export class FbxProperties {
  private readonly byName = new Map<string, FbxValue[]>()

  constructor(holder: FbxNode | undefined) {
    for (const property of childrenOf(childOf(holder, 'Properties70'), 'P'))
      this.byName.set(textOf(property), property.values.slice(4))
  }

  number(name: string): number | null {
    const value = this.byName.get(name)?.[0]
    return typeof value === 'number' || typeof value === 'bigint' ? Number(value) : null
  }

  vector(name: string): [number, number, number] | null {
    const values = this.byName.get(name)
    if (!values || values.length < 3) return null
    const vector = values.slice(0, 3).map(Number)
    return vector.every(Number.isFinite) ? (vector as [number, number, number]) : null
  }

  text(name: string): string | null {
    const value = this.byName.get(name)?.[0]
    return typeof value === 'string' ? value : null
  }
}
