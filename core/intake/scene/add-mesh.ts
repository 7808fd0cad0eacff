import { inMillions, limits } from '../../support/limits.ts'
import type { Document, Primitive } from '@gltf-transform/core'
import { PlainError } from '../../support/plain-error.ts'
import { POLYGON_ATTRIBUTE, polygonAttribute } from '../../item/polygons.ts'
import { writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import { normalsFromSmoothing } from '../../geometry/surface/smoothing-normals.ts'
import { isNearlyOne } from '../../maths/vectors.ts'
import { triangulatePolygons } from '../../geometry/mesh/triangulate.ts'
import type { SourceFaces, SourceMesh, SourceSkin } from './source-scene.ts'

/**
 * One primitive of unshared corners, or null when there are no faces.
 * Polygons of more than three corners keep their number in the polygon attribute, and have a first set of triangles
 * that is right for concave ones too.
 * @throws PlainError for corners out of range, and for places or UVs that are no numbers
 *
 * @example const primitive = addMesh(document, mesh, faces, 'gate.obj')
 */
export function addMesh(document: Document, mesh: SourceMesh, faces: SourceFaces, file: string): Primitive | null {
  const cornerCount = faces.corners.length
  if (cornerCount === 0) return null
  const where = `${file}, “${mesh.name.slice(0, 60)}”`
  if (cornerCount > limits.corners)
    throw new PlainError(
      `it has more than ${inMillions(limits.corners)} face corners`,
      where,
      'Lower its density where it was made.',
    )
  const positions = gatherPositions(mesh.points, faces.corners, where)
  const primitive = document.createPrimitive()
  writeAttribute(document, primitive, 'POSITION', positions, 3)
  const { triangles, polygonOfCorner } = polygonTriangles(positions, faces.polygonSizes, where)
  writeIndices(document, primitive, triangles, cornerCount)
  if (polygonOfCorner) writeAttribute(document, primitive, POLYGON_ATTRIBUTE, polygonOfCorner, 3)
  const normals =
    faces.normals ??
    (faces.smoothing && normalsFromSmoothing(mesh.points, faces.corners, faces.polygonSizes, faces.smoothing))
  if (normals && normals.length === cornerCount * 3)
    writeAttribute(document, primitive, 'NORMAL', unitNormals(normals), 3)
  for (const [set, uvs] of faces.uvs.slice(0, 8).entries()) {
    if (uvs.length !== cornerCount * 2) continue
    assertNumbers(uvs, 'a texture point', where)
    writeAttribute(document, primitive, `TEXCOORD_${set}`, uvs, 2)
  }
  if (faces.colours && faces.colours.length === cornerCount * 4) {
    assertNumbers(faces.colours, 'a corner’s colour', where)
    writeAttribute(document, primitive, 'COLOR_0', faces.colours, 4)
  }
  if (mesh.skin) addInfluences(document, primitive, mesh.skin, faces.corners)
  return primitive
}

function gatherPositions(points: Float32Array, corners: ArrayLike<number>, where: string): Float32Array {
  const pointCount = points.length / 3
  const positions = new Float32Array(corners.length * 3)
  for (let corner = 0; corner < corners.length; corner++) {
    const point = corners[corner]
    if (!(point >= 0 && point < pointCount))
      throw new PlainError(`a face asks for point ${point}; there are ${pointCount}`, where, 'Export the model again.')
    for (let axis = 0; axis < 3; axis++) {
      const value = points[point * 3 + axis]
      if (!Number.isFinite(value))
        throw new PlainError(
          `point ${point} is not made of numbers, or of larger ones than a mesh can hold (3.4e38)`,
          where,
          'Export the model again.',
        )
      positions[corner * 3 + axis] = value
    }
  }
  return positions
}

function polygonTriangles(
  positions: Float32Array,
  sizes: ArrayLike<number>,
  where: string,
): { triangles: Uint32Array; polygonOfCorner: Float32Array | null } {
  const cornerCount = positions.length / 3
  const starts = new Uint32Array(sizes.length + 1)
  let large = false
  for (let polygon = 0; polygon < sizes.length; polygon++) {
    if (sizes[polygon] < 3) throw new PlainError('a face has fewer than 3 corners', where, 'Export the model again.')
    if (sizes[polygon] > 3) large = true
    starts[polygon + 1] = starts[polygon] + sizes[polygon]
  }
  if (starts[sizes.length] !== cornerCount)
    throw new PlainError('its faces and its corners do not agree', where, 'Export the model again.')
  if (!large)
    return { triangles: Uint32Array.from({ length: cornerCount }, (_, index) => index), polygonOfCorner: null }
  return { triangles: triangulatePolygons(positions, starts), polygonOfCorner: polygonAttribute(sizes, cornerCount) }
}

/** Lengths made 1, as glTF wants them; what has no length points up. */
function unitNormals(normals: Float32Array): Float32Array {
  const unit = new Float32Array(normals.length)
  for (let at = 0; at + 2 < normals.length; at += 3) {
    const length = Math.hypot(normals[at], normals[at + 1], normals[at + 2])
    const usable = length > 0 && Number.isFinite(length)
    const divisor = isNearlyOne(length) ? 1 : length
    for (let axis = 0; axis < 3; axis++) unit[at + axis] = usable ? normals[at + axis] / divisor : axis === 1 ? 1 : 0
  }
  return unit
}

function assertNumbers(values: Float32Array, what: string, where: string): void {
  for (let index = 0; index < values.length; index++)
    if (!Number.isFinite(values[index]))
      throw new PlainError(`${what} is not made of numbers`, where, 'Export the model again.')
}

const INFLUENCES = 8

/** The eight strongest influences of each point, in two sets of four; the second only where someone needs it. */
function addInfluences(document: Document, primitive: Primitive, skin: SourceSkin, corners: ArrayLike<number>): void {
  const joints = [new Uint16Array(corners.length * 4), new Uint16Array(corners.length * 4)]
  const weights = [new Float32Array(corners.length * 4), new Float32Array(corners.length * 4)]
  let sets = 1
  for (let corner = 0; corner < corners.length; corner++) {
    const strongest = influencesOf(skin, corners[corner])
    const sum = strongest.reduce((total, each) => total + each.weight, 0)
    if (strongest.length > 4) sets = 2
    strongest.forEach(({ bone, weight }, index) => {
      joints[index >> 2][corner * 4 + (index & 3)] = bone
      weights[index >> 2][corner * 4 + (index & 3)] = weight / sum
    })
    // glTF wants weights that sum to 1: a point that nobody holds follows the first bone.
    if (strongest.length === 0) weights[0][corner * 4] = 1
  }
  const buffer = document.getRoot().listBuffers()[0]
  for (let set = 0; set < sets; set++) {
    primitive.setAttribute(
      `JOINTS_${set}`,
      document.createAccessor().setType('VEC4').setArray(joints[set]).setBuffer(buffer),
    )
    primitive.setAttribute(
      `WEIGHTS_${set}`,
      document.createAccessor().setType('VEC4').setArray(weights[set]).setBuffer(buffer),
    )
  }
}

function influencesOf(skin: SourceSkin, point: number): { bone: number; weight: number }[] {
  const influences: { bone: number; weight: number }[] = []
  for (let at = skin.starts[point] ?? 0; at < (skin.starts[point + 1] ?? 0); at++) {
    const bone = skin.boneOf[at]
    const weight = skin.weightOf[at]
    if (bone < skin.bones.length && weight > 0 && Number.isFinite(weight)) influences.push({ bone, weight })
  }
  return influences.sort((a, b) => b.weight - a.weight).slice(0, INFLUENCES)
}
