import { inMillions, limits } from '../../support/limits.ts'
import { PlainError } from '../../support/plain-error.ts'
import { growingIndices } from '../growing-array.ts'
import { allOf, firstOf, numbersOf, type XmlElement } from '../../support/xml.ts'

/** Corners of polygons, each with one index for every offset. */
export interface IndexedPolygons {
  sizes: Uint32Array
  /** `stride` indices a corner. */
  indices: Uint32Array
  stride: number
}

/**
 * Polygons of a primitive element of any of the six kinds (COLLADA 1.4.1, chapter 5); null for lines.
 * @throws PlainError when a list of indices is not whole
 *
 * @example const polygons = readPolygons(element, stride, 'gate.dae')
 */
export function readPolygons(element: XmlElement, stride: number, where: string): IndexedPolygons | null {
  const collector = new Collector(stride, where)
  const lists = allOf(element, 'p').map(numbersOf)
  switch (element.name) {
    case 'triangles':
      for (const list of lists) collector.addEven(list, 3)
      break
    case 'polylist':
      collector.addCounted(lists[0] ?? new Float64Array(0), numbersOf(firstOf(element, 'vcount')))
      break
    case 'polygons':
      for (const list of lists) collector.add(list)
      for (const holed of allOf(element, 'ph'))
        collector.add(withHoles(numbersOf(firstOf(holed, 'p')), allOf(holed, 'h').map(numbersOf), stride))
      break
    case 'tristrips':
      for (const list of lists)
        collector.addStrip(list, (index) =>
          index % 2 === 0 ? [index, index + 1, index + 2] : [index + 1, index, index + 2],
        )
      break
    case 'trifans':
      for (const list of lists) collector.addStrip(list, (index) => [0, index + 1, index + 2])
      break
    default:
      return null
  }
  return collector.finish()
}

export const polygonElements = ['triangles', 'polylist', 'polygons', 'tristrips', 'trifans']

class Collector {
  private readonly sizes = growingIndices()
  private readonly indices = growingIndices()

  constructor(
    private readonly stride: number,
    private readonly where: string,
  ) {}

  finish(): IndexedPolygons {
    return { sizes: this.sizes.toArray(), indices: this.indices.toArray(), stride: this.stride }
  }

  /** One polygon. Those of fewer than three corners are passed over. */
  add(list: Float64Array, from = 0, corners = Math.floor(list.length / this.stride)): void {
    if (corners < 3) return
    if (this.indices.length / this.stride + corners > limits.corners)
      throw new PlainError(
        `it has more than ${inMillions(limits.corners)} face corners`,
        this.where,
        'Lower its density where it was made.',
      )
    this.sizes.push(corners)
    for (let at = from * this.stride; at < (from + corners) * this.stride; at++) {
      const index = list[at]
      if (!(Number.isInteger(index) && index >= 0))
        throw new PlainError('a face asks for an index that is no whole number', this.where, 'Export it again.')
      this.indices.push(index)
    }
  }

  addEven(list: Float64Array, size: number): void {
    const corners = Math.floor(list.length / this.stride)
    for (let first = 0; first + size <= corners; first += size) this.add(list, first, size)
  }

  addCounted(list: Float64Array, counts: Float64Array): void {
    let first = 0
    for (const count of counts) {
      if (!(count >= 0) || (first + count) * this.stride > list.length)
        throw new PlainError(
          `its faces ask for ${(first + count) * this.stride} indices; ${list.length} are there`,
          this.where,
          'Export it again.',
        )
      this.add(list, first, count)
      first += count
    }
  }

  addStrip(list: Float64Array, cornersOf: (index: number) => number[]): void {
    const corners = Math.floor(list.length / this.stride)
    for (let index = 0; index + 2 < corners; index++) {
      const triangle = new Float64Array(3 * this.stride)
      cornersOf(index).forEach((corner, place) =>
        triangle.set(list.subarray(corner * this.stride, (corner + 1) * this.stride), place * this.stride),
      )
      this.add(triangle)
    }
  }
}

/**
 * Holes joined to the outline by a cut there and back, so that the whole is one ring: its triangles leave the holes
 * open.
 */
function withHoles(outline: Float64Array, holes: readonly Float64Array[], stride: number): Float64Array {
  return holes.reduce((ring, hole) => {
    const first = ring.subarray(0, stride)
    const joined = [...ring, ...first, ...hole, ...hole.subarray(0, stride)]
    return Float64Array.from(joined)
  }, outline)
}
