import type { Animation, Document } from '@gltf-transform/core'
import { composeMatrix } from '../../maths/matrices.ts'
import { fillGaps, motionsOf, type NodeMotion } from '../motion-at.ts'
import { numberSource, rowsOf, wordSource } from './sources.ts'
import { element, type Element, type Ids } from './xml-text.ts'

/** The short name of the matrix that places a node. */
export const PLACE = 'place'

/** Every clip as an animation, and as a clip where there are several. */
export function motionLibraries(document: Document, ids: Ids): Element[] {
  const clips = document
    .getRoot()
    .listAnimations()
    .map((clip) => ({ clip, motions: motionsOf(clip) }))
    .filter(({ motions }) => motions.length > 0)
  if (clips.length === 0) return []
  return [
    element(
      'library_animations',
      {},
      // One beside the other: clips of groups of animations are not understood everywhere.
      ...clips.flatMap(({ clip, motions }) => motions.map((motion) => nodeAnimation(clip, motion, ids))),
    ),
    element(
      'library_animation_clips',
      {},
      ...clips.map(({ clip, motions }) => {
        const seconds = motions.flatMap(({ keySeconds }) => keySeconds)
        return element(
          'animation_clip',
          {
            id: ids.for(clip, clip.getName() || 'clip'),
            name: clip.getName(),
            start: seconds.reduce((least, each) => Math.min(least, each), Infinity),
            end: seconds.reduce((most, each) => Math.max(most, each), 0),
          },
          ...motions.map((motion) => element('instance_animation', { url: `#${motionId(clip, motion, ids)}` })),
        )
      }),
    ),
  ]
}

/** The id of what a clip does to a node. */
const motionId = (clip: Animation, { node }: NodeMotion, ids: Ids): string =>
  `${ids.for(clip, clip.getName() || 'clip')}-${ids.for(node, node.getName() || 'node')}-motion`

function nodeAnimation(clip: Animation, motion: NodeMotion, ids: Ids): Element {
  const { node, keySeconds, jumps, at } = motion
  const target = ids.for(node, node.getName() || 'node')
  const id = motionId(clip, motion, ids)
  const seconds = jumps ? keySeconds : fillGaps(keySeconds)
  const places = seconds.flatMap((second) => {
    const { translation, rotation, scale } = at(second)
    return rowsOf(composeMatrix(translation, rotation, scale))
  })
  return element(
    'animation',
    { id },
    numberSource(`${id}-seconds`, ['TIME'], seconds),
    numberSource(`${id}-places`, ['TRANSFORM'], places),
    wordSource(
      `${id}-ways`,
      'INTERPOLATION',
      seconds.map(() => (jumps ? 'STEP' : 'LINEAR')),
    ),
    element(
      'sampler',
      { id: `${id}-sampler` },
      element('input', { semantic: 'INPUT', source: `#${id}-seconds` }),
      element('input', { semantic: 'OUTPUT', source: `#${id}-places` }),
      element('input', { semantic: 'INTERPOLATION', source: `#${id}-ways` }),
    ),
    element('channel', { source: `#${id}-sampler`, target: `${target}/${PLACE}` }),
  )
}
