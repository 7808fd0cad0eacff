import type { Document, Primitive } from '@gltf-transform/core'
import { limits } from '../support/limits.ts'
import { listAllParts } from './parts.ts'
import { primitiveIndices } from './primitive-arrays.ts'

/**
 * Corner attribute of primitives whose source had quads or n-gons: the number of the corner's polygon, its place in the
 * outline and the length of the outline. Corners of polygons are unshared. It says all there is to say of a polygon, so
 * that no step that moves, reorders, turns over or drops corners can tear one: the triangle index is a first cut of
 * each until Triangulate makes a better one.
 */
export const POLYGON_ATTRIBUTE = '_POLYGON'

/** Numbers of a corner in the polygon attribute. */
export const POLYGON_NUMBERS = 3

/**
 * The polygon attribute of corners that stand in polygon order, before any step.
 * @example polygonAttribute([4, 3], 7).length // 21
 */
export function polygonAttribute(polygonSizes: ArrayLike<number>, cornerCount: number): Float32Array {
  const values = new Float32Array(cornerCount * POLYGON_NUMBERS)
  let corner = 0
  for (let polygon = 0; polygon < polygonSizes.length; polygon++) {
    for (let place = 0; place < polygonSizes[polygon]; place++, corner++)
      values.set([polygon, place, polygonSizes[polygon]], corner * POLYGON_NUMBERS)
  }
  return values
}

/** Polygons of a primitive, each with its corners in the order in which it is drawn. */
export interface Outlines {
  corners: Uint32Array
  /** First of `corners` of each polygon, and one past the last. */
  starts: Uint32Array
  /** Triangles whose polygon is no longer whole, since a step took others of it away: 3 corners each. */
  loose: Uint32Array
}

/**
 * The polygon attribute of a primitive; null where it has none, or where its numbers can be those of no polygons: a
 * file of other hands may hold any under that name.
 */
function polygonValues(primitive: Primitive): ArrayLike<number> | null {
  const values = primitive.getAttribute(POLYGON_ATTRIBUTE)?.getArray()
  const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
  if (values?.length !== corners * POLYGON_NUMBERS) return null
  for (let at = 0; at < values.length; at += POLYGON_NUMBERS) {
    const polygon = values[at]
    const place = values[at + 1]
    const size = values[at + 2]
    if (!(Number.isInteger(polygon) && polygon >= 0)) return null
    if (!(Number.isInteger(place) && Number.isInteger(size) && place >= 0 && place < size)) return null
    if (size > limits.polygonCorners) return null
  }
  return values
}

/**
 * The polygon of each corner, counted through in the order of their numbers where those leave so many out that lists by
 * number would be longer than the corners are.
 */
function polygonOfCorners(values: ArrayLike<number>): ArrayLike<number> {
  const numbers = Float64Array.from(
    { length: values.length / POLYGON_NUMBERS },
    (_, at) => values[at * POLYGON_NUMBERS],
  )
  let most = -1
  for (const number of numbers) most = Math.max(most, number)
  if (most < numbers.length) return numbers
  const places = new Map([...new Set(numbers)].sort((a, b) => a - b).map((number, place) => [number, place]))
  return numbers.map((number) => places.get(number) ?? 0)
}

/**
 * The polygons of a primitive, turned over with their triangles; null where its source had triangles only.
 * @example const outlines = readOutlines(surface)
 */
export function readOutlines(primitive: Primitive): Outlines | null {
  const values = polygonValues(primitive)
  if (!values) return null
  const indices = primitiveIndices(primitive)
  const polygonOfCorner = polygonOfCorners(values)
  const polygonOf = (triangle: number): number => polygonOfCorner[indices[triangle * 3]]
  const triangleCount = indices.length / 3
  let most = -1
  for (let triangle = 0; triangle < triangleCount; triangle++) most = Math.max(most, polygonOf(triangle))
  const trianglesOf = new Uint32Array(most + 1)
  const firstTriangle = new Uint32Array(most + 1)
  for (let triangle = triangleCount - 1; triangle >= 0; triangle--) {
    trianglesOf[polygonOf(triangle)]++
    firstTriangle[polygonOf(triangle)] = triangle
  }
  const starts = new Uint32Array(most + 2)
  for (let polygon = 0; polygon <= most; polygon++)
    starts[polygon + 1] =
      starts[polygon] +
      (trianglesOf[polygon] > 0 ? values[indices[firstTriangle[polygon] * 3] * POLYGON_NUMBERS + 2] : 0)
  const corners = new Uint32Array(starts[most + 1]).fill(MISSING)
  for (let at = 0; at < indices.length; at++) {
    const corner = indices[at]
    const polygon = polygonOfCorner[corner]
    const place = values[corner * POLYGON_NUMBERS + 1]
    if (starts[polygon] + place < starts[polygon + 1]) corners[starts[polygon] + place] = corner
  }
  return sorted({ indices, values, corners, starts, trianglesOf, firstTriangle, polygonOf })
}

const MISSING = 0xffffffff

interface Gathered {
  indices: Uint32Array
  values: ArrayLike<number>
  corners: Uint32Array
  starts: Uint32Array
  trianglesOf: Uint32Array
  firstTriangle: Uint32Array
  polygonOf: (triangle: number) => number
}

function sorted({ indices, values, corners, starts, trianglesOf, firstTriangle, polygonOf }: Gathered): Outlines {
  const kept: number[] = []
  const keptStarts = [0]
  const isWhole = new Uint8Array(trianglesOf.length)
  for (let polygon = 0; polygon < trianglesOf.length; polygon++) {
    const outline = corners.subarray(starts[polygon], starts[polygon + 1])
    if (outline.length < 3 || trianglesOf[polygon] !== outline.length - 2 || outline.includes(MISSING)) continue
    isWhole[polygon] = 1
    const [a, b, c] = [0, 1, 2].map((each) => values[indices[firstTriangle[polygon] * 3 + each] * POLYGON_NUMBERS + 1])
    // Where places fall from corner to corner, the polygon was turned over with its triangles.
    const rises = Number(a < b) + Number(b < c) + Number(c < a)
    for (let at = 0; at < outline.length; at++) kept.push(outline[rises >= 2 ? at : outline.length - 1 - at])
    keptStarts.push(kept.length)
  }
  const loose: number[] = []
  for (let triangle = 0; triangle < indices.length / 3; triangle++)
    if (!isWhole[polygonOf(triangle)])
      loose.push(indices[triangle * 3], indices[triangle * 3 + 1], indices[triangle * 3 + 2])
  return { corners: Uint32Array.from(kept), starts: Uint32Array.from(keptStarts), loose: Uint32Array.from(loose) }
}

/**
 * Takes away what stands in the place of polygons and is none, so that no step hands it on.
 * @example dropFalsePolygons(await createIO().readBinary(bytes))
 */
export function dropFalsePolygons(document: Document): void {
  for (const mesh of document.getRoot().listMeshes())
    for (const primitive of mesh.listPrimitives())
      if (primitive.getAttribute(POLYGON_ATTRIBUTE) && !polygonValues(primitive))
        primitive.setAttribute(POLYGON_ATTRIBUTE, null)
}

/**
 * How many polygons of more than three corners are left in the item.
 * @example if (countLargePolygons(document) > 0) propose('triangulate')
 */
export function countLargePolygons(document: Document): number {
  let count = 0
  for (const part of listAllParts(document)) {
    for (const primitive of part.mesh.listPrimitives()) {
      const values = polygonValues(primitive)
      if (!values) continue
      for (let at = 0; at < values.length; at += POLYGON_NUMBERS)
        if (values[at + 1] === 0 && values[at + 2] > 3) count++
    }
  }
  return count
}
