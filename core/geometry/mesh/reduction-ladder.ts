import { MeshoptSimplifier } from 'meshoptimizer/simplifier'
import type { CornerAttributes } from './corner-attributes.ts'
import { joinAttributes } from './corner-attributes.ts'

/** One mesh of an item, with how large it stands in the scene. */
export interface LadderMesh {
  positions: Float32Array
  indices: Uint32Array
  attributes: CornerAttributes
  /** Scene units for one unit of the mesh. */
  scale: number
}

/** What an item looks like with fewer and fewer triangles. */
export interface LadderLevel {
  /** Over all meshes. */
  triangles: number
  /** Furthest shift of any surface, in scene units. */
  shift: number
  /** Triangles of each mesh, into its own corners. */
  indices: Uint32Array[]
}

const RUNGS = 30
/** From one rung to the next the surfaces may move so much further. */
const STRIDE = 1.32
/** The first rung moves by this share of the item's size. */
const FIRST_SHIFT = 2e-4

/**
 * Levels of an item for dragging a slider: each takes a little more away than the one before, moves no corner, and
 * allows every mesh the same shift. Made once; picking one takes no time.
 * @param size longest side of the item, in scene units
 * @returns from all triangles to few
 *
 * @example const [whole, ...fewer] = await reductionLadder(meshes, longestSide, () => Promise.resolve())
 */
export async function reductionLadder(
  meshes: readonly LadderMesh[],
  size: number,
  progress: (fraction: number) => Promise<void>,
): Promise<LadderLevel[]> {
  await MeshoptSimplifier.ready
  const joined = meshes.map(({ attributes, positions }) => joinAttributes(attributes, positions.length / 3))
  const scales = meshes.map(({ positions }) =>
    positions.length > 0 ? MeshoptSimplifier.getScale(positions, 3) || 1 : 1,
  )
  const count = (lists: readonly Uint32Array[]): number => lists.reduce((sum, list) => sum + list.length / 3, 0)
  let current = meshes.map(({ indices }) => indices)
  const levels: LadderLevel[] = [{ triangles: count(current), shift: 0, indices: current }]
  for (let rung = 0; rung < RUNGS; rung++) {
    await progress(rung / RUNGS)
    const shift = size * FIRST_SHIFT * STRIDE ** rung
    current = current.map((indices, number) => {
      if (indices.length === 0) return indices
      const limit = Math.min(1, shift / meshes[number].scale / scales[number])
      const { array, stride, weights } = joined[number]
      const [next] = MeshoptSimplifier.simplifyWithAttributes(
        indices,
        meshes[number].positions,
        3,
        array,
        stride,
        weights,
        null,
        3,
        limit,
        ['Sparse'],
      )
      return next.length > 0 ? next : indices
    })
    const triangles = count(current)
    if (triangles < (levels.at(-1)?.triangles ?? 0)) levels.push({ triangles, shift, indices: current })
  }
  return levels
}
