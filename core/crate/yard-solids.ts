import type { Document } from '@gltf-transform/core'
import { decomposeMatrix, transformedPoints } from '../maths/matrices.ts'
import { restMatrix } from '../item/parts.ts'
import { listSolids } from '../item/annotations/solid/list.ts'
import { readPrimitive } from '../item/primitive-arrays.ts'
import type { LoadedSolid } from '../trial/check-solids.ts'

/**
 * The solids of an item that is still being worked on, as the game would hold them once it is packed.
 * @example const solids = yardSolids(document)
 */
export function yardSolids(document: Document): LoadedSolid[] {
  return listSolids(document).flatMap((solid): LoadedSolid[] => {
    const facts = solid.extras.solid
    const [primitive] = solid.mesh.listPrimitives()
    // Without surface kind the game does not read it.
    if (!facts || facts.surface === null || !primitive) return []
    const { positions, indices } = readPrimitive(primitive)
    const world = [...restMatrix(solid.node)]
    const { rotation, scale } = decomposeMatrix(world)
    const ends = [0, 1, 2].map((axis) => {
      let [low, high] = [Infinity, -Infinity]
      for (let at = axis; at < positions.length; at += 3) {
        low = Math.min(low, positions[at])
        high = Math.max(high, positions[at])
      }
      return { low, high }
    })
    const [middle] = [transformedPoints(Float32Array.from(ends.map(({ low, high }) => (low + high) / 2)), world)]
    return [
      {
        name: solid.name,
        shape: facts.shape,
        surface: facts.surface,
        layers: facts.layers,
        massKilograms: facts.massKilograms,
        positions: transformedPoints(positions, world),
        indices,
        rotation: rotation as LoadedSolid['rotation'],
        middle: [middle[0], middle[1], middle[2]],
        half: ends.map(({ low, high }, axis) => ((high - low) / 2) * Math.abs(scale[axis])) as LoadedSolid['half'],
      },
    ]
  })
}
