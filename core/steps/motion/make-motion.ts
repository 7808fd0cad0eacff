import type { Document, Node } from '@gltf-transform/core'
import { z } from 'zod'
import { uniqueName } from '../../game/clean-name.ts'
import { groupName } from '../../game/group-names.ts'
import type { Rulebook } from '../../game/schema.ts'
import { gameAxes } from '../../game/space.ts'
import { simpleCurve, simpleWays } from '../../geometry/motion/simple-motion.ts'
import { thinKeys } from '../../geometry/motion/thin-keys.ts'
import { getNodeExtras, setNodeExtras } from '../../item/extras.ts'
import { partsBounds } from '../../item/measure.ts'
import { itemScene, listSceneNodes, listViewParts } from '../../item/parts.ts'
import { renameNode } from '../../item/written-name.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import type { Curve } from '../../maths/curve.ts'
import { invertMatrix } from '../../maths/matrices.ts'
import type { Vector3 } from '../../maths/vectors.ts'
import { movedNodes, moversLike } from '../../operations/motion/groups.ts'
import { hangUnder } from '../../operations/motion/hang.ts'
import { curvesLike, putCurve, takeMotionOff } from '../../operations/motion/put-curve.ts'
import { formatLength, plural } from '../../support/wording.ts'
import { nameInItem } from '../item-names.ts'
import { defineStep, gonePart, type StepSummary } from '../step.ts'

const parameters = z.object({
  /** Name of the group or part that moves. */
  node: nameInItem,
  way: z.enum([...simpleWays, 'like']),
  /** Name of what moves already, for the way `like`. */
  like: nameInItem,
  axis: z.enum(['x', 'y', 'z']),
  /** In game units; below zero the other way. */
  distance: z.number().min(-1e5).max(1e5),
  angleDegrees: z.number().min(-360).max(360),
  seconds: z.number().min(0.1).max(3600),
  easing: z.enum(['even', 'soft']),
  /** At which share of its round it is at 0 s. */
  begins: z.number().min(0).max(1),
  /** About which place a part without a group turns, in the scene; the middle of its foot where none is said. */
  pivot: z.array(z.array(z.number()).length(3)).max(1),
})
type Parameters = z.infer<typeof parameters>

const axes: Record<Parameters['axis'], Vector3> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }
const TURNS_OFF_DEGREES = 0.2

/** How far anything goes, in the game's unit: many times the height of a figure, whatever that is measured in. */
const farthest = ({ figure }: Rulebook['space']): number => Math.max(100, Math.ceil(figure.height * 30))

/** A simple motion made here: along a line and back, to and fro about a hinge, round and round, or like another's. */
export const makeMotion = defineStep<Parameters>({
  id: 'make-motion',
  version: 1,
  stage: 'motion',
  title: 'Make it move',
  purpose:
    'Moves a group or part along a line and back, swings or turns it, or moves it like another; with no more ' +
    'keys than it needs.',
  parameters,
  fields: ({ document, rulebook: { space, motion } }) => [
    { type: 'choice', key: 'node', label: 'Moves', options: movableNames(document).map(option) },
    {
      type: 'choice',
      key: 'way',
      label: 'How',
      options: [
        { value: 'there-and-back', label: 'there and back' },
        { value: 'swing', label: 'swings to both sides' },
        { value: 'open-and-close', label: 'opens and closes' },
        { value: 'turn', label: 'turns round' },
        { value: 'like', label: 'like another' },
      ],
    },
    {
      type: 'choice',
      key: 'like',
      label: 'Like',
      options: [...movedNodes(document)].map((node) => node.getName()).map(option),
      when: { key: 'way', is: ['like'] },
    },
    {
      type: 'choice',
      key: 'axis',
      label: 'Along or about',
      options: gameAxes(space).map(({ letter, working }) => ({ value: 'xyz'[working], label: letter })),
      when: { key: 'way', is: [...simpleWays] },
    },
    {
      type: 'number',
      key: 'distance',
      label: 'How far',
      unit: space.unit.plural,
      least: -farthest(space),
      most: farthest(space),
      step: 0.1,
      when: { key: 'way', is: ['there-and-back'] },
    },
    {
      type: 'number',
      key: 'angleDegrees',
      label: 'How far',
      unit: '°',
      least: -180,
      most: 180,
      step: 1,
      slider: true,
      when: { key: 'way', is: ['swing', 'open-and-close'] },
    },
    {
      type: 'number',
      key: 'seconds',
      label: 'One round takes',
      unit: 's',
      least: 0.1,
      most: motion.longestSeconds,
      step: 0.1,
      slider: true,
      when: { key: 'way', is: [...simpleWays] },
    },
    {
      type: 'choice',
      key: 'easing',
      label: 'At its ends',
      options: [
        { value: 'soft', label: 'slows down' },
        { value: 'even', label: 'as fast as before' },
      ],
      when: { key: 'way', is: [...simpleWays] },
    },
    {
      type: 'number',
      key: 'begins',
      label: 'Begins at',
      unit: 'of a round',
      least: 0,
      most: 1,
      step: 0.05,
      slider: true,
      when: { key: 'way', is: [...simpleWays] },
    },
    {
      type: 'points',
      key: 'pivot',
      label: 'Turns about',
      count: 1,
      unit: space.unit.plural,
      when: { key: 'way', is: ['swing', 'open-and-close', 'turn'] },
    },
  ],
  defaults: ({ document, rulebook: { motion, space } }) => {
    const node = waiting(document)[0]?.getName() ?? movableNames(document)[0] ?? ''
    const like = moversLike(node, [...movedNodes(document)])[0]?.getName() ?? ''
    return {
      node,
      way: like === '' ? ('swing' as const) : ('like' as const),
      like,
      axis: 'y' as const,
      distance: Number(space.figure.height.toPrecision(2)),
      angleDegrees: 40,
      seconds: Math.min(4, motion.longestSeconds),
      easing: 'soft' as const,
      begins: 0,
      pivot: [],
    }
  },
  propose(context) {
    const { document, kind } = context
    if (!kind.motionAsked) return []
    const moved = [...movedNodes(document)]
    return waiting(document).flatMap((node) => {
      const like = moversLike(node.getName(), moved)[0]
      if (!like) return []
      return [
        {
          parameters: {
            ...(this.defaults(context) as Parameters),
            node: node.getName(),
            way: 'like' as const,
            like: like.getName(),
          },
          reason: `${node.getName()} is to move and has no motion; ${like.getName()} is called like it and has one.`,
        },
      ]
    })
  },
  async run({ document, parameters: chosen, rulebook }): Promise<StepSummary> {
    const found = listSceneNodes(document).find((node) => node.getName() === chosen.node)
    if (!found) return gonePart(chosen.node)
    const like = listSceneNodes(document).find((node) => node.getName() === chosen.like)
    if (chosen.way === 'like' && (!like || like === found)) return gonePart(chosen.like)
    const node = holderFor(document, found, chosen, rulebook)
    const before = takeMotionOff(document, node)
    const curves = chosen.way === 'like' && like ? curvesLike(document, like, node) : [made(node, chosen, rulebook)]
    if (curves.length === 0)
      return { headline: 'no motion', details: [`${chosen.like} does not move itself.`], changed: false }
    const clip = document.createAnimation(`${node.getName()} moves`)
    for (const curve of curves) putCurve(document, clip, node, curve)
    dropUnusedAccessors(document)
    const keys = Math.max(...curves.map(({ times }) => times.length))
    const seconds = Math.max(...curves.map(({ times }) => times[times.length - 1]))
    return {
      headline: plural(keys, 'key'),
      details: [
        `${node.getName()} ${inWords(chosen, rulebook)}, ${seconds.toFixed(1)} s a round, by ${plural(keys, 'key')}.`,
        ...(before.length > 0 ? [`What ${before.join(', ')} did with it is gone.`] : []),
      ],
      changed: true,
    }
  },
})

const option = (name: string): { value: string; label: string } => ({ value: name, label: name })

/** Groups that are said to move and that no clip moves. */
function waiting(document: Document): Node[] {
  const moved = movedNodes(document)
  return listSceneNodes(document).filter((node) => getNodeExtras(node).group === 'moves' && !moved.has(node))
}

/** What can be moved: groups first, then parts. */
const movableNames = (document: Document): string[] => [
  ...new Set([
    ...listSceneNodes(document)
      .filter((node) => getNodeExtras(node).group === 'moves')
      .map((node) => node.getName()),
    ...listViewParts(document).map(({ name }) => name),
  ]),
]

/** What is turned: the thing itself, or a group about it at the place that it turns about. */
function holderFor(document: Document, node: Node, { way, pivot }: Parameters, rulebook: Rulebook): Node {
  const turns = way !== 'there-and-back' && way !== 'like'
  const isGroup = getNodeExtras(node).group === 'moves'
  if (pivot.length === 0 && (isGroup || !turns)) return isGroup ? node : asGroup(node, rulebook, document)
  const taken = new Set(listSceneNodes(document).map((each) => each.getName()))
  const holder = document.createNode(uniqueName(rulebook, groupName(rulebook, 'moves', node.getName()), taken))
  const parts = listViewParts(document).filter(({ node: each }) => each === node)
  const box = parts.length > 0 ? partsBounds(parts) : null
  const foot: Vector3 = box
    ? [(box.min[0] + box.max[0]) / 2, box.min[1], (box.min[2] + box.max[2]) / 2]
    : (node.getWorldTranslation() as Vector3)
  const [x, y, z] = (pivot[0] as Vector3 | undefined) ?? foot
  const above = node.getParentNode()
  const back = above ? invertMatrix(above.getWorldMatrix()) : null
  holder.setTranslation(back ? placed(back, [x, y, z]) : [x, y, z])
  setNodeExtras(holder, { role: 'part', group: 'moves' })
  if (above) above.addChild(holder)
  else itemScene(document).addChild(holder)
  hangUnder(node, holder)
  return holder
}

function asGroup(node: Node, rulebook: Rulebook, document: Document): Node {
  const taken = new Set(
    listSceneNodes(document)
      .filter((each) => each !== node)
      .map((each) => each.getName()),
  )
  setNodeExtras(node, { ...getNodeExtras(node), group: 'moves' })
  if (rulebook.motion.groups)
    renameNode(node, uniqueName(rulebook, groupName(rulebook, 'moves', node.getName()), taken))
  return node
}

function made(node: Node, chosen: Parameters, { motion, space }: Rulebook): Curve {
  const above = node.getParentNode()
  const back = above ? invertMatrix(above.getWorldMatrix()) : null
  // The axis is the scene's, the way that the game counts it; a clip says it as what the thing hangs on has it.
  const sign = gameAxes(space).find(({ working }) => 'xyz'[working] === chosen.axis)?.sign ?? 1
  const [x, y, z] = axes[chosen.axis].map((value) => value * sign)
  const axis: Vector3 = back
    ? (placed(back, [x, y, z]).map((value, at) => value - back[12 + at]) as Vector3)
    : [x, y, z]
  const curve = simpleCurve(
    {
      way: chosen.way === 'like' ? 'swing' : chosen.way,
      axis,
      distance: chosen.distance * Math.hypot(...axis),
      angleDegrees: chosen.angleDegrees,
      seconds: Math.min(chosen.seconds, motion.longestSeconds),
      easing: chosen.easing,
      begins: chosen.begins,
    },
    { translation: node.getTranslation(), rotation: node.getRotation() },
    motion.keysPerSecond,
  )
  const allowed = curve.path === 'rotation' ? TURNS_OFF_DEGREES : Math.max(0.001, space.smallestDrawn / 2)
  return thinKeys(curve, { keysPerSecond: motion.keysPerSecond, allowed }).curve
}

const placed = (m: readonly number[], [x, y, z]: readonly number[]): Vector3 =>
  [0, 1, 2].map((row) => m[row] * x + m[4 + row] * y + m[8 + row] * z + m[12 + row]) as Vector3

function inWords({ way, distance, angleDegrees, like }: Parameters, { space }: Rulebook): string {
  if (way === 'like') return `moves like ${like}`
  if (way === 'there-and-back') return `goes ${formatLength(Math.abs(distance))} ${space.unit.plural} and back`
  if (way === 'turn') return 'turns round'
  return way === 'swing' ? `swings ${angleDegrees}° to both sides` : `turns ${angleDegrees}° and back`
}
