import type { Document, Mesh, Node, Primitive, Skin } from '@gltf-transform/core'
import { emptyTable, SLOTS, type WeightTable } from '../../geometry/skin/weight-table.ts'
import type { TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { getNodeExtras, setNodeExtras } from '../../item/extras.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import { itemScene, listAllParts, restMatrix, type Part } from '../../item/parts.ts'
import {
  accessorToFloats,
  readPrimitive,
  reversedWinding,
  writeAttribute,
  writeIndices,
} from '../../item/primitive-arrays.ts'
import { identityMatrix } from '../../maths/axes.ts'
import { heldCorners } from '../../maths/bend.ts'
import {
  determinantOf,
  invertMatrix,
  transformedNormals,
  transformedPoints,
  type Matrix,
} from '../../maths/matrices.ts'

/** A mesh that bones hold, all its surfaces in one row of corners. */
export interface HeldMesh extends TriangleSoup {
  bones: Node[]
  table: WeightTable
  /** From the mesh to each bone, column-major. */
  binds: Matrix[]
  /** First corner of each surface, and one past the last. */
  firstCorner: number[]
}

/**
 * Parts that bones hold, levels and solids too.
 *
 * @example const bones = new Set(listHeldParts(document).flatMap(({ node }) => node.getSkin()?.listJoints() ?? []))
 */
export const listHeldParts = (document: Document): Part[] => listAllParts(document).filter(({ node }) => node.getSkin())

/**
 * All surfaces of a mesh in one row of corners, as they lie in the mesh's own space.
 * @example const { positions, indices } = meshSoup(part.mesh)
 */
export function meshSoup(mesh: Mesh): TriangleSoup & { firstCorner: number[] } {
  const surfaces = mesh.listPrimitives().map(readPrimitive)
  const firstCorner = [0]
  for (const { positions } of surfaces) firstCorner.push((firstCorner.at(-1) ?? 0) + positions.length / 3)
  const positions = new Float32Array((firstCorner.at(-1) ?? 0) * 3)
  const indices = new Uint32Array(surfaces.reduce((sum, surface) => sum + surface.indices.length, 0))
  let at = 0
  surfaces.forEach((surface, number) => {
    positions.set(surface.positions, firstCorner[number] * 3)
    for (const corner of surface.indices) indices[at++] = corner + firstCorner[number]
  })
  return { positions, indices, firstCorner }
}

/**
 * Reads what holds a part; null where nothing does. Numbers of bones that are not there hold nothing.
 * @example const held = readHeldMesh(part)
 */
export function readHeldMesh({ node, mesh }: Part): HeldMesh | null {
  const skin = node.getSkin()
  if (!skin) return null
  const soup = meshSoup(mesh)
  const bones = skin.listJoints()
  const table = emptyTable(soup.positions.length / 3, bones.length)
  mesh.listPrimitives().forEach((primitive, number) => {
    const first = soup.firstCorner[number]
    const own = heldCorners(influenceSets(primitive), soup.firstCorner[number + 1] - first, bones.length)
    table.boneOf.set(own.boneOf, first * SLOTS)
    table.weightOf.set(own.weightOf, first * SLOTS)
  })
  return { ...soup, bones, table, binds: bindsOf(skin) }
}

/**
 * Where the corners of a held part are in the scene at rest, in game units.
 * @example const places = heldPlaces(part, held)
 */
export const heldPlaces = ({ node }: Part, { positions }: HeldMesh): Float32Array =>
  transformedPoints(positions, restMatrix(node))

/** From the mesh to each bone at rest; the identity where the file has none. */
export function bindsOf(skin: Skin): Matrix[] {
  const binds = skin.getInverseBindMatrices()
  return skin
    .listJoints()
    .map((_, number) => (binds && number < binds.getCount() ? binds.getElement(number, []) : identityMatrix()))
}

/**
 * Bone numbers and weights of a surface, four a corner in each set.
 * @example const most = influenceSets(surface).length * 4
 */
export function influenceSets(primitive: Primitive): { bones: Float32Array; weights: Float32Array }[] {
  return primitive.listSemantics().flatMap((semantic) => {
    const bones = primitive.getAttribute(semantic)
    const weights = primitive.getAttribute(semantic.replace('JOINTS', 'WEIGHTS'))
    return semantic.startsWith('JOINTS_') && bones && weights
      ? [{ bones: accessorToFloats(bones), weights: accessorToFloats(weights) }]
      : []
  })
}

/**
 * Writes a table into a mesh's surfaces, in as many sets of four as its rows need.
 * @example writeWeights(document, part.mesh, limited)
 */
export function writeWeights(document: Document, mesh: Mesh, { boneOf, weightOf, corners }: WeightTable): void {
  let used = 1
  for (let at = 0; at < weightOf.length; at++) if (weightOf[at] > 0) used = Math.max(used, (at % SLOTS) + 1)
  const sets = Math.ceil(used / 4)
  const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer()
  let first = 0
  for (const primitive of mesh.listPrimitives()) {
    for (const semantic of primitive.listSemantics())
      if (/^(JOINTS|WEIGHTS)_/.test(semantic)) primitive.setAttribute(semantic, null)
    const own = Math.min(corners - first, primitive.getAttribute('POSITION')?.getCount() ?? 0)
    for (let set = 0; set < sets; set++) {
      const [joints, weights] = [new Uint16Array(own * 4), new Float32Array(own * 4)]
      for (let corner = 0; corner < own; corner++)
        for (let slot = 0; slot < 4; slot++) {
          joints[corner * 4 + slot] = boneOf[(first + corner) * SLOTS + set * 4 + slot]
          weights[corner * 4 + slot] = weightOf[(first + corner) * SLOTS + set * 4 + slot]
        }
      const accessor = document.createAccessor(`JOINTS_${set}`).setType('VEC4').setArray(joints).setBuffer(buffer)
      primitive.setAttribute(`JOINTS_${set}`, accessor)
      writeAttribute(document, primitive, `WEIGHTS_${set}`, weights, 4)
    }
    first += own
  }
}

/**
 * Gives a skin other bones, with where each is at rest.
 * @example setBones(document, skin, bones, bones.map((bone) => invertMatrix(bone.getWorldMatrix())))
 */
export function setBones(document: Document, skin: Skin, bones: readonly Node[], binds: readonly Matrix[]): void {
  for (const joint of skin.listJoints()) skin.removeJoint(joint)
  for (const bone of bones) skin.addJoint(bone)
  const accessor = document
    .createAccessor('inverse binds')
    .setType('MAT4')
    .setArray(Float32Array.from(binds.flat()))
    .setBuffer(document.getRoot().listBuffers()[0] ?? document.createBuffer())
  skin.setInverseBindMatrices(accessor)
}

/**
 * Hangs a part on bones as it stands: its mesh is moved into the scene's own space and its node stands beside
 * everything else, because what bones hold does not follow its own node (glTF 2.0 specification, section 3.7.3.3).
 *
 * @example hangOnBones(document, part, bones, onNearestBone(held, places))
 */
export function hangOnBones(document: Document, { node }: Part, bones: readonly Node[], table: WeightTable): void {
  const mesh = ownMesh(node)
  if (!mesh) return
  const world = node.getWorldMatrix()
  for (const primitive of mesh.listPrimitives()) bakeInto(document, primitive, world)
  itemScene(document).addChild(node)
  node.setMatrix(identityMatrix() as Parameters<Node['setMatrix']>[0])
  const skin = document.createSkin(node.getName())
  const binds = bones.map((bone) => invertMatrix(bone.getWorldMatrix()) ?? identityMatrix())
  setBones(document, skin, bones, binds)
  node.setSkin(skin)
  setNodeExtras(node, { ...getNodeExtras(node), heldHere: true })
  writeWeights(document, mesh, table)
}

function bakeInto(document: Document, primitive: Primitive, world: Matrix): void {
  const { positions, normals, indices } = readPrimitive(primitive)
  writeAttribute(document, primitive, 'POSITION', transformedPoints(positions, world), 3)
  if (normals) writeAttribute(document, primitive, 'NORMAL', transformedNormals(normals, world), 3)
  // Tangents are made again from normals and UVs where a map needs them.
  primitive.setAttribute('TANGENT', null)
  if (determinantOf(world) < 0) writeIndices(document, primitive, reversedWinding(indices), positions.length / 3)
}
