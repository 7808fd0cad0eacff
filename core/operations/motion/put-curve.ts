import type { Animation, Document, Node } from '@gltf-transform/core'
import { curveOf } from '../../item/motion-at.ts'
import type { Curve } from '../../maths/curve.ts'
import { multiplyTurns } from '../../maths/turns.ts'

/**
 * Takes all motion off a node; clips that move nothing any more go. @returns names of the clips that moved it
 * @example const clips = takeMotionOff(document, node)
 */
export function takeMotionOff(document: Document, node: Node): string[] {
  const clips = document
    .getRoot()
    .listAnimations()
    .filter((clip) => clip.listChannels().some((channel) => channel.getTargetNode() === node))
  for (const clip of clips) {
    for (const channel of clip.listChannels().filter((each) => each.getTargetNode() === node)) {
      const sampler = channel.getSampler()
      channel.dispose()
      if (sampler && !clip.listChannels().some((each) => each.getSampler() === sampler)) sampler.dispose()
    }
    if (clip.listChannels().length === 0) clip.dispose()
  }
  return clips.map((clip) => clip.getName())
}

/**
 * Moves a node by a curve, as one thing of a clip.
 * @example putCurve(document, document.createAnimation('swing'), node, curve)
 */
export function putCurve(document: Document, clip: Animation, node: Node, curve: Curve): void {
  const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer()
  const accessor = (type: 'SCALAR' | 'VEC3' | 'VEC4', array: Float32Array) =>
    document.createAccessor().setType(type).setArray(array.slice()).setBuffer(buffer)
  const sampler = document
    .createAnimationSampler()
    .setInput(accessor('SCALAR', curve.times))
    .setOutput(accessor(curve.path === 'rotation' ? 'VEC4' : 'VEC3', curve.values))
    .setInterpolation(curve.interpolation)
  clip.addSampler(sampler)
  clip.addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(curve.path).setSampler(sampler))
}

/**
 * The curves of what moves one node, for another: as far from where that one stands as the first goes from its own.
 * @example for (const curve of curvesLike(document, first, second)) putCurve(document, clip, second, curve)
 */
export function curvesLike(document: Document, model: Node, node: Node): Curve[] {
  return document
    .getRoot()
    .listAnimations()
    .flatMap((clip) => clip.listChannels())
    .filter((channel) => channel.getTargetNode() === model)
    .flatMap((channel) => {
      const curve = curveOf(channel)
      return curve ? [fromRest(curve, model, node)] : []
    })
}

function fromRest(curve: Curve, model: Node, node: Node): Curve {
  const values = curve.values.slice()
  const rows = curve.interpolation === 'CUBICSPLINE' ? 3 : 1
  const size = curve.path === 'rotation' ? 4 : 3
  const [a, b] =
    curve.path === 'rotation'
      ? [model.getRotation(), node.getRotation()]
      : curve.path === 'translation'
        ? [model.getTranslation(), node.getTranslation()]
        : [model.getScale(), node.getScale()]
  for (let at = 0; at < values.length; at += size) {
    // Ways in and out of a key are no places: turns and sizes take them along, places leave them.
    const isWay = rows === 3 && (at / size) % 3 !== 1
    if (curve.path === 'rotation')
      values.set(multiplyTurns(values.subarray(at, at + 4), multiplyTurns([-a[0], -a[1], -a[2], a[3] ?? 1], b)), at)
    else if (curve.path === 'translation') {
      if (!isWay) for (let axis = 0; axis < 3; axis++) values[at + axis] += b[axis] - a[axis]
    } else for (let axis = 0; axis < 3; axis++) values[at + axis] *= b[axis] / (a[axis] || 1)
  }
  return { ...curve, values }
}
