import type { Document, Node } from '@gltf-transform/core'
import type { SourceClip, SourceNode, SourceTrack } from './source-scene.ts'

/**
 * Adds each clip with the tracks whose nodes are in the scene; clips that move nothing are left out.
 * @example addClips(document, scene.clips, nodes)
 */
export function addClips(document: Document, clips: readonly SourceClip[], nodes: ReadonlyMap<SourceNode, Node>): void {
  for (const clip of clips) {
    const tracks = clip.tracks.filter(
      (track) =>
        nodes.has(track.node) &&
        track.times.length > 0 &&
        track.times.every(Number.isFinite) &&
        track.values.every(Number.isFinite),
    )
    if (tracks.length === 0) continue
    const animation = document.createAnimation(clip.name)
    for (const track of tracks.map(withRisingTimes)) {
      const sampler = document
        .createAnimationSampler()
        .setInterpolation('LINEAR')
        .setInput(accessor(document, track.times, 'SCALAR'))
        .setOutput(outputOf(document, track))
      const channel = document
        .createAnimationChannel()
        .setTargetNode(nodes.get(track.node) ?? null)
        .setTargetPath(track.path)
        .setSampler(sampler)
      animation.addSampler(sampler).addChannel(channel)
    }
  }
}

/**
 * Keys in the order of their times, one at each: glTF wants times that rise. Of several at one time the last written
 * counts.
 */
function withRisingTimes(track: SourceTrack): SourceTrack {
  const { times, values } = track
  if (times.every((time, key) => key === 0 || time > times[key - 1])) return track
  const size = values.length / times.length
  const keyAt = new Map<number, number>()
  times.forEach((time, key) => keyAt.set(time, key))
  const rising = [...keyAt].sort(([a], [b]) => a - b)
  return {
    ...track,
    times: Float32Array.from(rising, ([time]) => time),
    values: Float32Array.from(rising.flatMap(([, key]) => [...values.subarray(key * size, (key + 1) * size)])),
  }
}

const outputOf = (document: Document, track: SourceTrack) =>
  accessor(document, track.values, track.path === 'rotation' ? 'VEC4' : 'VEC3')

const accessor = (document: Document, array: Float32Array, type: 'SCALAR' | 'VEC3' | 'VEC4') =>
  document
    .createAccessor('')
    .setType(type)
    .setArray(array as Float32Array<ArrayBuffer>)
    .setBuffer(document.getRoot().listBuffers()[0])
