import type { Kind, Rulebook } from '../game/schema.ts'
import { inScene } from './check-mesh.ts'
import type { LoadedMesh, LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import type { TrialLog } from './log.ts'
import { standingsOf } from './moving.ts'

type Marker = Rulebook['markers'][number]

const SLACK = 0.25
const MOST_MOMENTS = 64

/**
 * The places that the game reads by name: how many there are, and whether they stand where they should.
 * @example checkMarkers(file, { nodes, clips }, view, rulebook, kind, log)
 */
export function checkMarkers(
  file: string,
  { nodes, clips }: Pick<LoadedMesh, 'nodes' | 'clips'>,
  view: readonly LoadedNode[],
  rulebook: Rulebook,
  kind: Kind,
  log: TrialLog,
): void {
  if (!kind.markers) return
  let ground: Ground | null = null
  const empty = nodes.filter(({ primitives }) => primitives.length === 0)
  for (const marker of rulebook.markers) {
    const own = empty.filter(({ name }) => isCalled(name, marker, rulebook))
    if (own.length < marker.least || (marker.most !== null && own.length > marker.most))
      log.refuse(
        'marker.count',
        file,
        `${own.length} of the marker ${marker.name}; ${marker.least} to ${marker.most ?? 'any number'} are read.`,
      )
    if (!marker.mayRideGroup)
      for (const node of own)
        if (isMoved(node, clips)) log.complain('marker.rides', file, `${node.name} is moved; its place is read once.`)
    if (marker.aboveGround !== null)
      for (const node of own) {
        const height = heightOver(node, (ground ??= groundOf(view)), marker.aboveGround)
        if (height === null || Math.abs(height - marker.aboveGround) > marker.aboveGround * SLACK)
          log.complain(
            'marker.height',
            file,
            `${node.name} does not stand ${marker.aboveGround} above what is under it.`,
          )
      }
    if (marker.belowLowest && own.length > 0) {
      const lowest = lowestEver(view, clips)
      for (const node of own) {
        const below = lowest - node.world[13]
        if (below < marker.belowLowest.least || below > marker.belowLowest.most)
          log.complain('marker.below', file, `${node.name} is ${below.toFixed(2)} below the lowest point.`)
      }
    }
  }
}

/** Whether a clip moves a node, or what it hangs on. */
function isMoved(node: LoadedNode, clips: LoadedMesh['clips']): boolean {
  for (let at: LoadedNode | null = node; at; at = at.parent) {
    const here = at
    if (clips.some(({ channels }) => channels.some((channel) => channel.node === here))) return true
  }
  return false
}

/** A marker of an item, and what it does to who walks. */
export interface LoadedMarker {
  node: LoadedNode
  does: Marker['does']
}

/**
 * The markers that the game reads of an item, in the order of the file.
 * @example const markers = markersOf(nodes, rulebook, kind)
 */
export const markersOf = (nodes: readonly LoadedNode[], rulebook: Rulebook, kind: Kind): LoadedMarker[] =>
  !kind.markers
    ? []
    : nodes
        .filter(({ primitives }) => primitives.length === 0)
        .flatMap((node) => {
          const marker = rulebook.markers.find((each) => isCalled(node.name, each, rulebook))
          return marker ? [{ node, does: marker.does }] : []
        })

function isCalled(name: string, { name: word, most }: Marker, { points }: Rulebook): boolean {
  if (most === 1 && name === word) return true
  const [before, after] = points.marker.replace('{marker}', word).split('{nn}')
  if (after === undefined || !name.startsWith(before) || !name.endsWith(after)) return false
  return /^\d\d+$/.test(name.slice(before.length, name.length - after.length))
}

type Ground = { p: Float32Array; indices: LoadedNode['primitives'][number]['indices'] }[]

/** Everything that is drawn, as it stands at rest. */
const groundOf = (view: readonly LoadedNode[]): Ground =>
  view.flatMap((node) => node.primitives.map(({ positions, indices }) => ({ p: inScene(node, positions), indices })))

/** How far a place is above the first triangle under it, from as far above it as it should stand. */
function heightOver(node: LoadedNode, ground: Ground, reach: number): number | null {
  const [x, y, z] = node.world.slice(12, 15)
  let highest = -Infinity
  for (const { p, indices } of ground)
    for (let at = 0; at < indices.length; at += 3) {
      const [a, b, c] = [indices[at] * 3, indices[at + 1] * 3, indices[at + 2] * 3]
      const area = (p[b] - p[a]) * (p[c + 2] - p[a + 2]) - (p[c] - p[a]) * (p[b + 2] - p[a + 2])
      if (area === 0) continue
      const u = ((x - p[a]) * (p[c + 2] - p[a + 2]) - (p[c] - p[a]) * (z - p[a + 2])) / area
      const v = ((p[b] - p[a]) * (z - p[a + 2]) - (x - p[a]) * (p[b + 2] - p[a + 2])) / area
      if (u < 0 || v < 0 || u + v > 1) continue
      const height = p[a + 1] + u * (p[b + 1] - p[a + 1]) + v * (p[c + 1] - p[a + 1])
      if (height <= y + reach && height > highest) highest = height
    }
  return highest === -Infinity ? null : y - highest
}

/** The lowest that anything drawn reaches while the clips play. */
function lowestEver(view: readonly LoadedNode[], clips: LoadedMesh['clips']): number {
  const keys = clips.flatMap(({ channels }) => channels.flatMap(({ times }) => [...times]))
  const times = [...new Set([0, ...keys])].sort((a, b) => a - b)
  const step = Math.max(1, times.length / MOST_MOMENTS)
  const standingAt = standingsOf(clips)
  let lowest = Infinity
  for (let at = 0; at < Math.min(MOST_MOMENTS, times.length); at++) {
    const standing = standingAt(times[Math.floor(at * step)])
    for (const node of view) {
      // What stands still is looked at once.
      if (at > 0 && !node.moves) continue
      const m = standing(node)
      for (const { positions } of node.primitives)
        for (let p = 0; p < positions.length; p += 3)
          lowest = Math.min(lowest, m[1] * positions[p] + m[5] * positions[p + 1] + m[9] * positions[p + 2] + m[13])
    }
  }
  return lowest
}
