import type { Document, Material } from '@gltf-transform/core'
import type { Kind } from '../../game/schema.ts'
import { getMaterialExtras } from '../../item/extras.ts'
import { rolesOf } from '../../item/material-meaning.ts'
import { listUsedMaterials } from '../../item/parts.ts'
import { needsPainting } from './unsettled.ts'

/**
 * Whether the game lays textures on such a thing itself, whatever UVs it came with.
 * @example const uvs = gameLaysUvs(kind) ? null : surface.getAttribute('TEXCOORD_0')
 */
export const gameLaysUvs = ({ mesh }: Pick<Kind, 'mesh'>): boolean => mesh === null || mesh.losesUVs

/**
 * Materials with no map at all, found or awaited: a palette shows their colours, from one place for each. Colours of
 * corners need maps of their own, where there can be such.
 *
 * @example const names = plainMaterials(document, kind).map((material) => material.getName())
 */
export const plainMaterials = (document: Document, kind: Pick<Kind, 'mesh'>): Material[] =>
  listUsedMaterials(document).filter(
    (material) =>
      rolesOf(material).length === 0 &&
      (gameLaysUvs(kind) || !needsPainting(document, material).includes('colours of its corners')) &&
      !getMaterialExtras(material).references.some(
        ({ role, found, stock }) => stock !== undefined || (role === 'colour' && found === null),
      ),
  )
