import type { LoadedChannel, LoadedMesh, LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import { apart, compose, inverse, multiply } from './matrices.ts'

/** Where what was loaded stands at a time: a node's way to the scene, column by column. */
export type Standing = (node: LoadedNode) => number[]

/**
 * How the game moves what it has loaded: all clips at once, each round and round from 0, straight from key to key.
 * @returns for a time in seconds where each node stands
 *
 * @example const gate = standingsOf(item.clips)(0.5)(gateNode)
 */
export function standingsOf(clips: LoadedMesh['clips']): (seconds: number) => Standing {
  const channels = clips.flatMap(({ channels: own }) => {
    const read = own.filter(({ times }) => times.length > 0)
    const length = Math.max(0, ...read.map(({ times }) => times[times.length - 1]))
    return read.map((channel) => ({ channel, length }))
  })
  const byNode = new Map<LoadedNode, typeof channels>()
  for (const each of channels) byNode.set(each.channel.node, [...(byNode.get(each.channel.node) ?? []), each])
  return (seconds) => {
    const known = new Map<LoadedNode, number[]>()
    const standing: Standing = (node) => {
      const found = known.get(node)
      if (found) return found
      const rest = node.parent ? multiply(inverse(node.parent.world), node.world) : node.world
      const own = byNode.get(node)
      const local = own ? moved(rest, own, seconds) : rest
      const world = node.parent ? multiply(standing(node.parent), local) : local
      known.set(node, world)
      return world
    }
    return standing
  }
}

/**
 * How long it takes until everything has gone round once, at the longest.
 * @example const length = secondsOf(item.clips)
 */
export const secondsOf = (clips: LoadedMesh['clips']): number =>
  Math.max(0, ...clips.flatMap(({ channels }) => channels.map(({ times }) => times[times.length - 1] ?? 0)))

function moved(rest: number[], own: readonly { channel: LoadedChannel; length: number }[], seconds: number): number[] {
  const parts = apart(rest)
  const value = (path: LoadedChannel['path'], otherwise: readonly number[]): readonly number[] => {
    const found = own.find(({ channel }) => channel.path === path)
    if (!found) return otherwise
    return keyAt(found.channel, found.length > 0 && seconds > found.length ? seconds % found.length : seconds)
  }
  return compose(
    value('translation', parts.translation),
    value('rotation', parts.rotation),
    value('scale', parts.scale),
  )
}

/** A channel between its keys, straight; turns are made unit again. */
function keyAt({ path, times, values, interpolation }: LoadedChannel, seconds: number): number[] {
  const size = path === 'rotation' ? 4 : 3
  const cubic = interpolation === 'CUBICSPLINE'
  const row = (key: number): Float32Array =>
    values.subarray((cubic ? key * 3 + 1 : key) * size, (cubic ? key * 3 + 1 : key) * size + size)
  let key = 0
  while (key + 1 < times.length && times[key + 1] <= seconds) key++
  const next = Math.min(times.length - 1, key + 1)
  const gap = times[next] - times[key]
  const share = gap > 0 && interpolation !== 'STEP' ? Math.min(1, Math.max(0, (seconds - times[key]) / gap)) : 0
  const [a, b] = [row(key), row(next)]
  const near = path === 'rotation' && a.reduce((sum, each, axis) => sum + each * b[axis], 0) < 0 ? -1 : 1
  const mixed = Array.from(a, (each, axis) => each + (near * b[axis] - each) * share)
  const length = path === 'rotation' ? Math.hypot(...mixed) || 1 : 1
  return mixed.map((each) => each / length)
}
