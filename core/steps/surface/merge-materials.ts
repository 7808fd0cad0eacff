import { gatherSurfaces } from '../../operations/meshes/gather-surfaces.ts'
import { materialTag } from '../../game/material-tag.ts'
import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { listAllParts, listUsedMaterials } from '../../item/parts.ts'
import { listLooks } from '../../item/looks.ts'
import { glowFactor, isUnlit, placeOfMap } from '../../item/material-meaning.ts'
import { listMaterialMaps } from '../../item/source-maps.ts'
import { hashValue } from '../../support/hashing.ts'
import type { Rulebook } from '../../game/schema.ts'
import { pictureHash } from '../../pictures/picture-hash.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'

const parameters = z.object({})

/** Makes one of materials that show the same. */
export const mergeMaterials = defineStep<z.infer<typeof parameters>>({
  id: 'merge-materials',
  version: 3,
  stage: 'surface',
  title: 'Merge materials',
  purpose: 'Makes one of materials with equal maps, colours and flags; each material is a draw call.',
  parameters,
  fields: () => [],
  defaults: () => ({}),
  propose({ document, rulebook }) {
    const doubles = groupsOfEqual(document, rulebook).filter((group) => group.length > 1)
    if (doubles.length === 0) return []
    return [
      {
        parameters: {},
        reason:
          doubles
            .map((group) => `${group.map((material) => material.getName()).join(' and ')} show the same`)
            .join('; ') + '.',
      },
    ]
  },
  async run({ document, rulebook }) {
    const details: string[] = []
    for (const [first, ...rest] of groupsOfEqual(document, rulebook)) {
      for (const other of rest) {
        for (const part of listAllParts(document))
          for (const primitive of part.mesh.listPrimitives())
            if (primitive.getMaterial() === other) primitive.setMaterial(first)
        details.push(`${other.getName()} is ${first.getName()} now.`)
        other.dispose()
      }
    }
    if (details.length > 0) for (const mesh of document.getRoot().listMeshes()) gatherSurfaces(document, mesh)
    return {
      headline: details.length > 0 ? `−${details.length}` : '0',
      details: details.length > 0 ? details : [`All ${plural(listUsedMaterials(document).length, 'material')} differ.`],
      changed: details.length > 0,
    }
  },
})

/**
 * Materials by what they show. An item with further looks is left alone: its materials may be equal in one look only.
 */
function groupsOfEqual(document: Document, rulebook: Rulebook): Material[][] {
  if (listLooks(document).length > 1) return []
  const groups = new Map<string, Material[]>()
  for (const material of listUsedMaterials(document)) {
    const key = contentOf(material, rulebook)
    groups.set(key, [...(groups.get(key) ?? []), material])
  }
  return [...groups.values()]
}

/** The tag is content too: a plank of timber is not a plank of iron. Names in front of it are not. */
function contentOf(material: Material, rulebook: Rulebook): string {
  const { surface, flags } = materialTag(material, rulebook)
  const maps = listMaterialMaps(material).map(({ role, texture }) => [
    role,
    pictureHash(texture.getImage() ?? new Uint8Array()),
    placeOfMap(material, role),
  ])
  return hashValue([
    surface,
    flags,
    maps,
    material.getBaseColorFactor(),
    material.getMetallicFactor(),
    material.getRoughnessFactor(),
    glowFactor(material),
    isUnlit(material),
    material.getOcclusionStrength(),
    material.getNormalScale(),
    material.getAlphaMode(),
    material.getAlphaCutoff(),
    material.getDoubleSided(),
  ])
}
