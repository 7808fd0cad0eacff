import type { Document } from '@gltf-transform/core'
import { getNodeExtras, setNodeExtras } from './extras.ts'
import { listSceneNodes } from './parts.ts'

/**
 * Gives every node a name of its own, so that a part can be meant by its name: “Plank”, “Plank (2)”.
 * The name as written is kept beside it.
 */
export function nameApart(document: Document): void {
  const taken = new Set<string>()
  for (const node of listSceneNodes(document)) {
    const written = node.getName()
    const name = freeName(written.trim() || 'part', taken)
    taken.add(name)
    if (name === written) continue
    node.setName(name)
    setNodeExtras(node, { ...getNodeExtras(node), writtenName: written })
  }
}

/** A name that is not taken yet: “Plank”, “Plank (2)”. */
export function freeName(base: string, taken: ReadonlySet<string>): string {
  let name = base
  for (let number = 2; taken.has(name); number++) name = `${base} (${number})`
  return name
}
