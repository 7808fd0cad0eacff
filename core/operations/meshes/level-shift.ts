import type { Mesh } from '@gltf-transform/core'
import type { Rulebook } from '../../game/schema.ts'
import { surfaceDifference } from '../../geometry/surface/surface-distance.ts'
import type { TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { rememberByValue } from '../../support/remember.ts'
import { readMesh } from './mesh-arrays.ts'

/** An eye tells things apart that lie about so much of their distance from each other: half a degree. */
const NOTICED_SHARE = 0.01
const SAMPLES = 1000

/**
 * How far a level may lie from the first before one sees the game switch, in game units: by the distance it is drawn
 * from.
 */
export const noticedShift = ({ fromDistance }: Rulebook['levels']['chain'][number]): number =>
  fromDistance * NOTICED_SHARE

/** How far two meshes lie apart at most, in their own units. */
export const shiftBetween = (first: Mesh, second: Mesh): number => worstBetween(shapeOf(first), shapeOf(second))

function shapeOf(mesh: Mesh): TriangleSoup {
  const { positions, indices } = readMesh(mesh)
  return { positions, indices }
}

/** Asked again at each check, though few edits change a shape. */
const worstBetween = rememberByValue(
  (first: TriangleSoup, second: TriangleSoup): number => surfaceDifference(first, second, SAMPLES).worst,
  64,
)
