import type { Kind, Rulebook } from '../game/schema.ts'
import { boxOf, inScene, sidesOf } from './check-mesh.ts'
import { says, type FlagsOf } from './flags.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import { mirrors } from './matrices.ts'
import type { TrialLog } from './log.ts'

const MOST_DEPTH = 0.02
const MOST_WANDER = 0.02
/** Share of all area that looks one way where a thing has one front. */
const LEAST_ONE_WAY = 0.2
const LEAST_COSINE = Math.cos((5 * Math.PI) / 180)

export type Turns = NonNullable<NonNullable<Kind['mesh']>['facing']>['turns'][number]

/**
 * What is turned to who looks: its own way of turning, its front, its depth, where it hangs.
 * @returns how it turns; null for what stands as it is
 *
 * @example const turns = checkFacing(file, said, view, rulebook, kind, flagsOf, log)
 */
export function checkFacing(
  file: string,
  said: string | undefined,
  view: readonly LoadedNode[],
  rulebook: Rulebook,
  kind: Kind,
  flagsOf: FlagsOf,
  log: TrialLog,
): Turns | null {
  const facing = kind.mesh?.facing
  if (!facing) return null
  const turns = said === undefined ? facing.turns[0] : facing.turns.find((each) => each === said)
  if (!turns) {
    log.refuse('facing.turns', file, `It cannot turn “${said}”.`)
    return null
  }
  const { front, bothSides } = frontOf(view)
  const box = boxOf(view)
  if (!box.every(Number.isFinite)) return turns
  const longest = sidesOf(box)[2]
  if (depthAlong(front, view) > longest * MOST_DEPTH)
    log.complain('facing.flat', file, 'It is not flat, and only its front is seen.')
  if ((bothSides ? Math.abs(front[2]) : front[2]) < LEAST_COSINE)
    log.complain('facing.front', file, 'Its front does not look forward; another side is turned to who looks.')
  const wander = Math.hypot((box[0] + box[3]) / 2, (box[2] + box[5]) / 2)
  if (turns === 'upright' && wander > longest * MOST_WANDER)
    log.complain('facing.pivot', file, `It goes round a line ${wander.toFixed(2)} beside its middle.`)
  if (facing.aboveHead && box[1] < rulebook.space.figure.height)
    log.complain('facing.height', file, `It hangs at ${box[1].toFixed(2)}, lower than a figure’s head.`)
  const silent = rulebook.materials.flags.some(({ means }) => means === 'throws-no-shadow')
  const throwing = view.some(({ primitives }) =>
    primitives.some(({ material }) => !says(flagsOf(material ?? ''), 'throws-no-shadow', rulebook)),
  )
  if (!facing.throwsShadow && silent && throwing)
    log.complain('facing.shadow', file, 'Its shadow turns with who looks.')
  return turns
}

/** Every triangle as three corners in the scene, wound as the game draws it. */
function* trianglesIn(view: readonly LoadedNode[]): Generator<[Float32Array, Float32Array, Float32Array]> {
  for (const node of view)
    for (const { positions, indices } of node.primitives) {
      const p = inScene(node, positions)
      const corner = (at: number): Float32Array => p.subarray(indices[at] * 3, indices[at] * 3 + 3)
      const [second, third] = mirrors(node.world) ? [2, 1] : [1, 2]
      for (let at = 0; at < indices.length; at += 3) yield [corner(at), corner(at + second), corner(at + third)]
    }
}

/** Where most of it looks; where it has as much front as back, where its largest triangle does. */
function frontOf(view: readonly LoadedNode[]): { front: number[]; bothSides: boolean } {
  let [sum, largest] = [
    [0, 0, 0],
    [0, 0, 0],
  ]
  let area = 0
  for (const [a, b, c] of trianglesIn(view)) {
    const [ux, uy, uz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
    const [vx, vy, vz] = [c[0] - a[0], c[1] - a[1], c[2] - a[2]]
    const way = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
    area += Math.hypot(...way)
    sum = sum.map((value, axis) => value + way[axis])
    if (Math.hypot(...way) > Math.hypot(...largest)) largest = way
  }
  const bothSides = Math.hypot(...sum) < area * LEAST_ONE_WAY
  const way = bothSides ? largest : sum
  return { front: way.map((value) => value / (Math.hypot(...way) || 1)), bothSides }
}

/** How far it reaches along a way. */
function depthAlong(way: readonly number[], view: readonly LoadedNode[]): number {
  let [near, far] = [Infinity, -Infinity]
  for (const triangle of trianglesIn(view))
    for (const corner of triangle) {
      const depth = corner[0] * way[0] + corner[1] * way[1] + corner[2] * way[2]
      near = Math.min(near, depth)
      far = Math.max(far, depth)
    }
  return far - near
}
