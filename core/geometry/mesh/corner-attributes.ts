/** One thing that corners carry besides their place. */
export interface CornerAttribute {
  /** `size` floats a corner. */
  array: Float32Array
  size: number
  /** How much one unit of it counts in an error, against one whole size of the mesh. */
  weight: number
  /** Direction: brought back to unit length after it was moved. Shares: brought back to a sum of one. */
  keep: 'as it is' | 'unit length' | 'sum of one'
}

/** By name, such as NORMAL, TEXCOORD_0, COLOR_0, WEIGHTS_0. */
export type CornerAttributes = ReadonlyMap<string, CornerAttribute>

/** The library takes no more floats a corner. */
const MOST_FLOATS = 32

/** Attributes of all corners side by side, as the library wants them. */
export interface JoinedAttributes {
  array: Float32Array
  stride: number
  weights: number[]
  /** The attributes again, from changed values. */
  split: (array: Float32Array) => CornerAttributes
}

/**
 * Puts attributes side by side; those beyond what the library takes stay as they were.
 * @example const { array, stride, split } = joinAttributes(attributes, positions.length / 3)
 */
export function joinAttributes(attributes: CornerAttributes, cornerCount: number): JoinedAttributes {
  const taken: { name: string; offset: number; attribute: CornerAttribute }[] = []
  let stride = 0
  for (const [name, attribute] of attributes) {
    if (stride + attribute.size > MOST_FLOATS) continue
    taken.push({ name, offset: stride, attribute })
    stride += attribute.size
  }
  const array = new Float32Array(cornerCount * stride)
  for (const { offset, attribute } of taken) {
    for (let corner = 0; corner < cornerCount; corner++)
      for (let each = 0; each < attribute.size; each++)
        array[corner * stride + offset + each] = attribute.array[corner * attribute.size + each]
  }
  return {
    array,
    stride,
    weights: taken.flatMap(({ attribute }) => new Array<number>(attribute.size).fill(attribute.weight)),
    split: (changed) =>
      new Map(
        [...attributes].map(([name, attribute]) => [
          name,
          {
            ...attribute,
            array: splitOne(changed, stride, taken.find((each) => each.name === name)?.offset, attribute, cornerCount),
          },
        ]),
      ),
  }
}

function splitOne(
  changed: Float32Array,
  stride: number,
  offset: number | undefined,
  { array, size, keep }: CornerAttribute,
  cornerCount: number,
): Float32Array {
  if (offset === undefined) return array
  const out = new Float32Array(cornerCount * size)
  for (let corner = 0; corner < cornerCount; corner++) {
    let length = 0
    for (let each = 0; each < size; each++) {
      const value = changed[corner * stride + offset + each]
      out[corner * size + each] = keep === 'sum of one' ? Math.max(0, value) : value
      length += keep === 'unit length' ? value * value : out[corner * size + each]
    }
    if (keep === 'as it is') continue
    const divisor = keep === 'unit length' ? Math.sqrt(length) : length
    for (let each = 0; each < size; each++)
      out[corner * size + each] = divisor > 1e-12 ? out[corner * size + each] / divisor : array[corner * size + each]
  }
  return out
}
