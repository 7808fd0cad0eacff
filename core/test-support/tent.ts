import type { Document } from '@gltf-transform/core'
import { kindOf } from '../game/load.ts'
import { weightOfBone } from '../geometry/skin/weight-table.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { listHeldParts, readHeldMesh } from '../operations/motion/skin.ts'
import { documentOf } from './meshes.ts'
import { tarnAndTiller } from './prepared-gate.ts'
import { runStep } from './step-runs.ts'

const bender = kindOf(tarnAndTiller, 'bender')
/** The game and the kind that bends in it. */
export const bending = { rulebook: tarnAndTiller, kind: bender }

/** A flat cloth from x = −5 to 5 at height 4, as columns of squares. */
export function cloth(columns: number, rows = 2) {
  const positions: number[] = []
  const indices: number[] = []
  for (let x = 0; x <= columns; x++) for (let z = 0; z <= rows; z++) positions.push((x / columns) * 10 - 5, 4, z)
  for (let x = 0; x < columns; x++)
    for (let z = 0; z < rows; z++) {
      const [a, b] = [x * (rows + 1) + z, (x + 1) * (rows + 1) + z]
      indices.push(a, a + 1, b + 1, a, b + 1, b)
    }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}
/** A post that stands under the cloth. */
export const post = (x: number) => boxMesh({ min: [x - 0.1, 3, 0], max: [x + 0.1, 4, 2] })
/** The cloth over a post at each end. */
export const tent = (columns = 10) => documentOf({ cloth: cloth(columns), left: post(-5), right: post(5) })

/** What holds a part. @throws Error where nothing does */
export const heldOf = (document: Document, name = 'cloth') => {
  const part = listHeldParts(document).find((each) => each.name === name)
  const mesh = part && readHeldMesh(part)
  if (!mesh) throw new Error(`nothing holds ${name}`)
  return mesh
}
/** How much a bone holds of the cloth at some place along it. */
export const shareAt = (document: Document, x: number, bone: number): number => {
  const { positions, table } = heldOf(document)
  const corner = [...Array(table.corners).keys()].find((each) => Math.abs(positions[each * 3] - x) < 1e-4)
  return weightOfBone(table, corner ?? -1, bone)
}
/** The tent with a bone a post. */
export const tentWithBones = async (document = tent(), parameters = {}) =>
  (
    await runStep(
      'make-bones',
      document,
      { from: 'parts', bones: ['left', 'right'], skeleton: '', bent: ['cloth'], ...parameters },
      bending,
    )
  ).after
