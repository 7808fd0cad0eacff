import type { Kind, Rulebook } from '../../game/schema.ts'
import { inScene } from '../check-mesh.ts'
import type { ShownMaterial } from '../check-look.ts'
import type { LoadedSolid } from '../check-solids.ts'
import type { LoadedNode } from '../loaders/mesh/loaded-mesh.ts'
import type { TrialLog } from '../log.ts'

/**
 * Whether what an item is like is there, may be, and suits what the item is made of.
 * @example checkLike(path, entry.like, { view, solids, materials }, kind, rulebook, log)
 */
export function checkLike(
  path: string,
  like: string | undefined,
  item: { view: readonly LoadedNode[]; solids: readonly LoadedSolid[]; materials: ReadonlyMap<string, ShownMaterial> },
  kind: Kind,
  { stock, behaviour }: Rulebook,
  log: TrialLog,
): void {
  if (like === undefined) {
    if (kind.donorAsked) log.refuse('like.missing', path, `A ${kind.id} has to say what it is like.`)
    return
  }
  const donor = behaviour.likeDonor ? stock.donors.find(({ id }) => id === like) : undefined
  if (!donor) {
    log.refuse('entry.like', path, `There is nothing called ${like} to be like.`)
    return
  }
  if (donor.kinds && !donor.kinds.includes(kind.id)) {
    log.refuse('like.kind', path, `No ${kind.id} is like ${like}.`)
    return
  }
  const areas = new Map<string, number>()
  for (const node of item.view)
    for (const { material, positions, indices } of node.primitives) {
      const surface = item.materials.get(material ?? '')?.surface ?? ''
      if (surface !== '') areas.set(surface, (areas.get(surface) ?? 0) + areaOf(inScene(node, positions), indices))
    }
  const [most] = [...areas].sort(([, a], [, b]) => b - a)
  if (most && most[0] !== donor.surface)
    log.complain('like.sound', path, `It is ${most[0]} for the most part, and sounds like ${donor.surface}.`)
  if (item.solids.length > 0 && !item.solids.some(({ surface }) => surface === donor.surface))
    log.complain('like.solids', path, `None of its solids is ${donor.surface}, as ${like} is.`)
  if (donor.remainsSurface !== null && most && !areas.has(donor.remainsSurface))
    log.complain('like.remains', path, `Nothing of it is ${donor.remainsSurface}, of which it leaves ${donor.remains}.`)
}

/** Half the length of the cross product of two sides, over all triangles. */
function areaOf(p: Float32Array, indices: ArrayLike<number>): number {
  let sum = 0
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [indices[at] * 3, indices[at + 1] * 3, indices[at + 2] * 3]
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]]
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]]
    sum += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2
  }
  return sum
}
