import type { Document } from '@gltf-transform/core'
import { renumberBones } from '../../geometry/skin/limit-weights.ts'
import { nearestBones, weightsFrom, type HeldSurface } from '../../geometry/skin/take-weights.ts'
import {
  copyRow,
  copyTable,
  emptyTable,
  holdByOne,
  weightSum,
  type WeightTable,
} from '../../geometry/skin/weight-table.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import { restMatrix, type Part } from '../../item/parts.ts'
import { identityMatrix, multiplyMatrices } from '../../maths/axes.ts'
import { invertMatrix, transformedPoints } from '../../maths/matrices.ts'
import { surfaceOfBone } from './make-bones.ts'
import { hangOnBones, heldPlaces, meshSoup, readHeldMesh, setBones, writeWeights, type HeldMesh } from './skin.ts'

/**
 * Every corner on one bone; null where the part has no such bone.
 * @example const rows = onOneBone(held, 'lid')
 */
export function onOneBone({ bones, table }: HeldMesh, name: string): WeightTable | null {
  const bone = bones.findIndex((each) => each.getName() === name)
  if (bone < 0) return null
  const made = emptyTable(table.corners, bones.length)
  for (let corner = 0; corner < made.corners; corner++) holdByOne(made, corner, bone)
  return made
}

/**
 * Every corner on the nearest bone. @param places of the corners in the scene
 * @example const rows = onNearestBone(held, heldPlaces(part, held))
 */
export const onNearestBone = ({ bones }: HeldMesh, places: Float32Array): WeightTable =>
  nearestBones(
    places,
    bones.map((bone) => surfaceOfBone(bone, bones)),
  )

/**
 * Every corner on what holds the nearest surface of another part. Bones of that part which do not hold this one yet
 * are taken in, with their rest.
 *
 * @example const rows = likeSurface(document, part, held, heldPlaces(part, held), pattern)
 */
export function likeSurface(
  document: Document,
  part: Part,
  held: HeldMesh,
  places: Float32Array,
  pattern: Part,
): WeightTable | null {
  const from = surfaceInScene(pattern)
  const skin = part.node.getSkin()
  if (!from || !skin) return null
  const strangers = from.bones.filter((bone) => !held.bones.includes(bone))
  const bones = [...held.bones, ...strangers]
  const taken = weightsFrom(places, from)
  if (strangers.length > 0) {
    // Both meshes lie in the scene as their bones hold them: the way from here to there is the same for all bones.
    const binds = strangers.map((bone) => bindInScene(bone, part))
    setBones(document, skin, bones, [...held.binds, ...binds])
  }
  return renumberBones(
    taken,
    from.bones.map((bone) => bones.indexOf(bone)),
    bones.length,
  )
}

/**
 * Hangs a part that nothing holds on the bones of another, as the nearest surface of that is held.
 * @example hangLike(document, strap, coat)
 */
export function hangLike(document: Document, part: Part, pattern: Part): number {
  const from = surfaceInScene(pattern)
  if (!from) return 0
  const places = transformedPoints(meshSoup(part.mesh).positions, part.node.getWorldMatrix())
  hangOnBones(document, part, from.bones, weightsFrom(places, from))
  return places.length / 3
}

/**
 * Writes rows of another table for the marked corners; rows without a bone are passed over. @returns how many
 * @example const assigned = assignRows(document, part, held, rows, marks)
 */
export function assignRows(
  document: Document,
  part: Part,
  held: HeldMesh,
  rows: WeightTable,
  marks: Uint8Array,
): number {
  const made = rows.bones > held.table.bones ? widened(held.table, rows.bones) : copyTable(held.table)
  let count = 0
  for (let corner = 0; corner < made.corners; corner++) {
    if (marks[corner] === 0 || weightSum(rows, corner) === 0) continue
    copyRow(rows, corner, made, corner)
    count++
  }
  const mesh = ownMesh(part.node)
  if (mesh) writeWeights(document, mesh, made)
  return count
}

function widened(table: WeightTable, bones: number): WeightTable {
  const made = emptyTable(table.corners, bones)
  made.boneOf.set(table.boneOf)
  made.weightOf.set(table.weightOf)
  return made
}

function surfaceInScene(part: Part): (HeldSurface & { bones: HeldMesh['bones'] }) | null {
  const held = readHeldMesh(part)
  return held && { ...held, positions: heldPlaces(part, held) }
}

/** From a part’s mesh, as it stands in the scene, to a bone at rest. */
const bindInScene = (bone: HeldMesh['bones'][number], part: Part): number[] =>
  multiplyMatrices(invertMatrix(bone.getWorldMatrix()) ?? identityMatrix(), restMatrix(part.node))
