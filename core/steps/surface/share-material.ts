import { gatherSurfaces } from '../../operations/meshes/gather-surfaces.ts'
import { unlikeModels } from '../../operations/maps/unlike-models.ts'
import { z } from 'zod'
import { listAllParts, listUsedMaterials } from '../../item/parts.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import { materialByBase, materialOptions } from '../../operations/maps/map-pixels.ts'
import { materialInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { plural } from '../../support/wording.ts'

const parameters = z.object({ from: materialInItem, to: materialInItem })
type Parameters = z.infer<typeof parameters>

/** Shows one material in place of another. */
export const shareMaterial = defineStep<Parameters>({
  id: 'share-material',
  version: 2,
  stage: 'surface',
  ofMaps: true,
  title: 'Show another material',
  purpose:
    'Shows one of the item’s materials wherever another was, for instance where only one of two models was ' +
    'given the new texture.',
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
    for (const mesh of document.getRoot().listMeshes()) gatherSurfaces(document, mesh)
    for (const texture of document.getRoot().listTextures())
      if (texture.listParents().every((parent) => parent.propertyType === 'Root')) texture.dispose()
    return {
      headline: plural(surfaces, 'surface'),
      details: [`${plural(surfaces, 'surface')} of ${from} ${surfaces === 1 ? 'shows' : 'show'} ${to} now.`],
      changed: surfaces > 0,
    }
  },
})
