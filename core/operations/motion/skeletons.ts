import type { Document, Node } from '@gltf-transform/core'
import type { Rulebook, Skeleton } from '../../game/schema.ts'
import { gameToWorking, workingToGame } from '../../game/space.ts'
import { itemScene, listSceneNodes } from '../../item/parts.ts'
import { identityMatrix, multiplyMatrices } from '../../maths/axes.ts'
import { chainMatrices, composeMatrix, decomposeMatrix, invertMatrix, type Matrix } from '../../maths/matrices.ts'

type Space = Rulebook['space']

/** What a rulebook takes of one skeleton. */
const MOST_BONES = 1024

/**
 * Stands a skeleton of the game in an item, as it stands in the game.
 * @returns its bones in the order of its list
 *
 * @example const bones = standSkeleton(document, skeleton, rulebook.space)
 */
export function standSkeleton(document: Document, { bones }: Skeleton, space: Space): Node[] {
  const made = new Map<string, { node: Node; world: Matrix }>()
  for (const { name, parent, at, turn } of bones) {
    const world = inOtherSpace(composeMatrix(at, turn, [1, 1, 1]), gameToWorking(space))
    const above = parent === null ? undefined : made.get(parent)
    const local = above ? multiplyMatrices(invertMatrix(above.world) ?? identityMatrix(), world) : world
    const node = document.createNode(name).setMatrix(local as Parameters<Node['setMatrix']>[0])
    if (above) above.node.addChild(node)
    else itemScene(document).addChild(node)
    made.set(name, { node, world })
  }
  return [...made.values()].map(({ node }) => node)
}

/**
 * The bones of an item as a game's skeleton has them: those that hold a mesh, or every node of an item that is nothing
 * but nodes. Scales are left out.
 * @returns null where there are none
 *
 * @example const skeleton = skeletonOf(document, 'rower', 'Rower', rulebook.space)
 */
export function skeletonOf(document: Document, id: string, title: string, space: Space): Skeleton | null {
  const held = new Set(
    document
      .getRoot()
      .listSkins()
      .flatMap((skin) => skin.listJoints()),
  )
  const all = listSceneNodes(document)
  const nodes = held.size > 0 ? all.filter((node) => held.has(node)) : all.some((node) => node.getMesh()) ? [] : all
  if (nodes.length === 0 || nodes.length > MOST_BONES) return null
  const names = new Map<Node, string>()
  const taken = new Set<string>()
  for (const [number, node] of nodes.entries()) {
    const wanted = node.getName() || `bone ${number + 1}`
    const name = taken.has(wanted) ? `${wanted} ${number + 1}` : wanted
    taken.add(name)
    names.set(node, name)
  }
  const bones = nodes.map((node) => {
    let above = node.getParentNode()
    while (above && !names.has(above)) above = above.getParentNode()
    const { translation, rotation } = decomposeMatrix(inOtherSpace(node.getWorldMatrix(), workingToGame(space)))
    return {
      name: names.get(node) ?? '',
      parent: above ? (names.get(above) ?? null) : null,
      at: translation as [number, number, number],
      turn: rotation as [number, number, number, number],
    }
  })
  return { id, title, bones }
}

/** A way written in other axes: there, then the way, then back. A mirrored space mirrors its turns with it. */
const inOtherSpace = (way: Matrix, there: Matrix): Matrix =>
  chainMatrices(there, way, invertMatrix(there) ?? identityMatrix())
