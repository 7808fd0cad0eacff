import type { Rulebook } from '../../../game/schema.ts'
import type { LoadedLight } from './read-lights.ts'
import type { LoadedPrimitive } from './read-primitive.ts'

export interface LoadedNode {
  name: string
  /** Column-major, to the scene; where its bones hold it at rest, if it has some. */
  world: number[]
  translation: number[]
  /** Whether the node itself turns, scales or mirrors what it holds. */
  turned: boolean
  primitives: LoadedPrimitive[]
  parent: LoadedNode | null
  extras: Record<string, unknown>
  /** Extensions it carries. */
  extensions: string[]
  /** Names of the bones that hold its mesh. */
  bones: string[]
  /** The bones themselves, and the way from the mesh to each at rest. */
  skeleton: { bone: LoadedNode; bind: number[] }[]
  /** What it lights with; null where it is no light that can be read. */
  light: LoadedLight | null
  /** Whether a clip moves it, it is a bone, or something above or below it is. */
  moves: boolean
}

/** One thing that a clip moves: how, at what seconds. */
export interface LoadedChannel {
  node: LoadedNode
  path: 'translation' | 'rotation' | 'scale'
  interpolation: string
  times: Float32Array
  /** 3 or 4 numbers a key; three times as many where a curve leads through them. */
  values: Float32Array
}

/** A mesh file as the loader holds it. */
export interface LoadedMesh {
  nodes: LoadedNode[]
  images: number
  clips: { name: string; channels: LoadedChannel[] }[]
}

/**
 * What a mesh loader is given: the file, the other files of the pack, and the item’s entry for what the format has no
 * word for.
 */
export interface MeshFiles {
  path: string
  bytes: Uint8Array
  archive: ReadonlyMap<string, Uint8Array>
  beside: unknown
  rulebook: Rulebook
}

/** Reads a mesh file. @throws Error with a short reason */
export type MeshLoader = (files: MeshFiles) => LoadedMesh

/**
 * What a clip moves, what it hangs on, and what hangs on it.
 * @example markMoving(nodes, clips.flatMap(({ channels }) => channels.map(({ node }) => node)))
 */
export function markMoving(nodes: readonly LoadedNode[], moved: readonly LoadedNode[]): void {
  const carried = new Set(moved)
  for (const node of nodes) if (node.parent && carried.has(node.parent)) carried.add(node)
  for (const node of moved) for (let above = node.parent; above; above = above.parent) above.moves = true
  for (const node of carried) node.moves = true
}
