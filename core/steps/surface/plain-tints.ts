import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { noteGivenUp } from '../../item/given-up.ts'
import { listShownMaterials } from '../../item/looks.ts'
import { rolesOf, settlePlaces } from '../../item/material-meaning.ts'
import { dropIngredients, listMaterialMaps, setMaterialMap } from '../../item/source-maps.ts'
import { averageColour } from '../../operations/maps/average-colour.ts'
import { hexColour, srgbBytes } from '../../operations/maps/map-pixels.ts'
import { surfacesOfMaterial } from '../../operations/maps/unsettled.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'

const parameters = z.object({})

/** Lets each material show one colour, where the game has no pictures. */
export const plainTints = defineStep<z.infer<typeof parameters>>({
  id: 'plain-tints',
  version: 1,
  stage: 'surface',
  title: 'Plain tints',
  purpose:
    'Gives each material the one colour that its picture and its corners show taken together: the game lays no ' +
    'pictures, it tints.',
  parameters,
  fields: () => [],
  defaults: () => ({}),
  propose({ document, rulebook }) {
    if (!rulebook.materials.tinted || rulebook.maps.roles.length > 0) return []
    const pictured = listShownMaterials(document).filter((material) => isPictured(document, material))
    if (pictured.length === 0) return []
    return [
      {
        parameters: {},
        reason:
          `${plural(pictured.length, 'material')} ${pictured.length === 1 ? 'shows' : 'show'} pictures or colours ` +
          'of corners; the game reads one tint of each.',
      },
    ]
  },
  async run({ document, progress }) {
    const pictured = listShownMaterials(document).filter((material) => isPictured(document, material))
    const details: string[] = []
    for (const [number, material] of pictured.entries()) {
      await progress(number / pictured.length, material.getName())
      const tint = await averageColour(document, material)
      material.setBaseColorFactor([...tint, 1])
      noteGivenUp(document, {
        what: 'Pictures',
        where: material.getName(),
        message: `${material.getName()} shows one tint, ${hexColour(srgbBytes(tint))}, instead of its picture`,
        why: 'The game has no pictures on things: what it shows is a finish and a tint.',
      })
      details.push(`${material.getName()} is ${hexColour(srgbBytes(tint))}.`)
    }
    for (const material of pictured) {
      for (const { role } of listMaterialMaps(material)) setMaterialMap(document, material, role, null)
      dropIngredients(document, material)
      settlePlaces(material)
      for (const surface of surfacesOfMaterial(document, material)) surface.setAttribute('COLOR_0', null)
    }
    for (const texture of document.getRoot().listTextures())
      if (texture.listParents().every(({ propertyType }) => propertyType === 'Root')) texture.dispose()
    return {
      headline: pictured.length === 0 ? 'none' : plural(pictured.length, 'tint'),
      details: details.length > 0 ? details : ['Each material has a tint alone.'],
      changed: pictured.length > 0,
    }
  },
})

const isPictured = (document: Document, material: Material): boolean =>
  rolesOf(material).length > 0 ||
  listMaterialMaps(material).length > 0 ||
  surfacesOfMaterial(document, material).some((surface) => surface.getAttribute('COLOR_0') !== null)
