import type { Document, Node } from '@gltf-transform/core'
import { motionsOf } from '../../item/motion-at.ts'
import { listMovingNodes, listSceneNodes, listViewParts } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { multiplyMatrices } from '../../maths/axes.ts'
import { composeMatrix, type Matrix } from '../../maths/matrices.ts'

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

/** Times at which a motion is looked at: its keys, thinned out evenly where there are many. */
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

/** The lowest that anything drawn reaches over the whole motion, in game units; Infinity where nothing is drawn. */
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

/** How a mesh goes over the whole motion: its way to the scene, so many times a second. */
export interface MotionFrames {
  seconds: number
  /** The last of them is the end of the longest clip. */
  frames: number
  parts: { name: string; matrices: Float32Array<ArrayBuffer> }[]
}

const FRAMES_A_SECOND = 30
/** Numbers that are kept at most, for all parts. */
const MOST_NUMBERS = 8_000_000

/**
 * The way of everything that moves, frame by frame, for drawing.
 * @param things what is drawn, and where it is at a time: a column-major matrix
 * @returns null where nothing moves
 */
export function motionFrames<Thing extends { name: string }>(
  things: readonly Thing[],
  seconds: number,
  at: (seconds: number) => (thing: Thing) => ArrayLike<number>,
): MotionFrames | null {
  if (seconds <= 0 || things.length === 0) return null
  const most = Math.max(2, Math.floor(MOST_NUMBERS / (16 * things.length)))
  const frames = Math.min(most, Math.max(2, Math.round(seconds * FRAMES_A_SECOND) + 1))
  const parts = things.map(({ name }) => ({ name, matrices: new Float32Array(frames * 16) }))
  for (let frame = 0; frame < frames; frame++) {
    // Not quite to the end, where the next round begins.
    const standing = at(Math.min(seconds * (1 - 1e-6), (seconds * frame) / (frames - 1)))
    things.forEach((thing, number) => parts[number].matrices.set(standing(thing), frame * 16))
  }
  return { seconds, frames, parts }
}

/** The way of the parts of an item that move, frame by frame; null where none do. */
export function itemMotion(document: Document): MotionFrames | null {
  const moving = listMovingNodes(document)
  const things = listViewParts(document).filter(({ node }) => moving.has(node) && !node.getSkin())
  const poseAt = posesOf(document)
  return motionFrames(things, lastKeyOf(document), (seconds) => {
    const pose = poseAt(seconds)
    return ({ node }) => pose(node)
  })
}

const lastKeyOf = (document: Document): number =>
  Math.max(
    0,
    ...document
      .getRoot()
      .listAnimations()
      .flatMap((clip) => motionsOf(clip).map(({ keySeconds }) => keySeconds.at(-1) ?? 0)),
  )
