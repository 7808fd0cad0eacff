import type { Document } from '@gltf-transform/core'
import { getNodeExtras, setNodeExtras } from './extras.ts'
import { listSceneNodes } from './parts.ts'

/**
 * Gives every node a name of its own, so that a part can be meant by its name: “Plank”, “Plank (2)”.
 * The name as written is kept beside it.
 *
 * @example nameApart(document)
 */
export function nameApart(document: Document): void {
  const free = namesApart()
  for (const node of listSceneNodes(document)) {
    const written = node.getName()
    const name = free(written.trim() || 'part')
    if (name === written) continue
    node.setName(name)
    setNodeExtras(node, { ...getNodeExtras(node), writtenName: written })
  }
}

/**
 * A name that is not taken yet: “Plank”, “Plank (2)”.
 * @example freeName('Plank', new Set(['Plank'])) // 'Plank (2)'
 */
export function freeName(base: string, taken: ReadonlySet<string>): string {
  let name = base
  for (let number = 2; taken.has(name); number++) name = `${base} (${number})`
  return name
}

/** Gives names that were not given before: “Plank”, “Plank (2)”. However many are alike, each takes the same time. */
export function namesApart(): (base: string) => string {
  const taken = new Set<string>()
  const next = new Map<string, number>()
  return (base) => {
    let name = base
    let number = next.get(base) ?? 2
    for (; taken.has(name); number++) name = `${base} (${number})`
    next.set(base, number)
    taken.add(name)
    return name
  }
}
