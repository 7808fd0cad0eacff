import type { Document } from '@gltf-transform/core'
import { createOverlap, type Overlap } from '../../geometry/surface/overlap.ts'
import { getNodeExtras } from '../../item/extras.ts'
import { listViewParts, type Part } from '../../item/parts.ts'
import { chainMatrices, invertMatrix, type Matrix } from '../../maths/matrices.ts'
import { momentsOf, posesOf } from './pose.ts'
import { meshSoup } from './skin.ts'

/** Where one of ours runs into a part of the host while both move. */
export interface Clipping {
  ours: string
  hosts: string
  /** Seconds of the moments at which they meet, rising. */
  seconds: number[]
  /** Whether they meet at every moment that was looked at, as what is hung on something does. */
  always: boolean
}

/** Pairs that are looked at, at most: two hundred parts on two hundred would be forty thousand. */
const MOST_PAIRS = 400
/** Ways that differ by less are the same. */
const SAME_PLACE = 1e-6

/**
 * Where parts of an item run into those of the host that it was put into, sampled over the motion.
 * @example const [first] = findClipping(document)
 */
export function findClipping(document: Document): Clipping[] {
  const parts = listViewParts(document).filter(({ node }) => !node.getSkin())
  const isHosts = ({ node }: Part): boolean => getNodeExtras(node).ofHost === true
  const hosts = parts.filter(isHosts)
  const ours = parts.filter((part) => !isHosts(part))
  if (hosts.length === 0 || ours.length === 0) return []
  const moments = momentsOf(document)
  const poseAt = posesOf(document)
  const poses = moments.map(poseAt)
  const overlaps = new Map(hosts.map((part) => [part, overlapOf(part)]))
  const soups = new Map(ours.map((part) => [part, meshSoup(part.mesh)]))
  const found: Clipping[] = []
  for (const [own, host] of pairs(ours, hosts)) {
    const overlap = overlaps.get(host)
    const soup = soups.get(own)
    if (!overlap || !soup) continue
    // What keeps its place to the other is looked at once.
    let before: { way: Matrix; meets: boolean } | null = null
    const seconds = moments.filter((_, number) => {
      const back = invertMatrix(poses[number](host.node))
      if (!back) return false
      const way = chainMatrices(back, poses[number](own.node))
      if (!before || way.some((value, at) => Math.abs(value - (before?.way[at] ?? 0)) > SAME_PLACE))
        before = { way, meets: overlap.meets(soup.positions, soup.indices, way) }
      return before.meets
    })
    if (seconds.length > 0)
      found.push({ ours: own.name, hosts: host.name, seconds, always: seconds.length === moments.length })
  }
  return found
}

function overlapOf({ mesh }: Part): Overlap {
  const { positions, indices } = meshSoup(mesh)
  return createOverlap(positions, indices)
}

const pairs = (ours: readonly Part[], hosts: readonly Part[]): [Part, Part][] =>
  ours.flatMap((own) => hosts.map((host): [Part, Part] => [own, host])).slice(0, MOST_PAIRS)
