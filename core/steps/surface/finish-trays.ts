import { z } from 'zod'
import { uniqueName } from '../../game/clean-name.ts'
import { setMaterialTag, materialTag } from '../../game/material-tag.ts'
import { listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { hexColour, srgbBytes } from '../../operations/maps/map-pixels.ts'
import { factorOfHex } from '../../pictures/srgb.ts'
import { namesInItem } from '../item-names.ts'
import { plural } from '../../support/wording.ts'
import { defineStep, gonePart } from '../step.ts'

const parameters = z.object({
  trays: namesInItem,
  surface: z.string().max(64),
  tint: z.string().regex(/^#[0-9a-f]{6}$/i),
})
type Parameters = z.infer<typeof parameters>

/** Gives whole trays another finish and tint at once. */
export const finishTrays = defineStep<Parameters>({
  id: 'finish-trays',
  version: 1,
  stage: 'surface',
  title: 'Finish trays',
  purpose: 'Gives all half-blocks of the chosen trays one finish and one tint; other trays keep theirs.',
  parameters,
  fields: ({ rulebook }) => [
    { type: 'parts', key: 'trays', label: 'Trays' },
    {
      type: 'choice',
      key: 'surface',
      label: 'Finish',
      options: rulebook.materials.surfaces.map(({ name }) => ({ value: name, label: name })),
    },
    { type: 'colour', key: 'tint', label: 'Tint' },
  ],
  defaults: ({ document, rulebook }) => {
    const [first] = listViewParts(document)
    const material = first?.mesh.listPrimitives()[0]?.getMaterial()
    return {
      trays: first ? [first.name] : [],
      surface: (material && materialTag(material, rulebook).surface) ?? rulebook.materials.surfaces[0].name,
      tint: material ? hexColour(srgbBytes(material.getBaseColorFactor())) : '#808080',
    }
  },
  propose: () => [],
  async run({ document, rulebook, parameters: { trays: names, surface, tint } }) {
    const trays = listViewParts(document).filter(({ name }) => names.includes(name))
    if (trays.length === 0 && names.length > 0) return gonePart(names[0])
    const details: string[] = []
    for (const { name, mesh } of trays) {
      const taken = new Set(listUsedMaterials(document).map((material) => material.getName()))
      const material = document.createMaterial().setBaseColorFactor(factorOfHex(tint))
      setMaterialTag(document, material, { base: uniqueName(rulebook, name, taken), surface, flags: [] }, rulebook)
      for (const primitive of mesh.listPrimitives()) primitive.setMaterial(material)
      details.push(`${name} is ${surface}, ${tint.toLowerCase()}.`)
    }
    for (const material of document.getRoot().listMaterials())
      if (material.listParents().every(({ propertyType }) => propertyType === 'Root')) material.dispose()
    return {
      headline: trays.length === 1 && trays[0].name ? trays[0].name : plural(trays.length, 'tray'),
      details: details.length > 0 ? details : ['No tray is chosen yet.'],
      changed: trays.length > 0,
    }
  },
})
