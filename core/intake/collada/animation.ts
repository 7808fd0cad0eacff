import { limits } from '../../support/limits.ts'
import { sampleTimes, tracksOf, valueAt, type Curve } from '../scene/sampling.ts'
import type { SourceClip, SourceNode } from '../scene/source-scene.ts'
import { inputsOf, type ColladaLibrary } from './library.ts'
import { placeOf, type Move } from './places.ts'
import { allOf, type XmlElement } from '../../support/xml.ts'

/** A node that an animation may aim at, with the moves of its place. */
export interface AimedNode {
  node: SourceNode
  moves: Move[]
}

/** For one node: which numbers of which of its moves a curve drives. */
interface Drive {
  move: number
  /** Number in the move. */
  place: number
  curve: Curve
}

const members: Record<string, number> = { X: 0, Y: 1, Z: 2, ANGLE: 3, R: 0, G: 1, B: 2 }

/**
 * The file's clips where it tells them apart (COLLADA 1.4.1, “animation_clip”), else all its motion as one.
 * @example scene.clips = readClips(library, nodes)
 */
export function readClips(library: ColladaLibrary, nodes: ReadonlyMap<string, AimedNode>): SourceClip[] {
  const told = library.all('animation_clips', 'animation_clip').slice(0, limits.looks)
  const clips = told.flatMap((clip): SourceClip[] => {
    const animations = allOf(clip, 'instance_animation')
      .slice(0, limits.looks)
      .flatMap(({ attributes }) => {
        const animation = library.find(attributes['url'])
        return animation ? [animation] : []
      })
    const tracks = tracksIn(library, animations, nodes)
    return tracks.length > 0 ? [{ name: clip.attributes['name'] || clip.attributes['id'] || 'motion', tracks }] : []
  })
  if (clips.length > 0) return clips
  const tracks = tracksIn(library, library.all('animations', 'animation'), nodes)
  return tracks.length > 0 ? [{ name: 'motion', tracks }] : []
}

function tracksIn(
  library: ColladaLibrary,
  animations: readonly XmlElement[],
  nodes: ReadonlyMap<string, AimedNode>,
): SourceClip['tracks'] {
  const drivesOf = new Map<string, Drive[]>()
  const queue = [...animations]
  while (queue.length > 0) {
    const animation = queue.pop() as XmlElement
    queue.push(...allOf(animation, 'animation'))
    for (const channel of allOf(animation, 'channel')) addChannel(library, channel, nodes, drivesOf)
  }
  return [...drivesOf].flatMap(([id, drives]) => {
    const { node, moves } = nodes.get(id) as AimedNode
    return tracksOf(node, sampleTimes(drives.map(({ curve }) => curve.times)), (seconds) => {
      const moved = moves.map((move) => ({ ...move, numbers: [...move.numbers] }))
      for (const { move, place, curve } of drives) moved[move].numbers[place] = valueAt(curve, seconds)
      return placeOf(moved)
    })
  })
}

/** A target reads “node/move”, “node/move.member” or “node/move(index)”. */
function addChannel(
  library: ColladaLibrary,
  channel: XmlElement,
  nodes: ReadonlyMap<string, AimedNode>,
  drivesOf: Map<string, Drive[]>,
): void {
  const target = /^([^/]+)\/([^.(]+)(?:\.(\w+)|\((\d+)\)(?:\((\d+)\))?)?$/.exec(channel.attributes['target'] ?? '')
  const aimed = target && nodes.get(target[1])
  const sampler = inputsOf(library.find(channel.attributes['source']))
  const source = (semantic: string) => library.source(sampler.find((input) => input.semantic === semantic)?.source)
  const [times, values] = [source('INPUT'), source('OUTPUT')]
  if (!target || !aimed || !times || !values || times.numbers.length === 0) return
  const move = aimed.moves.findIndex((each) => each.sid === target[2])
  if (move < 0) return
  const only =
    target[3] !== undefined
      ? members[target[3]]
      : target[5] !== undefined
        ? Number(target[4]) + Number(target[5]) * 4
        : target[4] !== undefined
          ? Number(target[4])
          : null
  const size = only === null ? aimed.moves[move].numbers.length : 1
  if (only !== undefined && values.numbers.length >= times.numbers.length * size) {
    const drives = drivesOf.get(target[1]) ?? []
    drivesOf.set(target[1], drives)
    for (let place = 0; place < size; place++) {
      const column = Float64Array.from(times.numbers, (_, key) => values.numbers[key * size + place])
      drives.push({ move, place: only ?? place, curve: { times: times.numbers, values: column } })
    }
  }
}
