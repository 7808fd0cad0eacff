import type { Kind, Rulebook } from '../game/schema.ts'
import { inScene } from './check-mesh.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import { mirrors } from './matrices.ts'
import type { TrialLog } from './log.ts'

const STEP_SHARE = 0.02
/** Ways on which a place within a body may come to the front of a face, or to none. */
const MOST_OPEN = 2
/** Triangles that are met at most, over all points. */
const MOST_MET = 20_000_000

type Body = { p: Float32Array; indices: LoadedNode['primitives'][number]['indices'] }[]

/**
 * Whether what is joined to a thing can be seen: its attach points lie outside of it and look away.
 * @returns the points at which the game joins things
 *
 * @example const joints = checkAttachPoints(file, nodes, view, rulebook, kind, log)
 */
export function checkAttachPoints(
  file: string,
  nodes: readonly LoadedNode[],
  view: readonly LoadedNode[],
  { points }: Rulebook,
  kind: Kind,
  log: TrialLog,
): LoadedNode[] {
  if (!kind.attachPoints) return []
  const [before, after] = points.attach.split('{point}')
  const own = nodes.filter(
    (node) =>
      node.primitives.length === 0 &&
      node.name.length > before.length + (after ?? '').length &&
      node.name.startsWith(before) &&
      node.name.endsWith(after ?? '') &&
      !nodes.some(({ parent }) => parent === node),
  )
  if (own.length === 0) return []
  checkJoints(file, own, points, log)
  const body: Body = view.flatMap((node) =>
    node.primitives.map(({ positions, indices }) => ({
      p: inScene(node, positions),
      // A mirrored node shows the other side of its triangles as the front.
      indices: mirrors(node.world) ? indices.slice().reverse() : indices,
    })),
  )
  const triangles = body.reduce((sum, { indices }) => sum + indices.length / 3, 0)
  const step = longestSide(body) * STEP_SHARE
  for (const { name, world } of own.slice(0, Math.max(1, Math.floor(MOST_MET / 12 / Math.max(1, triangles))))) {
    const at = world.slice(12, 15)
    const length = Math.hypot(world[8], world[9], world[10]) || 1
    const ahead = at.map((value, axis) => value + (world[8 + axis] / length) * step)
    if (isWithin(at, body, step))
      log.complain('point.inside', file, `${name} lies within the body; what joins is hidden.`)
    else if (isWithin(ahead, body, step)) log.complain('point.inward', file, `${name} looks into the body.`)
  }
  return own
}

function longestSide(body: Body): number {
  const sides = [0, 1, 2].map((axis) => {
    let [least, most] = [Infinity, -Infinity]
    for (const { p, indices } of body)
      for (const corner of indices) {
        least = Math.min(least, p[corner * 3 + axis])
        most = Math.max(most, p[corner * 3 + axis])
      }
    return most - least
  })
  return Math.max(0, ...sides)
}

/** Share of a step within which a place is on the surface rather than behind it. */
const ON_SURFACE = 0.25

/** Looks along both ways of each axis for the nearest face, and whether its back is seen. */
function isWithin(at: readonly number[], body: Body, step: number): boolean {
  let open = 0
  for (const axis of [0, 1, 2])
    for (const sign of [1, -1]) {
      const met = nearestFace(at, axis, sign, body)
      if (met !== null && met.distance <= step * ON_SURFACE) return false
      if (met?.back !== true) open++
    }
  return open <= MOST_OPEN
}

function nearestFace(
  at: readonly number[],
  axis: number,
  sign: number,
  body: Body,
): { distance: number; back: boolean } | null {
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3]
  let nearest: { distance: number; back: boolean } | null = null
  for (const { p, indices } of body)
    for (let triangle = 0; triangle < indices.length; triangle += 3) {
      const [a, b, c] = [indices[triangle] * 3, indices[triangle + 1] * 3, indices[triangle + 2] * 3]
      const area = (p[b + u] - p[a + u]) * (p[c + v] - p[a + v]) - (p[c + u] - p[a + u]) * (p[b + v] - p[a + v])
      if (area === 0) continue
      const s = ((at[u] - p[a + u]) * (p[c + v] - p[a + v]) - (p[c + u] - p[a + u]) * (at[v] - p[a + v])) / area
      const t = ((p[b + u] - p[a + u]) * (at[v] - p[a + v]) - (at[u] - p[a + u]) * (p[b + v] - p[a + v])) / area
      if (s < 0 || t < 0 || s + t > 1) continue
      const place = p[a + axis] + s * (p[b + axis] - p[a + axis]) + t * (p[c + axis] - p[a + axis])
      const distance = (place - at[axis]) * sign
      if (distance < 0 || (nearest && distance >= nearest.distance)) continue
      // The face's own way along this axis is its area seen from there.
      nearest = { distance, back: area * sign > 0 }
    }
  return nearest
}

/** Whether the game knows what may join at each point, and whether there is anything so wide. */
function checkJoints(file: string, own: readonly LoadedNode[], { joins }: Rulebook['points'], log: TrialLog): void {
  if (joins.length === 0) return
  for (const { name, extras } of own) {
    const known = joins.find((each) => each.name === extras['joins'])
    if (!known) log.complain('point.untold', file, `${name} names nothing that joins there; it is never offered.`)
    else if (known.widest !== null && typeof extras['width'] === 'number' && extras['width'] > known.widest)
      log.complain('point.wide', file, `Nothing of the sort ${known.name} is as wide as ${name}.`)
  }
}
