import type { Document, Node } from '@gltf-transform/core'
import { motionsOf } from '../../item/motion-at.ts'
import { listMovingNodes, listSceneNodes, listViewParts } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { identityMatrix, multiplyMatrices } from '../../maths/axes.ts'
import { composeMatrix, invertMatrix, type Matrix } from '../../maths/matrices.ts'
import { heldBones } from './bendable.ts'

/** Where everything is at a time. */
export type Pose = (node: Node) => Matrix

/**
 * Where the nodes of an item stand while all its clips play, each round and round from 0 as a game plays them; the item
 * itself stays as it is.
 * @returns for a time in seconds the way from each node to the scene, column-major
 *
 * @example const bell = posesOf(document)(0.5)(bellNode)
 */
export function posesOf(document: Document): (seconds: number) => Pose {
  const motions = document
    .getRoot()
    .listAnimations()
    .flatMap((clip) => {
      const own = motionsOf(clip)
      const length = Math.max(0, ...own.map(({ keySeconds }) => keySeconds.at(-1) ?? 0))
      return own.map((motion) => ({ ...motion, length }))
    })
  const nodes = listSceneNodes(document)
  return (seconds) => {
    const moved = new Map(
      motions.map(({ node, at, length }) => {
        const { translation, rotation, scale } = at(length > 0 && seconds > length ? seconds % length : seconds)
        return [node, composeMatrix(translation, rotation, scale)]
      }),
    )
    const worlds = new Map<Node, Matrix>()
    // Parents stand before what hangs on them.
    for (const node of nodes) {
      const own = moved.get(node) ?? node.getMatrix()
      const above = node.getParentNode()
      const parent = above ? worlds.get(above) : undefined
      worlds.set(node, parent ? multiplyMatrices(parent, own) : [...own])
    }
    return (node) => worlds.get(node) ?? node.getWorldMatrix()
  }
}

const MOST_MOMENTS = 64

/**
 * Times at which a motion is looked at: its keys, thinned out evenly where there are many.
 * @example const poses = momentsOf(document).map(posesOf(document))
 */
export function momentsOf(document: Document): number[] {
  const keys = [
    0,
    ...document
      .getRoot()
      .listAnimations()
      .flatMap((clip) => motionsOf(clip).flatMap(({ keySeconds }) => keySeconds)),
  ]
  const sorted = [...new Set(keys)].sort((a, b) => a - b)
  const step = Math.max(1, sorted.length / MOST_MOMENTS)
  return Array.from({ length: Math.min(MOST_MOMENTS, sorted.length) }, (_, at) => sorted[Math.floor(at * step)])
}

/**
 * The lowest that anything drawn reaches over the whole motion, in game units; Infinity where nothing is drawn.
 * @example const ground = lowestOverMotion(document)
 */
export function lowestOverMotion(document: Document): number {
  const poseAt = posesOf(document)
  const poses = momentsOf(document).map(poseAt)
  const moving = listMovingNodes(document)
  let lowest = Infinity
  for (const { node, mesh } of listViewParts(document)) {
    const places = mesh.listPrimitives().map((primitive) => readPrimitive(primitive).positions)
    // What stands still is looked at once.
    for (const pose of moving.has(node) ? poses : poses.slice(0, 1)) {
      const way = pose(node)
      for (const positions of places)
        for (let at = 0; at < positions.length; at += 3)
          lowest = Math.min(
            lowest,
            way[1] * positions[at] + way[5] * positions[at + 1] + way[9] * positions[at + 2] + way[13],
          )
    }
  }
  return lowest
}

/** How an item goes over the whole motion, so many times a second. */
export interface MotionFrames {
  seconds: number
  /** The last of them is the end of the longest clip. */
  frames: number
  /** Each part's way to the scene, column-major. */
  parts: { name: string; matrices: Float32Array<ArrayBuffer> }[]
  /** Of each bone that holds something, in their order, the way from the scene at rest to where it carries that. */
  bones: { name: string; matrices: Float32Array<ArrayBuffer> }[]
}

const FRAMES_A_SECOND = 30
/** Numbers that are kept at most, for all parts. */
const MOST_NUMBERS = 8_000_000

/**
 * The way of everything that moves, frame by frame, for drawing.
 * @param things what is drawn and stiff, and bones with the way from the scene into each at rest
 * @param at where each of them is at a time: a column-major matrix
 * @returns null where nothing moves
 *
 * @example const frames = motionFrames(moving, secondsOf(clips), posesOf(document))
 */
export function motionFrames<Thing>(
  { parts: stiff, bones: holding }: Moving<Thing>,
  seconds: number,
  at: (seconds: number) => (thing: Thing) => ArrayLike<number>,
): MotionFrames | null {
  const count = stiff.length + holding.length
  if (seconds <= 0 || count === 0) return null
  const most = Math.max(2, Math.floor(MOST_NUMBERS / (16 * count)))
  const frames = Math.min(most, Math.max(2, Math.round(seconds * FRAMES_A_SECOND) + 1))
  const empty = ({ name }: { name: string }): MotionFrames['parts'][number] => ({
    name,
    matrices: new Float32Array(frames * 16),
  })
  const [parts, bones] = [stiff.map(empty), holding.map(empty)]
  for (let frame = 0; frame < frames; frame++) {
    // Not quite to the end, where the next round begins.
    const standing = at(Math.min(seconds * (1 - 1e-6), (seconds * frame) / (frames - 1)))
    stiff.forEach(({ thing }, number) => parts[number].matrices.set(standing(thing), frame * 16))
    holding.forEach(({ thing, into }, number) =>
      bones[number].matrices.set(multiplyMatrices(Array.from(standing(thing)), into), frame * 16),
    )
  }
  return { seconds, frames, parts, bones }
}

/** What may move of an item: stiff parts, and bones that hold others, with the way from the scene into each at rest. */
export interface Moving<Thing> {
  parts: readonly { name: string; thing: Thing }[]
  bones: readonly { name: string; thing: Thing; into: readonly number[] }[]
}

/**
 * The way of the parts and bones of an item that move, frame by frame; null where none do.
 * @example const frames = itemMotion(document)
 */
export function itemMotion(document: Document): MotionFrames | null {
  const moving = listMovingNodes(document)
  const poseAt = posesOf(document)
  const bones = heldBones(document)
  return motionFrames(
    {
      parts: listViewParts(document)
        .filter(({ node }) => moving.has(node) && !node.getSkin())
        .map(({ name, node }) => ({ name, thing: node })),
      bones: bones.map((bone) => ({
        name: bone.getName(),
        thing: bone,
        into: invertMatrix(bone.getWorldMatrix()) ?? identityMatrix(),
      })),
    },
    lastKeyOf(document),
    poseAt,
  )
}

const lastKeyOf = (document: Document): number =>
  Math.max(
    0,
    ...document
      .getRoot()
      .listAnimations()
      .flatMap((clip) => motionsOf(clip).map(({ keySeconds }) => keySeconds.at(-1) ?? 0)),
  )
