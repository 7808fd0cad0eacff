import { inMillions, limits } from '../../support/limits.ts'
import { PlainError } from '../../support/plain-error.ts'
import { growingIndices } from '../growing-array.ts'
import { linearOf, type SourceFaces } from '../scene/source-scene.ts'
import { childOf, childrenOf, numbersOf, textOf, type FbxNode } from './tree.ts'

/** Points and polygons of a geometry, before they are parted by material. */
export interface FbxGeometry {
  name: string
  points: Float32Array
  faces: (SourceFaces & { slot: number })[]
}

/** Polygons with, for each corner, its point and its place in the file's list of corners. */
interface Polygons {
  sizes: Uint32Array
  corners: Uint32Array
}

/**
 * Reads a mesh: polygons, normals, UV sets, colours, smoothing groups, and which material slot each polygon has.
 * @throws PlainError when an index is out of range
 *
 * @example const geometry = readGeometry(node, 'gate', 'gate.fbx')
 */
export function readGeometry(node: FbxNode, name: string, file: string): FbxGeometry {
  const points = Float32Array.from(numbersOf(childOf(node, 'Vertices')))
  const polygons = readPolygons(
    numbersOf(childOf(node, 'PolygonVertexIndex')),
    points.length / 3,
    `${file}, “${name.slice(0, 60)}”`,
  )
  const layer = (title: string): FbxNode | undefined => childOf(node, title)
  const normals = layerValues(layer('LayerElementNormal'), 'Normals', 'NormalsIndex', 3, polygons)
  const uvs = childrenOf(node, 'LayerElementUV').flatMap(
    (each) => layerValues(each, 'UV', 'UVIndex', 2, polygons) ?? [],
  )
  for (const set of uvs) for (let at = 1; at < set.length; at += 2) set[at] = 1 - set[at]
  const colours = layerValues(layer('LayerElementColor'), 'Colors', 'ColorIndex', 4, polygons)
  // The file has no word for their space; programs write what is shown.
  if (colours) for (let at = 0; at < colours.length; at++) if (at % 4 < 3) colours[at] = linearOf(colours[at])
  const smoothing = polygonNumbers(layer('LayerElementSmoothing'), 'Smoothing', polygons.sizes.length)
  const slots = polygonNumbers(layer('LayerElementMaterial'), 'Materials', polygons.sizes.length)
  return { name, points, faces: partBySlot({ polygons, normals, uvs, colours, smoothing, slots }) }
}

/** The last corner of a polygon is written as −index − 1. */
function readPolygons(indices: ArrayLike<number>, pointCount: number, where: string): Polygons {
  if (indices.length > limits.corners)
    throw new PlainError(
      `it has more than ${inMillions(limits.corners)} face corners`,
      where,
      'Lower its density where it was made.',
    )
  const sizes = growingIndices()
  const corners = new Uint32Array(indices.length)
  let size = 0
  for (let corner = 0; corner < indices.length; corner++) {
    const last = indices[corner] < 0
    const point = last ? -indices[corner] - 1 : indices[corner]
    if (!(point < pointCount))
      throw new PlainError(`a face asks for point ${point}; there are ${pointCount}`, where, 'Export it again.')
    corners[corner] = point
    size++
    if (last) {
      sizes.push(size)
      size = 0
    }
  }
  if (size > 0) sizes.push(size)
  return { sizes: sizes.toArray(), corners }
}

/** Values of a layer for each corner, by its mapping and reference; null when it has none or they do not fit. */
function layerValues(
  layer: FbxNode | undefined,
  valuesName: string,
  indexName: string,
  size: number,
  polygons: Polygons,
): Float32Array | null {
  const values = numbersOf(childOf(layer, valuesName))
  if (!layer || values.length < size) return null
  const mapping = textOf(childOf(layer, 'MappingInformationType'))
  const index =
    textOf(childOf(layer, 'ReferenceInformationType')) === 'Direct' ? null : numbersOf(childOf(layer, indexName))
  const perCorner = new Float32Array(polygons.corners.length * size)
  let corner = 0
  for (let polygon = 0; polygon < polygons.sizes.length; polygon++) {
    for (let each = 0; each < polygons.sizes[polygon]; each++, corner++) {
      const place =
        mapping === 'ByPolygonVertex'
          ? corner
          : mapping === 'ByPolygon'
            ? polygon
            : mapping === 'AllSame'
              ? 0
              : /^ByVert/.test(mapping)
                ? polygons.corners[corner]
                : -1
      const at = index && index.length > 0 ? index[place] : place
      // An index of −1 means that this corner has no value.
      if (!(at >= 0) || (at + 1) * size > values.length) continue
      for (let axis = 0; axis < size; axis++) perCorner[corner * size + axis] = values[at * size + axis]
    }
  }
  return perCorner
}

/** One number a polygon: smoothing groups or material slots. Null when the layer speaks of edges or is not there. */
function polygonNumbers(layer: FbxNode | undefined, name: string, count: number): Int32Array | null {
  const values = numbersOf(childOf(layer, name))
  const mapping = textOf(childOf(layer, 'MappingInformationType'))
  if (values.length === 0 || (mapping !== 'ByPolygon' && mapping !== 'AllSame')) return null
  return Int32Array.from({ length: count }, (_, polygon) =>
    mapping === 'AllSame' ? values[0] : (values[polygon] ?? 0),
  )
}

interface Layers {
  polygons: Polygons
  normals: Float32Array | null
  uvs: Float32Array[]
  colours: Float32Array | null
  smoothing: Int32Array | null
  slots: Int32Array | null
}

function partBySlot({ polygons, normals, uvs, colours, smoothing, slots }: Layers): (SourceFaces & { slot: number })[] {
  const usable = [...polygons.sizes.keys()].every((polygon) => polygons.sizes[polygon] >= 3)
  const used = slots ? [...new Set(slots)].sort((a, b) => a - b) : [0]
  if (used.length === 1 && usable)
    return [
      {
        slot: used[0],
        material: null,
        polygonSizes: polygons.sizes,
        corners: polygons.corners,
        normals,
        uvs,
        colours,
        smoothing,
      },
    ]
  return used.map((slot) => {
    const chosen: number[] = []
    const from: number[] = []
    let first = 0
    for (let polygon = 0; polygon < polygons.sizes.length; polygon++) {
      const size = polygons.sizes[polygon]
      // Lines and points come along as polygons of one or two corners.
      if (size >= 3 && (!slots || slots[polygon] === slot)) {
        chosen.push(polygon)
        for (let each = 0; each < size; each++) from.push(first + each)
      }
      first += size
    }
    const gather = (values: Float32Array, size: number): Float32Array => {
      const picked = new Float32Array(from.length * size)
      for (let corner = 0; corner < from.length; corner++)
        for (let axis = 0; axis < size; axis++) picked[corner * size + axis] = values[from[corner] * size + axis]
      return picked
    }
    return {
      slot,
      material: null,
      polygonSizes: Uint32Array.from(chosen, (polygon) => polygons.sizes[polygon]),
      corners: Uint32Array.from(from, (corner) => polygons.corners[corner]),
      normals: normals && gather(normals, 3),
      uvs: uvs.map((set) => gather(set, 2)),
      colours: colours && gather(colours, 4),
      smoothing: smoothing && Int32Array.from(chosen, (polygon) => smoothing[polygon]),
    }
  })
}
