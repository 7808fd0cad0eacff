import type { Document, Node } from '@gltf-transform/core'
import { createOverlap } from '../../geometry/surface/overlap.ts'
import { getNodeExtras } from '../../item/extras.ts'
import { listViewParts, type Part } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { chainMatrices, invertMatrix } from '../../maths/matrices.ts'
import { momentsOf, posesOf } from './pose.ts'

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

/** Where parts of an item run into those of the host that it was put into, sampled over the motion. */
export function findClipping(document: Document): Clipping[] {
  const parts = listViewParts(document).filter(({ node }) => !node.getSkin())
  const isHosts = ({ node }: Part): boolean => getNodeExtras(node).ofHost === true
  const hosts = parts.filter(isHosts)
  const ours = parts.filter((part) => !isHosts(part))
  if (hosts.length === 0 || ours.length === 0) return []
  const moments = momentsOf(document)
  const poseAt = posesOf(document)
  const poses = moments.map(poseAt)
  const overlaps = new Map(hosts.map((part) => [part, createOverlap(...merged(part))]))
  const found: Clipping[] = []
  for (const [own, host] of pairs(ours, hosts)) {
    const overlap = overlaps.get(host)
    const other = merged(own)
    const seconds = moments.filter((_, number) => {
      const back = invertMatrix(poses[number](host.node))
      return back !== null && overlap?.meets(other[0], other[1], chainMatrices(back, poses[number](own.node))) === true
    })
    if (seconds.length > 0)
      found.push({ ours: own.name, hosts: host.name, seconds, always: seconds.length === moments.length })
  }
  return found
}

const pairs = (ours: readonly Part[], hosts: readonly Part[]): [Part, Part][] =>
  ours.flatMap((own) => hosts.map((host): [Part, Part] => [own, host])).slice(0, MOST_PAIRS)

/** All surfaces of a part as one. */
function merged({ mesh }: { mesh: NonNullable<ReturnType<Node['getMesh']>> }): [Float32Array, Uint32Array] {
  const surfaces = mesh.listPrimitives().map(readPrimitive)
  const positions = new Float32Array(surfaces.reduce((sum, each) => sum + each.positions.length, 0))
  const indices: number[] = []
  let at = 0
  for (const each of surfaces) {
    positions.set(each.positions, at)
    for (const index of each.indices) indices.push(index + at / 3)
    at += each.positions.length
  }
  return [positions, Uint32Array.from(indices)]
}
