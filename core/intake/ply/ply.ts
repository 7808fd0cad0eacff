import { inMillions, limits } from '../../support/limits.ts'
import { identityMatrix } from '../../maths/axes.ts'
import { PlainError } from '../../support/plain-error.ts'
import { growingFloats, growingIndices } from '../growing-array.ts'
import type { MeshReader } from '../reader.ts'
import { buildDocument } from '../scene/build-document.ts'
import { linearOf, sourceNode, type SourceFaces } from '../scene/source-scene.ts'
import { fileName, fileStem } from '../source-file.ts'
import { readPlyHeader, type PlyElement, type PlyHeader } from './header.ts'
import { plyNumbers, type PlyNumbers } from './numbers.ts'

/** What the vertices of a PLY hold, by vertex. */
interface Vertices {
  points: Float32Array
  normals: Float32Array | null
  uvs: Float32Array | null
  colours: Float32Array | null
}

const names = {
  position: [['x'], ['y'], ['z']],
  normal: [['nx'], ['ny'], ['nz']],
  uv: [
    ['s', 'u', 'texture_u', 's0'],
    ['t', 'v', 'texture_v', 't0'],
  ],
  colour: [
    ['red', 'r', 'diffuse_red'],
    ['green', 'g', 'diffuse_green'],
    ['blue', 'b', 'diffuse_blue'],
    ['alpha', 'a', 'diffuse_alpha'],
  ],
} as const

/**
 * Reads PLY, text and binary of both byte orders, with polygons of any size, strips, normals, UVs and colours.
 * @example const { document } = await readPly(main, files, {})
 */
export const readPly: MeshReader = async (main, files, options) => {
  const file = fileName(main.path)
  const header = readPlyHeader(main.bytes, file)
  if (!header.elements.some(({ name }) => name === 'face' || name === 'tristrips'))
    throw new PlainError('it holds points and no faces', file, 'Export the model with its faces.')
  const { vertices, sizes, corners, cornerUvs } = readBody(header, plyNumbers(main.bytes, header, file), file)
  const name = fileStem(main.path)
  const faces: SourceFaces = {
    material: header.textures.length > 0 ? 0 : null,
    polygonSizes: sizes,
    corners,
    normals: vertices.normals && spread(vertices.normals, corners, 3),
    uvs: cornerUvs ? [cornerUvs] : vertices.uvs ? [spread(vertices.uvs, corners, 2)] : [],
    colours: vertices.colours && spread(vertices.colours, corners, 4),
    smoothing: null,
  }
  const node = sourceNode(name, identityMatrix())
  node.mesh = { name, points: vertices.points, faces: [faces] }
  return buildDocument(
    {
      name,
      roots: [node],
      materials:
        header.textures.length > 0
          ? [
              {
                name,
                colour: [1, 1, 1, 1],
                metalness: 0,
                roughness: 0.9,
                maps: header.textures.map((path) => ({ role: 'colour', path })),
              },
            ]
          : [],
      clips: [],
      units: { metresPerUnit: null, from: 'unknown' },
      axes: { up: '+z', forward: '-y', from: 'customary' },
    },
    main,
    files,
    options,
    new Set([main.path]),
  )
}

interface Body {
  vertices: Vertices
  sizes: Uint32Array
  corners: Uint32Array
  cornerUvs: Float32Array | null
}

function readBody(header: PlyHeader, numbers: PlyNumbers, file: string): Body {
  let vertices: Vertices = { points: new Float32Array(0), normals: null, uvs: null, colours: null }
  const sizes = growingIndices()
  const corners = growingIndices()
  const uvs = growingFloats()
  const addPolygon = (polygon: readonly number[], flatUvs: readonly number[]): void => {
    if (polygon.length < 3) return
    if (corners.length + polygon.length > limits.corners)
      throw new PlainError(
        `it has more than ${inMillions(limits.corners)} face corners`,
        file,
        'Lower its density where it was made.',
      )
    sizes.push(polygon.length)
    polygon.forEach((point, index) => {
      corners.push(point)
      uvs.push(flatUvs[index * 2] ?? 0)
      uvs.push(1 - (flatUvs[index * 2 + 1] ?? 1))
    })
  }
  let hasUvs = false
  for (const element of header.elements) {
    if (element.name === 'vertex') vertices = readVertices(element, numbers)
    else {
      for (let index = 0; index < element.count; index++) {
        const lists = readLists(element, numbers, file)
        if (element.name === 'face') {
          const flatUvs = lists.get('texcoord') ?? []
          if (flatUvs.length > 0) hasUvs = true
          addPolygon(lists.get('vertex_indices') ?? lists.get('vertex_index') ?? [], flatUvs)
        } else if (element.name === 'tristrips')
          for (const triangle of stripTriangles(lists.get('vertex_indices') ?? lists.get('vertex_index') ?? []))
            addPolygon(triangle, [])
      }
    }
  }
  return { vertices, sizes: sizes.toArray(), corners: corners.toArray(), cornerUvs: hasUvs ? uvs.toArray() : null }
}

function readVertices(element: PlyElement, numbers: PlyNumbers): Vertices {
  const columns = (wanted: readonly (readonly string[])[]): number[] =>
    wanted.map((aliases) => element.properties.findIndex((property) => aliases.includes(property.name)))
  const [position, normal, uv, colour] = [
    columns(names.position),
    columns(names.normal),
    columns(names.uv),
    columns(names.colour),
  ]
  const has = (found: number[], count: number): boolean => found.slice(0, count).every((column) => column >= 0)
  const room = (present: boolean, size: number): Float32Array | null =>
    present ? new Float32Array(element.count * size) : null
  const vertices: Vertices = {
    points: new Float32Array(element.count * 3),
    normals: room(has(normal, 3), 3),
    uvs: room(has(uv, 2), 2),
    colours: room(has(colour, 3), 4),
  }
  const colourPeak =
    element.properties[colour[0]]?.type === 'uchar' ? 255 : element.properties[colour[0]]?.type === 'ushort' ? 65535 : 1
  const row = new Float64Array(element.properties.length)
  for (let vertex = 0; vertex < element.count; vertex++) {
    element.properties.forEach((property, column) => {
      if (property.lengthType === null) row[column] = numbers.next(property.type)
      else for (let left = numbers.next(property.lengthType); left > 0; left--) numbers.next(property.type)
    })
    for (let axis = 0; axis < 3; axis++) {
      vertices.points[vertex * 3 + axis] = position[axis] < 0 ? 0 : row[position[axis]]
      if (vertices.normals) vertices.normals[vertex * 3 + axis] = row[normal[axis]]
      if (vertices.colours) vertices.colours[vertex * 4 + axis] = linearOf(row[colour[axis]] / colourPeak)
    }
    if (vertices.colours) vertices.colours[vertex * 4 + 3] = colour[3] < 0 ? 1 : row[colour[3]] / colourPeak
    if (vertices.uvs) {
      vertices.uvs[vertex * 2] = row[uv[0]]
      vertices.uvs[vertex * 2 + 1] = 1 - row[uv[1]]
    }
  }
  return vertices
}

const LONGEST_LIST = 4_000_000

/** The lists of one row; single numbers are passed over. */
function readLists(element: PlyElement, numbers: PlyNumbers, file: string): Map<string, number[]> {
  const lists = new Map<string, number[]>()
  for (const property of element.properties) {
    const length = property.lengthType === null ? 1 : numbers.next(property.lengthType)
    if (!(length >= 0 && length <= LONGEST_LIST))
      throw new PlainError(`one of its faces has ${length} corners`, file, 'Export it again.')
    const values: number[] = []
    for (let index = 0; index < length; index++) values.push(numbers.next(property.type))
    if (property.lengthType !== null) lists.set(property.name, values)
  }
  return lists
}

/** Triangles of strips that −1 parts from each other; every second one is turned. */
function stripTriangles(strip: readonly number[]): number[][] {
  const triangles: number[][] = []
  let start = 0
  for (let index = 0; index < strip.length; index++) {
    if (strip[index] < 0) start = index + 1
    else if (index - start >= 2) {
      const turned = (index - start) % 2 === 1
      triangles.push(
        turned
          ? [strip[index - 1], strip[index - 2], strip[index]]
          : [strip[index - 2], strip[index - 1], strip[index]],
      )
    }
  }
  return triangles
}

function spread(values: Float32Array, corners: Uint32Array, size: number): Float32Array {
  const perCorner = new Float32Array(corners.length * size)
  for (let corner = 0; corner < corners.length; corner++)
    for (let axis = 0; axis < size; axis++) perCorner[corner * size + axis] = values[corners[corner] * size + axis]
  return perCorner
}
