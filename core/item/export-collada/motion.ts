import type { Animation, Document } from '@gltf-transform/core'
import { nearTurn } from '../../maths/turns.ts'
import { fillGaps, leavesRest, motionsOf, type NodeMotion } from '../motion-at.ts'
import { settledMatrix } from './settled-matrix.ts'
import { numberSource, rowsOf, wordSource } from './sources.ts'
import { element, type Element, type Ids } from './xml-text.ts'

/** The short name of the matrix that places a node. */
export const PLACE = 'place'

/**
 * Every clip as an animation, and as a clip where there are several.
 * @example root.push(...motionLibraries(document, ids))
 */
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
  const { node, keySeconds, jumps } = motion
  const target = ids.for(node, node.getName() || 'node')
  const id = motionId(clip, motion, ids)
  const seconds = jumps ? keySeconds : fillGaps(keySeconds)
  const at = placesOf(motion, seconds)
  const places = at.places.flatMap(({ translation, rotation, scale }) =>
    rowsOf(settledMatrix(translation, rotation, scale, at.still)),
  )
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

/** Where a node is at each time. What never leaves its rest is as the node has it, since readers take it from there. */
function placesOf({ node, at }: NodeMotion, seconds: readonly number[]) {
  const rest = { translation: node.getTranslation(), rotation: node.getRotation(), scale: node.getScale() }
  const places = seconds.map((second) => {
    const place = at(second)
    return { ...place, rotation: nearTurn(place.rotation, rest.rotation) }
  })
  const isStill = (part: keyof typeof rest): boolean =>
    !leavesRest(
      places.flatMap((place) => place[part]),
      rest[part],
    )
  const still = { translation: isStill('translation'), rotation: isStill('rotation'), scale: isStill('scale') }
  return {
    still,
    places: places.map((place) => ({
      translation: still.translation ? rest.translation : place.translation,
      rotation: still.rotation ? rest.rotation : place.rotation,
      scale: still.scale ? rest.scale : place.scale,
    })),
  }
}
