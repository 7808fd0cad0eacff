import { inScene } from './check-mesh.ts'
import type { TrialLog } from './log.ts'
import type { SortedNodes } from './sorted-nodes.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import type { LoadedPrimitive } from './loaders/mesh/read-primitive.ts'

/** Directions may be that far from a length of 1, and weights from a sum of 1. */
const TOLERATED = 0.01
/** A surface is drawn where a triangle's area is above this share of the square of its longest side. */
const NO_AREA = 1e-6

/**
 * Whether one can be lit, bent and seen with the numbers that stand at the corners of everything drawn.
 * @example checkSurfaceValues(file, sorted, log)
 */
export function checkSurfaceValues(file: string, sorted: SortedNodes, log: TrialLog): void {
  for (const node of [...sorted.view, ...[...sorted.levels.values()].flat()]) {
    if (node.primitives.some(({ normals }) => normals && someLengthOff(normals, 3)))
      log.complain('mesh.normal-length', file, `${node.name} has normals that are not one long; there light is wrong.`)
    if (
      node.primitives.some(
        ({ tangents }) =>
          tangents &&
          (someLengthOff(tangents, 4) || tangents.some((value, at) => at % 4 === 3 && Math.abs(value) !== 1)),
      )
    )
      log.complain('mesh.tangent-hand', file, `${node.name} has tangents without length or hand.`)
    if (node.bones.length > 0 && node.primitives.some(weighsOff))
      log.complain('mesh.weights', file, `${node.name} has corners whose weights do not make 1; they fly off.`)
    if (node.primitives.some((primitive) => withoutArea(node, primitive)))
      log.complain('mesh.flat', file, `${node.name} has a surface whose triangles are lines and points.`)
  }
}

function someLengthOff(values: Float32Array, size: number): boolean {
  for (let at = 0; at < values.length; at += size)
    if (Math.abs(Math.hypot(values[at], values[at + 1], values[at + 2]) - 1) > TOLERATED) return true
  return false
}

function weighsOff({ influences }: LoadedPrimitive): boolean {
  const corners = (influences[0]?.weights.length ?? 0) / 4
  for (let corner = 0; corner < corners; corner++) {
    let sum = 0
    for (const { weights } of influences) for (let at = corner * 4; at < corner * 4 + 4; at++) sum += weights[at]
    if (Math.abs(sum - 1) > TOLERATED) return true
  }
  return false
}

function withoutArea(node: LoadedNode, { positions, indices }: LoadedPrimitive): boolean {
  const p = inScene(node, positions)
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [indices[at] * 3, indices[at + 1] * 3, indices[at + 2] * 3]
    const side = (from: number, to: number): number[] => [
      p[to] - p[from],
      p[to + 1] - p[from + 1],
      p[to + 2] - p[from + 2],
    ]
    const [u, v, w] = [side(a, b), side(a, c), side(b, c)]
    const area = Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2
    const longest = Math.max(Math.hypot(...u), Math.hypot(...v), Math.hypot(...w))
    if (area > NO_AREA * longest * longest) return false
  }
  return true
}
