import { multiplyMatrices } from '../../core/maths/axes'
import { blend, carriedBy, type BoneMove, type HeldCorners } from '../../core/maths/bend'
import { invertMatrix, type Matrix } from '../../core/maths/matrices'
import type { SceneData } from '../workers/scene-data'

type Bend = NonNullable<SceneData['bend']>

/** Where every bone is carried, for moves that are kept by name. */
export function waysOf({ bones }: Bend, moves: ReadonlyMap<string, BoneMove>): Matrix[] {
  const numbered = bones.flatMap(({ name }, number): [number, BoneMove][] => {
    const move = moves.get(name)
    return move ? [[number, move]] : []
  })
  return carriedBy(bones, new Map(numbered))
}

/** From a held mesh to where each of its bones holds it, in the mesh's own space: 16 numbers a bone. */
export function matricesOf(
  { bones, rest }: Bend['held'][number],
  ways: readonly (readonly number[])[],
  meshMatrix: readonly number[],
): Float64Array {
  const back = invertMatrix(meshMatrix)
  const made = new Float64Array(bones.length * 16)
  bones.forEach((bone, number) => {
    const held = multiplyMatrices(ways[bone] ?? [], Array.from(rest.subarray(number * 16, number * 16 + 16)))
    made.set(back ? multiplyMatrices(back, held) : held, number * 16)
  })
  return made
}

/** Writes places and normals of a surface as its bones hold them. */
export function bendSurface(
  rest: { positions: Float32Array; normals: Float32Array | null },
  held: HeldCorners,
  matrices: Float64Array,
  into: { positions: Float32Array; normals: Float32Array | null },
): void {
  blend(rest.positions, held, matrices, true, into.positions)
  if (rest.normals && into.normals) blend(rest.normals, held, matrices, false, into.normals)
}

/**
 * How much one bone holds of each corner, 0 to 1; 2 more where no bone holds it, or weights do not make 1.
 */
export function heldShares({ boneOf, weightOf }: HeldCorners, bone: number, slots: number): Float32Array {
  const shares = new Float32Array(weightOf.length / slots)
  for (let corner = 0; corner < shares.length; corner++) {
    let sum = 0
    for (let at = corner * slots; at < (corner + 1) * slots; at++) {
      sum += weightOf[at]
      if (boneOf[at] === bone) shares[corner] += weightOf[at]
    }
    if (Math.abs(sum - 1) > OFF) shares[corner] += 2
  }
  return shares
}

/** As far as the loader takes a sum for 1. */
const OFF = 0.01
