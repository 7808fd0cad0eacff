import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { listAllParts, listUsedMaterials } from '../document/parts.ts'
import type { Kind, Rulebook } from '../rulebook/schema.ts'
import { baseNameOf, materialByBase, materialOptions } from './map-pixels.ts'
import { defineStep, gonePart, plural } from './step.ts'

const parameters = z.object({ from: z.string().max(200), to: z.string().max(200) })
type Parameters = z.infer<typeof parameters>

/** Shows one material in place of another. */
export const shareMaterial = defineStep<Parameters>({
  id: 'share-material',
  version: 1,
  stage: 'surface',
  title: 'Show another material',
  purpose:
    'Shows one of the item’s materials wherever another was, for instance where only one of two models was given the new texture.',
  parameters,
  fields: ({ document, rulebook }) => [
    { type: 'choice', key: 'from', label: 'In place of', options: materialOptions(document, rulebook) },
    { type: 'choice', key: 'to', label: 'Show', options: materialOptions(document, rulebook) },
  ],
  defaults(context) {
    const [first, second] = listUsedMaterials(context.document).map((material) =>
      baseNameOf(material, context.rulebook),
    )
    return (
      unlikeModels(context.document, context.rulebook, context.kind)[0] ?? {
        from: second ?? first ?? '',
        to: first ?? '',
      }
    )
  },
  propose({ document, rulebook, kind }) {
    return unlikeModels(document, rulebook, kind).map((each) => ({
      parameters: each,
      reason: `One model shows ${each.from}, another ${each.to}; with new looks only one of them would change.`,
    }))
  },
  async run({ document, rulebook, parameters: { from, to } }) {
    const [old, other] = [materialByBase(document, rulebook, from), materialByBase(document, rulebook, to)]
    if (!old || !other) return gonePart(old ? to : from)
    let surfaces = 0
    for (const part of listAllParts(document)) {
      for (const primitive of part.mesh.listPrimitives()) {
        if (primitive.getMaterial() !== old || old === other) continue
        primitive.setMaterial(other)
        surfaces++
      }
    }
    if (old !== other) old.dispose()
    for (const texture of document.getRoot().listTextures())
      if (texture.listParents().every((parent) => parent.propertyType === 'Root')) texture.dispose()
    return {
      headline: plural(surfaces, 'surface'),
      details: [`${plural(surfaces, 'surface')} of ${from} ${surfaces === 1 ? 'shows' : 'show'} ${to} now.`],
      changed: surfaces > 0,
    }
  },
})

/** Where each of an item's models has one material and they are not the same: which should stand for which. */
export function unlikeModels(document: Document, rulebook: Rulebook, kind: Kind): Parameters[] {
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
