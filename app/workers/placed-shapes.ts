import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { multiplyMatrices } from '../../core/maths/axes'
import { decomposeMatrix, transformedPoints } from '../../core/maths/matrices'
import { listViewParts, restMatrix, type Part } from '../../core/item/parts'
import { listSolids } from '../../core/item/annotations/solid/list'
import { readPrimitive } from '../../core/item/primitive-arrays'
import {
  placedMesh,
  UNTURNED,
  type PlacedShape,
  type Quaternion,
  type Triple,
} from '../../core/geometry/shapes/placed-shape'
import { addSolidParameters, shapeEditSchema } from '../../core/operations/solids/add-solid-parameters'
import { editShape, fitSolid, solidGround } from '../../core/operations/solids/solid-shape'
import type { WorklistEntry } from '../../core/worklist/entry'
import type { PlacedShapes } from './yard-messages'

/**
 * The shapes of a step that adds or changes a solid, in the state it is given; none for other steps and for settings
 * that are not whole.
 */
export async function placedShapes(before: Document, entry: WorklistEntry | undefined): Promise<PlacedShapes> {
  if (entry?.step === 'add-solid') {
    const chosen = addSolidParameters.safeParse(entry.parameters)
    const part = chosen.success ? listViewParts(before).find(({ name }) => name === chosen.data.part) : undefined
    if (!chosen.success || !part) return []
    const shapes = await fitSolid(solidGround(before, part, chosen.data), chosen.data, async () => undefined)
    return shapes.map((shape) => inScene(editShape(chosen.data.shape, shape, chosen.data), part))
  }
  if (entry?.step === 'change-solid') {
    const chosen = shapeEditSchema.extend({ solid: z.string() }).safeParse(entry.parameters)
    const solid = chosen.success ? listSolids(before).find(({ name }) => name === chosen.data.solid) : undefined
    const parent = solid?.node.getParentNode()
    if (!chosen.success || !solid || !solid.extras.solid) return []
    const { positions, indices } = readPrimitive(solid.mesh.listPrimitives()[0])
    const shape: PlacedShape = {
      mesh: { positions, indices },
      translation: solid.node.getTranslation() as Triple,
      rotation: (solid.node.getRotation() ?? UNTURNED) as Quaternion,
    }
    return [inScene(editShape(solid.extras.solid.shape, shape, chosen.data), { ...solid, node: parent ?? solid.node })]
  }
  return []
}

function inScene(shape: PlacedShape, part: Pick<Part, 'node'>): PlacedShapes[number] {
  const world = [...restMatrix(part.node)]
  const placed = placedMesh(shape)
  const ends = [0, 1, 2].map((axis) => {
    let [low, high] = [Infinity, -Infinity]
    for (let at = axis; at < shape.mesh.positions.length; at += 3) {
      low = Math.min(low, shape.mesh.positions[at])
      high = Math.max(high, shape.mesh.positions[at])
    }
    return { low, high }
  })
  const middle = placedMesh({
    ...shape,
    mesh: { positions: Float32Array.from(ends.map(({ low, high }) => (low + high) / 2)), indices: new Uint32Array() },
  }).positions
  const own = [...rotationColumns(shape.rotation), 0, 0, 0, 1]
  const at = transformedPoints(middle, world)
  const { rotation } = decomposeMatrix(multiplyMatrices(world, own))
  return {
    middle: [at[0], at[1], at[2]],
    half: ends.map(({ low, high }) => (high - low) / 2) as Triple,
    turn: rotation as Quaternion,
    positions: transformedPoints(placed.positions, world) as Float32Array<ArrayBuffer>,
    indices: placed.indices.slice(),
  }
}

/** The first twelve numbers of a matrix that only turns. */
function rotationColumns([x, y, z, w]: Quaternion): number[] {
  return [
    1 - 2 * (y * y + z * z),
    2 * (x * y + z * w),
    2 * (x * z - y * w),
    0,
    2 * (x * y - z * w),
    1 - 2 * (x * x + z * z),
    2 * (y * z + x * w),
    0,
    2 * (x * z + y * w),
    2 * (y * z - x * w),
    1 - 2 * (x * x + y * y),
    0,
  ]
}
