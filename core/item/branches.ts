import type { Document, Node } from '@gltf-transform/core'
import { descendants, itemScene, listAllParts } from './parts.ts'

/** A thing of a scene with all that hangs on it. */
export interface Branch {
  name: string
  /** Names of its parts with geometry. */
  parts: string[]
}

/**
 * The things that a scene is made of: its topmost nodes that carry geometry. Nodes that only hold everything together,
 * as many programs put above a scene, are looked through.
 *
 * @example branchesOf(document).map(({ name }) => name) // ['bench', 'lamp', 'post']
 */
export function branchesOf(document: Document): Branch[] {
  const withMesh = new Set(listAllParts(document).map(({ node }) => node))
  const carried = (node: Node): Node[] => [node, ...descendants(node)].filter((each) => withMesh.has(each))
  let tops = itemScene(document)
    .listChildren()
    .filter((node) => carried(node).length > 0)
  for (let [only] = tops; tops.length === 1 && !withMesh.has(only); [only] = tops)
    tops = only.listChildren().filter((node) => carried(node).length > 0)
  return tops.map((node) => {
    const parts = carried(node).map((part) => part.getName())
    return { name: node.getName() || parts[0], parts }
  })
}
