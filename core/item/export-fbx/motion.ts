import type { Document, Node } from '@gltf-transform/core'
import { fillGaps, motionsOf, type NodeMotion } from '../motion-at.ts'
import { floats, line, long, longs, properties, real, whole, wholes, type Value } from './binary-tree.ts'
import type { FbxObjects, ObjectId } from './objects.ts'
import { anglesOf } from './places.ts'

/** Ticks of the file's clock in a second. */
const TICKS_PER_SECOND = 46_186_158_000
/** Straight from key to key, or jumping: the flags that the format has for it. */
const STRAIGHT = 0x04
const JUMP = 0x02

/**
 * Every clip as a stack of one layer, with a curve for each number that a node moves by.
 * @example addClips(document, objects, modelOf)
 */
export function addClips(document: Document, objects: FbxObjects, modelOf: ReadonlyMap<Node, ObjectId>): void {
  for (const clip of document.getRoot().listAnimations()) {
    const motions = motionsOf(clip).filter(({ node }) => modelOf.has(node))
    if (motions.length === 0) continue
    const seconds = motions.flatMap(({ keySeconds }) => keySeconds)
    const time = (name: string, at: number): readonly [string, string, string, string, Value] => [
      name,
      'KTime',
      'Time',
      '',
      long(at * TICKS_PER_SECOND),
    ]
    const start = seconds.reduce((least, each) => Math.min(least, each), Infinity)
    const end = seconds.reduce((most, each) => Math.max(most, each), 0)
    const stack = objects.add(
      'AnimationStack',
      clip.getName(),
      '',
      [
        properties(
          time('LocalStart', start),
          time('LocalStop', end),
          time('ReferenceStart', start),
          time('ReferenceStop', end),
        ),
      ],
      'AnimStack',
    )
    const layer = objects.add(
      'AnimationLayer',
      clip.getName(),
      '',
      [properties(['Weight', 'Number', '', 'A', real(100)])],
      'AnimLayer',
    )
    objects.connect(layer, stack)
    for (const motion of motions) addMotion(objects, layer, motion, modelOf.get(motion.node) ?? 0)
  }
}

function addMotion(objects: FbxObjects, layer: ObjectId, { keySeconds, jumps, at }: NodeMotion, model: ObjectId): void {
  const seconds = jumps ? keySeconds : fillGaps(keySeconds)
  const places = seconds.map((second) => {
    const { translation, rotation, scale } = at(second)
    return { translation, rotation: anglesOf(rotation), scale }
  })
  // An angle that went once round goes on from there.
  for (let key = 1; key < places.length; key++)
    for (let axis = 0; axis < 3; axis++) {
      const before = places[key - 1].rotation[axis]
      places[key].rotation[axis] += 360 * Math.round((before - places[key].rotation[axis]) / 360)
    }
  const parts = [
    ['translation', 'T', 'Lcl Translation'],
    ['rotation', 'R', 'Lcl Rotation'],
    ['scale', 'S', 'Lcl Scaling'],
  ] as const
  for (const [part, letter, property] of parts) {
    const first = places[0][part]
    const node = objects.add(
      'AnimationCurveNode',
      letter,
      '',
      [
        properties(
          ...['X', 'Y', 'Z'].map((axis, number) => [`d|${axis}`, 'Number', '', 'A', real(first[number])] as const),
        ),
      ],
      'AnimCurveNode',
    )
    objects.connect(node, layer)
    objects.connect(node, model, property)
    for (const [number, axis] of ['X', 'Y', 'Z'].entries()) {
      const curve = objects.add(
        'AnimationCurve',
        '',
        '',
        [
          line('Default', real(first[number])),
          line('KeyVer', whole(4008)),
          line('KeyTime', longs(seconds.map((second) => second * TICKS_PER_SECOND))),
          line('KeyValueFloat', floats(places.map((place) => place[part][number]))),
          line('KeyAttrFlags', wholes([jumps ? JUMP : STRAIGHT])),
          line('KeyAttrDataFloat', floats([0, 0, 0, 0])),
          line('KeyAttrRefCount', wholes([seconds.length])),
        ],
        'AnimCurve',
      )
      objects.connect(curve, node, `d|${axis}`)
    }
  }
}
