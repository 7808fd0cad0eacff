import type { Document } from '@gltf-transform/core'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { listAllParts } from '../../item/parts.ts'
import { baseNameOf } from '../../game/material-tag.ts'

/** Two materials by their base names, of which the second should stand for the first. */
export interface Unlike {
  from: string
  to: string
}

/**
 * Where each of an item's models has one material and they are not the same: which should stand for which.
 * @example const [unlike] = unlikeModels(document, rulebook, kind)
 */
export function unlikeModels(document: Document, rulebook: Rulebook, kind: Kind): Unlike[] {
  if (kind.models.length < 2) return []
  const shown = kind.models.map((model) => [
    ...new Set(
      listAllParts(document)
        .filter((part) => part.extras.role === 'part' && part.extras.model === model)
        .flatMap((part) => part.mesh.listPrimitives().flatMap((primitive) => primitive.getMaterial() ?? [])),
    ),
  ])
  const [first, ...others] = shown
  if (first.length !== 1) return []
  return others.flatMap((materials) =>
    materials.length === 1 && materials[0] !== first[0]
      ? [{ from: baseNameOf(materials[0], rulebook), to: baseNameOf(first[0], rulebook) }]
      : [],
  )
}
