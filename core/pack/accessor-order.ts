import type { Accessor, Document } from '@gltf-transform/core'
import { listSceneNodes } from '../item/parts.ts'

/**
 * Puts accessors into the order in which the scene uses them, so that the bytes of a file say nothing of which step
 * happened to make which array first.
 *
 * @example orderAccessors(document)
 */
export function orderAccessors(document: Document): void {
  const root = document.getRoot()
  const old = root.listAccessors()
  const made = new Map<Accessor, Accessor>()
  const fresh = new Set<Accessor>()
  const moved = (accessor: Accessor): Accessor => {
    // A holder that is shared was visited before: it has the new one already.
    if (fresh.has(accessor)) return accessor
    const known = made.get(accessor) ?? accessor.clone()
    made.set(accessor, known)
    fresh.add(known)
    return known
  }
  for (const node of listSceneNodes(document)) {
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const indices = primitive.getIndices()
      if (indices) primitive.setIndices(moved(indices))
      for (const semantic of primitive.listSemantics().sort()) {
        const accessor = primitive.getAttribute(semantic)
        if (accessor) primitive.setAttribute(semantic, null).setAttribute(semantic, moved(accessor))
      }
    }
    const skin = node.getSkin()
    const binds = skin?.getInverseBindMatrices()
    if (skin && binds) skin.setInverseBindMatrices(moved(binds))
  }
  for (const sampler of root.listAnimations().flatMap((animation) => animation.listSamplers())) {
    const [input, output] = [sampler.getInput(), sampler.getOutput()]
    if (input) sampler.setInput(moved(input))
    if (output) sampler.setOutput(moved(output))
  }
  for (const accessor of old) if (made.has(accessor)) accessor.dispose()
}
