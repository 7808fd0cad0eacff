import type { Kind, Rulebook } from '../game/schema.ts'
import type { TrialLog } from './log.ts'
import type { LoadedChannel, LoadedMesh } from './loaders/mesh/loaded-mesh.ts'

/** Times are rounded to 32 bits. */
const ROUNDING = 1.001

/**
 * What the game reads of motion: its rate, its length, its keys, where it begins and whether it comes round.
 * @example checkClips(file, clips, rulebook, kind, log)
 */
export function checkClips(
  file: string,
  clips: LoadedMesh['clips'],
  { motion, space }: Rulebook,
  kind: Kind,
  log: TrialLog,
): void {
  if (!kind.motionAsked) return
  let keys = 0
  const moved = new Set<string>()
  for (const [number, { channels }] of clips.entries()) {
    const read = channels.filter(({ times }) => times.length > 0)
    if (read.length === 0) continue
    const things = [...new Set(read.map(({ node }) => node))].map((node) => keyTimes(read, node))
    keys += things.reduce((sum, times) => sum + times.length, 0)
    const gap = Math.min(...things.map(shortestGap))
    if (gap * motion.keysPerSecond * ROUNDING < 1)
      log.refuse(
        'motion.rate',
        file,
        `Clip ${number + 1} has keys ${gap.toFixed(4)} s apart; ${motion.keysPerSecond} a second are read.`,
      )
    const begins = Math.min(...read.map(({ times }) => times[0]))
    const ends = Math.max(...read.map(({ times }) => times[times.length - 1]))
    if (ends - begins > motion.longestSeconds * ROUNDING)
      log.refuse(
        'motion.long',
        file,
        `Clip ${number + 1} lasts ${(ends - begins).toFixed(1)} s; ${motion.longestSeconds} are read.`,
      )
    if (motion.startsAtZero && begins > 0.001)
      log.complain('motion.start', file, `Clip ${number + 1} begins at ${begins.toFixed(2)} s and not at 0.`)
    const open = read.find((channel) => !comesRound(channel, space.smallestDrawn))
    if (motion.loopsClose && open)
      log.complain('motion.loop', file, `${open.node.name} jumps at the end of clip ${number + 1}.`)
    for (const { node, path } of read) {
      const what = `${node.name} ${path}`
      if (moved.has(what)) log.complain('motion.twice', file, `Another clip moves ${node.name} as well.`)
      moved.add(what)
    }
  }
  if (keys > motion.mostKeys) log.refuse('motion.keys', file, `${keys} keys; ${motion.mostKeys} of an item are read.`)
}

/** What moves a thing at one time is one key of it. */
const keyTimes = (channels: readonly LoadedChannel[], node: LoadedChannel['node']): number[] =>
  [...new Set(channels.flatMap((channel) => (channel.node === node ? [...channel.times] : [])))].sort((a, b) => a - b)

function shortestGap(times: readonly number[]): number {
  let least = Infinity
  for (let at = 0; at + 1 < times.length; at++) least = Math.min(least, times[at + 1] - times[at])
  return least
}

/** Whether a channel ends where it begins, near enough not to be seen. */
function comesRound({ path, values, times, interpolation }: LoadedChannel, smallest: number): boolean {
  const size = path === 'rotation' ? 4 : 3
  const row = interpolation === 'CUBICSPLINE' ? 3 * size : size
  const first = interpolation === 'CUBICSPLINE' ? size : 0
  const last = (times.length - 1) * row + first
  const off = (axis: number): number => values[last + axis] - values[first + axis]
  if (path === 'translation') return Math.hypot(off(0), off(1), off(2)) <= Math.max(1e-4, smallest)
  if (path === 'scale') return [0, 1, 2].every((axis) => Math.abs(off(axis)) <= 0.005)
  let [minus, plus] = [0, 0]
  for (let axis = 0; axis < 4; axis++) {
    minus += off(axis) ** 2
    plus += (values[last + axis] + values[first + axis]) ** 2
  }
  const halfTurn = 2 * Math.asin(Math.min(1, Math.sqrt(Math.min(minus, plus)) / 2))
  return (2 * halfTurn * 180) / Math.PI <= 0.5
}
