import type { Mesh } from '@gltf-transform/core'
import type { Rulebook } from '../../game/schema.ts'
import { sampleShares } from '../../geometry/surface/sample-shares.ts'
import { worstShift } from '../../geometry/surface/surface-distance.ts'
import type { TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { countMeshTriangles } from '../../item/parts.ts'
import { rememberByValue } from '../../support/remember.ts'
import { readMesh } from './mesh-arrays.ts'

/** An eye tells things apart that lie about so much of their distance from each other: half a degree. */
const NOTICED_SHARE = 0.01
const MOST_SAMPLES = 1000
/** Meshes of several levels of an item with very many parts. */
const MOST_REMEMBERED = 16_384

/**
 * How far a level may lie from the first before one sees the game switch, in game units: by the distance it is drawn
 * from.
 *
 * @example const allowed = noticedShift(rulebook.levels.chain[1])
 */
export const noticedShift = ({ fromDistance }: Rulebook['levels']['chain'][number]): number =>
  fromDistance * NOTICED_SHARE

/**
 * How far made meshes lie from those they were made of at most, each in the units of its own.
 * @param pairs what was there first, and what was made of it
 *
 * @example const [shift] = shiftsBetween([[part.mesh, level.mesh]])
 */
export function shiftsBetween(pairs: readonly (readonly [first: Mesh, made: Mesh])[]): number[] {
  const samples = sampleShares(
    pairs.map(([first]) => countMeshTriangles(first)),
    MOST_SAMPLES,
  )
  return pairs.map(([first, made], index) => worstBetween(shapeOf(first), shapeOf(made), samples[index]))
}

function shapeOf(mesh: Mesh): TriangleSoup {
  const { positions, indices } = readMesh(mesh)
  return { positions, indices }
}

/** Asked again at each check, though few edits change a shape. */
const worstBetween = rememberByValue(
  (first: TriangleSoup, second: TriangleSoup, samples: number): number => worstShift(first, second, samples),
  MOST_REMEMBERED,
)
