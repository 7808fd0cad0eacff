import type { Rulebook } from '../game/schema.ts'
import { multiply } from './matrices.ts'
import type { LoadedChannel, LoadedMesh } from './loaders/mesh/loaded-mesh.ts'
import type { LoadedPrimitive } from './loaders/mesh/read-primitive.ts'

/**
 * The loader's own way from a game's axes to those of its yard: x to the side, y up, z forward, right-handed. Written
 * from the rulebook alone; `core/game/space.ts` is not asked.
 *
 * @example standUpright(mesh, rulebook)
 */
export function standUpright({ nodes, clips }: LoadedMesh, { space }: Rulebook): void {
  const rows = [sideOf(space), unit(space.up), unit(space.forward)]
  if (rows.every((row, axis) => row[axis] === 1)) return
  const into = [0, 1, 2]
    .flatMap((column) => [rows[0][column], rows[1][column], rows[2][column], 0])
    .concat([0, 0, 0, 1])
  const back = [0, 1, 2].flatMap((row) => [...rows[row], 0]).concat([0, 0, 0, 1])
  for (const { channels } of clips)
    for (const channel of channels) channel.values = turnKeys(channel, rows, space.handedness === 'left')
  const done = new Map<LoadedPrimitive['places'], Float32Array>()
  for (const node of nodes) {
    node.world = multiply(into, multiply(node.world, back))
    for (const held of node.skeleton) held.bind = multiply(into, multiply(held.bind, back))
    if (node.light?.beam) {
      const { towards } = node.light.beam
      node.light.beam.towards = rows.map((row) => dot(row, towards))
    }
    node.translation = [0, 1, 2].map((axis) => dot(rows[axis], node.translation))
    for (const primitive of node.primitives) {
      const known = done.get(primitive.places)
      primitive.positions = known ?? turned(primitive.positions, rows, 3)
      done.set(primitive.places, primitive.positions)
      if (primitive.normals) primitive.normals = turned(primitive.normals, rows, 3)
      if (primitive.tangents) {
        primitive.tangents = turned(primitive.tangents, rows, 4)
        if (space.handedness === 'left')
          for (let at = 3; at < primitive.tangents.length; at += 4) primitive.tangents[at] *= -1
      }
      if (space.handedness === 'left') primitive.indices = primitive.indices.slice().reverse()
    }
  }
}

/**
 * A clip’s keys: places turn with the space, turns about an axis with that axis, which a mirror reverses; sizes change
 * places.
 */
function turnKeys({ path, values }: LoadedChannel, rows: readonly number[][], mirrored: boolean): Float32Array {
  if (path === 'translation') return turned(values, rows, 3)
  if (path === 'scale')
    return turned(
      values,
      rows.map((row) => row.map(Math.abs)),
      3,
    )
  const made = turned(values, rows, 4)
  if (mirrored) for (let at = 0; at < made.length; at++) if (at % 4 !== 3) made[at] *= -1
  return made
}

function turned(values: Float32Array, rows: readonly number[][], size: number): Float32Array {
  const made = values.slice()
  for (let at = 0; at < values.length; at += size)
    for (let axis = 0; axis < 3; axis++) made[at + axis] = dot(rows[axis], values.subarray(at, at + 3))
  return made
}

const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

function unit(axis: string): number[] {
  const vector = [0, 0, 0]
  vector['xyz'.indexOf(axis[1])] = axis[0] === '-' ? -1 : 1
  return vector
}

/** Up × forward, which a left-handed game has on the other side. */
function sideOf({ up, forward, handedness }: Rulebook['space']): number[] {
  const [[a, b, c], [d, e, f]] = [unit(up), unit(forward)]
  const sign = handedness === 'left' ? -1 : 1
  return [b * f - c * e, c * d - a * f, a * e - b * d].map((value) => value * sign)
}
