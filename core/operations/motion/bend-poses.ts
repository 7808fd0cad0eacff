import type { Node } from '@gltf-transform/core'
import type { BoneMatrices } from '../../geometry/skin/skin-points.ts'
import { carriedBy, type RestBone } from '../../maths/bend.ts'
import type { Matrix } from '../../maths/matrices.ts'
import { multiplyMatrices } from '../../maths/axes.ts'
import { SLOTS } from '../../geometry/skin/weight-table.ts'
import type { HeldMesh } from './skin.ts'

/** How far a bone is turned at most when a bend is measured: as far as hinges of things that bend commonly go. */
export const MEASURED_TURN_DEGREES = 45

/** Corners that are moved at most, over all poses: a large mesh with many bones is measured at its strongest bones. */
const MOST_MOVED = 5_000_000
const POSES_A_BONE = 6

/**
 * The number of the bone above each, or -1: the nearest one that it hangs on, whatever stands between.
 *
 * @example const parents = bonesAbove(skin.listJoints())
 */
export function bonesAbove(bones: readonly Node[]): number[] {
  const numberOf = new Map(bones.map((bone, number) => [bone, number]))
  return bones.map((bone) => {
    for (let above = bone.getParentNode(); above; above = above.getParentNode()) {
      const number = numberOf.get(above)
      if (number !== undefined) return number
    }
    return -1
  })
}

/**
 * Bones as they stand at rest.
 * @example const moved = carriedBy(restBones(bones), moves)
 */
export function restBones(bones: readonly Node[]): RestBone[] {
  const above = bonesAbove(bones)
  return bones.map((bone, number) => ({
    name: bone.getName(),
    above: above[number],
    at: bone.getWorldMatrix().slice(12, 15) as [number, number, number],
  }))
}

/**
 * What each bone makes of the mesh as everything stands at rest, to the scene.
 * @example const atRest = restMatrices(held)
 */
export function restMatrices({ bones, binds }: HeldMesh): Matrix[] {
  return bones.map((bone, number) => multiplyMatrices(bone.getWorldMatrix(), binds[number]))
}

/**
 * The poses at which a bend is measured: each bone alone turned either way about each axis through it, with all that
 * hangs on it; by 45°, or by less where it would carry what it holds more than halfway into a bone beside it.
 * @yields ways from the mesh to the scene; the same array each time, to be read before the next is asked for
 *
 * @example for (const matrices of bendPoses(held)) measure(matrices)
 */
export function* bendPoses(held: HeldMesh): Generator<BoneMatrices> {
  const bones = restBones(held.bones)
  const rest = restMatrices(held)
  const matrices = new Float64Array(bones.length * 16)
  const carried = bones.map((_, bone) => hangsOn(bones, bone))
  const degrees = turnsOfBones(held, rest, carried)
  for (const bone of strongestBones(held, carried))
    for (const axis of [0, 1, 2])
      for (const way of [-1, 1]) {
        const turnDegrees = [0, 1, 2].map((each) => (each === axis ? way * degrees[bone] : 0))
        const move = { turnDegrees: turnDegrees as [number, number, number], moved: [0, 0, 0] as const }
        const ways = carriedBy(bones, new Map([[bone, move]]))
        rest.forEach((matrix, number) =>
          matrices.set(carried[number].has(bone) ? multiplyMatrices(ways[number], matrix) : matrix, number * 16),
        )
        yield matrices
      }
}

/** By how many degrees each bone is turned. */
function turnsOfBones(
  { bones, table, positions }: HeldMesh,
  rest: readonly Matrix[],
  carried: readonly Set<number>[],
): number[] {
  const places = bones.map((bone) => bone.getWorldMatrix().slice(12, 15))
  const furthest = new Float64Array(bones.length)
  for (let slot = 0; slot < table.weightOf.length; slot++) {
    const weight = table.weightOf[slot]
    if (weight === 0) continue
    const bone = table.boneOf[slot]
    const m = rest[bone]
    const at = Math.floor(slot / SLOTS) * 3
    const [x, y, z] = [positions[at], positions[at + 1], positions[at + 2]]
    const apart = [0, 1, 2].map((row) => m[row] * x + m[row + 4] * y + m[row + 8] * z + m[row + 12] - places[bone][row])
    furthest[bone] = Math.max(furthest[bone], weight * Math.hypot(...apart))
  }
  return places.map((place, bone) => {
    const beside = places.filter((_, other) => !carried[other].has(bone) && !carried[bone].has(other))
    const gap = Math.min(
      Infinity,
      ...beside.map((other) => Math.hypot(...other.map((value, axis) => value - place[axis]))),
    )
    // A point at the end of a radius r goes 2 r sin(angle / 2) along its chord.
    const share = gap > 0 ? gap / (4 * Math.max(furthest[bone], 1e-12)) : 1
    return share >= 1 ? MEASURED_TURN_DEGREES : Math.min(MEASURED_TURN_DEGREES, (Math.asin(share) * 360) / Math.PI)
  })
}

/** Bones by how much of the mesh they hold, as many as can be measured; those that hold nothing are left out. */
function strongestBones({ table, bones }: HeldMesh, carried: readonly Set<number>[]): number[] {
  const held = new Float64Array(bones.length)
  table.weightOf.forEach((weight, at) => (held[table.boneOf[at]] += weight))
  // What carries a bone moves all that the bone holds.
  for (let bone = 0; bone < bones.length; bone++) for (const each of carried[bone]) held[each] += 1e-9
  return [...held.keys()]
    .filter((bone) => held[bone] > 0)
    .sort((a, b) => held[b] - held[a] || a - b)
    .slice(0, Math.max(1, Math.floor(MOST_MOVED / POSES_A_BONE / Math.max(1, table.corners))))
}

/** The bone itself and all that it hangs on. */
function hangsOn(bones: readonly RestBone[], bone: number): Set<number> {
  const chain = new Set<number>()
  for (let each = bone; each >= 0 && !chain.has(each); each = bones[each].above) chain.add(each)
  return chain
}
