import type { Document, Material } from '@gltf-transform/core'
import { setMaterialMap } from '../item/source-maps.ts'
import { kindOf } from '../game/load.ts'
import { documentOf, unitBox } from './meshes.ts'
import { pictureOf } from './pictures.ts'
import { tarnAndTiller } from './prepared-gate.ts'
import type { Pixels } from '../pictures/pixels.ts'
import { addTexture } from '../operations/maps/map-pixels.ts'

export const grey = (value: number, side = 16): Pixels => pictureOf(side, side, () => [value, value, value])
export const sign = kindOf(tarnAndTiller, 'sign')
export const gear = kindOf(tarnAndTiller, 'gear')

/** One box whose material has maps in the given roles. */
export function boxWith(
  maps: Parameters<typeof setMaterialMap>[2] extends infer R ? Partial<Record<R & string, Pixels>> : never,
  name = 'planks',
): { document: Document; material: Material } {
  const document = documentOf({ box: unitBox() })
  const [material] = document.getRoot().listMaterials()
  material.setName(name)
  for (const [role, pixels] of Object.entries(maps))
    setMaterialMap(
      document,
      material,
      role as 'colour',
      addTexture(document, `${name}_${role}`, role as 'colour', pixels as Pixels, 'test'),
    )
  return { document, material }
}
