import { PlainError } from '../../support/plain-error.ts'
import { linearOf, type SourceFaces } from '../scene/source-scene.ts'
import { inputsOf, type ColladaLibrary, type ColladaSource } from './library.ts'
import { polygonElements, readPolygons, type IndexedPolygons } from './polygons.ts'
import { allOf, firstOf, type XmlElement } from '../../support/xml.ts'

/** Faces of one material, which is a symbol that each use of the geometry binds. */
export interface ColladaFaces extends SourceFaces {
  symbol: string | null
  /** The numbers that the file gives its UV sets, in their order. */
  uvSetNumbers: number[]
}

/** Points and faces of a geometry; materials are symbols that each use of it binds. */
export interface ColladaGeometry {
  name: string
  points: Float32Array
  faces: ColladaFaces[]
}

interface Input {
  semantic: string
  source: ColladaSource
  offset: number
}

/**
 * @throws PlainError when sources are missing or indices out of range
 * @example const { faces } = readGeometry(library, geometry, 'gate.dae')
 */
export function readGeometry(library: ColladaLibrary, geometry: XmlElement, file: string): ColladaGeometry {
  const name = geometry.attributes['name'] || geometry.attributes['id'] || 'geometry'
  const where = `${file}, “${name.slice(0, 60)}”`
  const mesh = firstOf(geometry, 'mesh') ?? firstOf(geometry, 'convex_mesh')
  const vertices = inputsOf(firstOf(mesh, 'vertices'))
  const positions = library.source(vertices.find((input) => input.semantic === 'POSITION')?.source)
  if (!mesh || !positions) return { name, points: new Float32Array(0), faces: [] }
  const points = pointsOf(positions)
  const faces = polygonElements
    .flatMap((kind) => allOf(mesh, kind))
    .flatMap((element) => readFaces(library, element, vertices, points.length / 3, where))
  return { name, points, faces }
}

function pointsOf({ numbers, stride, offset }: ColladaSource): Float32Array {
  const count = Math.max(0, Math.floor((numbers.length - offset) / stride))
  const points = new Float32Array(count * 3)
  for (let point = 0; point < count; point++)
    for (let axis = 0; axis < Math.min(3, stride); axis++)
      points[point * 3 + axis] = numbers[offset + point * stride + axis]
  return points
}

function readFaces(
  library: ColladaLibrary,
  element: XmlElement,
  vertices: ReturnType<typeof inputsOf>,
  pointCount: number,
  where: string,
): ColladaFaces[] {
  const written = inputsOf(element)
  const vertexOffset = written.find((input) => input.semantic === 'VERTEX')?.offset
  if (vertexOffset === undefined) return []
  // Normals and UVs may hang on the vertices themselves: then they share the index of the point.
  const all = [
    ...written.filter((input) => input.semantic !== 'VERTEX'),
    ...vertices.filter((input) => input.semantic !== 'POSITION').map((input) => ({ ...input, offset: vertexOffset })),
  ]
  const inputs: Input[] = all
    .sort((a, b) => a.set - b.set)
    .flatMap(({ semantic, source, offset }) => {
      const found = library.source(source)
      return found ? [{ semantic, source: found, offset }] : []
    })
  const stride = Math.max(...written.map((input) => input.offset)) + 1
  const polygons = readPolygons(element, stride, where)
  if (!polygons || polygons.sizes.length === 0) return []
  const corners = indicesAt(polygons, vertexOffset)
  for (const point of corners)
    if (point >= pointCount)
      throw new PlainError(`a face asks for point ${point}; there are ${pointCount}`, where, 'Export it again.')
  const gather = (semantic: string, size: number): Float32Array[] =>
    inputs.filter((input) => input.semantic === semantic).flatMap((input) => valuesOf(input, polygons, size) ?? [])
  const uvs = gather('TEXCOORD', 2)
  const uvSetNumbers = [...new Set(all.filter(({ semantic }) => semantic === 'TEXCOORD').map(({ set }) => set))].sort(
    (a, b) => a - b,
  )
  for (const set of uvs) for (let at = 1; at < set.length; at += 2) set[at] = 1 - set[at]
  const [colours] = gather('COLOR', 4)
  if (colours) for (let at = 0; at < colours.length; at++) if (at % 4 < 3) colours[at] = linearOf(colours[at])
  return [
    {
      symbol: element.attributes['material'] ?? null,
      uvSetNumbers,
      material: null,
      polygonSizes: polygons.sizes,
      corners,
      normals: gather('NORMAL', 3)[0] ?? null,
      uvs,
      colours: colours ?? null,
      smoothing: null,
    },
  ]
}

function indicesAt({ indices, stride }: IndexedPolygons, offset: number): Uint32Array {
  const picked = new Uint32Array(indices.length / stride)
  for (let corner = 0; corner < picked.length; corner++) picked[corner] = indices[corner * stride + offset]
  return picked
}

/** An input's values for each corner; a missing fourth colour channel is 1. Null when an index is out of range. */
function valuesOf({ source, offset }: Input, { indices, stride }: IndexedPolygons, size: number): Float32Array | null {
  const count = Math.floor((source.numbers.length - source.offset) / source.stride)
  const values = new Float32Array((indices.length / stride) * size)
  for (let corner = 0; corner < indices.length / stride; corner++) {
    const index = indices[corner * stride + offset]
    if (index >= count) return null
    for (let axis = 0; axis < size; axis++)
      values[corner * size + axis] =
        axis < source.stride ? source.numbers[source.offset + index * source.stride + axis] : 1
  }
  return values
}
