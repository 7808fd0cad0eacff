import { keyOf, meaningsOf, normalRole, packedRoles } from '../../game/map-roles.ts'
import type { ChannelMeaning } from '../../game/schema-surface.ts'
import type { MapRole } from '../../game/schema.ts'
import { setMaterialMap } from '../../item/source-maps.ts'
import type { Document, Material } from '@gltf-transform/core'
import { KHRMaterialsUnlit } from '@gltf-transform/extensions'
import { isUnlit } from '../../item/material-meaning.ts'
import type { Rulebook } from '../../game/schema.ts'
import { growEdges } from '../../pictures/grow-edges.ts'
import { resizePixels } from '../../pictures/resize.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { type BakeCanvas } from './bake-surface.ts'
import { addTexture } from './map-pixels.ts'

/**
 * One material that shows what was painted of several, as the game reads it, and the names of its maps.
 * @example const { material } = bakedMaterial(document, rulebook, { name: 'gate', sidePixels: 1024 }, from, canvas)
 */
export function bakedMaterial(
  document: Document,
  rulebook: Rulebook,
  { name, sidePixels }: { name: string; sidePixels: number },
  from: readonly Material[],
  canvas: BakeCanvas,
): { material: Material; maps: string[] } {
  const finish = (data: Uint8Array, meaning: 'colour' | 'normal' | 'data'): Pixels => {
    const { side, covered } = canvas
    return resizePixels(growEdges({ width: side, height: side, data }, covered), sidePixels, sidePixels, meaning)
  }
  const material = document.createMaterial(name).setRoughnessFactor(1).setMetallicFactor(0)
  material.setDoubleSided(from.some((each) => each.getDoubleSided()))
  const modes = from.map((each) => each.getAlphaMode())
  material.setAlphaMode(modes.includes('BLEND') ? 'BLEND' : modes.includes('MASK') ? 'MASK' : 'OPAQUE')
  if (from.every(isUnlit))
    material.setExtension('KHR_materials_unlit', document.createExtension(KHRMaterialsUnlit).createUnlit())
  const maps = ['colour']
  material.setBaseColorTexture(
    addTexture(document, `${name}_colour`, 'colour', finish(canvas.colour, 'colour'), 'baked'),
  )
  const shining = canvas.differs.shine && !from.every(isUnlit) ? packedRoles(rulebook) : []
  for (const role of shining) {
    const key = keyOf(role, rulebook)
    material.setRoughnessFactor(1).setMetallicFactor(1)
    const pixels = finish(inChannelsOf(role, canvas.shine), 'data')
    setMaterialMap(document, material, key, addTexture(document, `${name}_${role.role}`, key, pixels, 'baked'))
    maps.push(role.role)
  }
  // Shading with packed maps wants a normal map too; where none of the materials had one, a flat one of the smallest
  // size does.
  if (normalRole(rulebook) && (canvas.differs.normal || shining.length > 0)) {
    const side = rulebook.maps.smallestPixels
    const flat: Pixels = {
      width: side,
      height: side,
      data: Uint8Array.from({ length: side * side * 4 }, (_, at) => [128, 128, 255, 255][at % 4]),
    }
    material.setNormalTexture(
      addTexture(
        document,
        `${name}_normal`,
        'normal',
        canvas.differs.normal ? finish(canvas.normal, 'normal') : flat,
        'baked',
      ),
    )
    maps.push('normal')
  }
  return { material, maps }
}

const painted: readonly (ChannelMeaning | null)[] = ['occlusion', 'roughness', 'metalness', 'glow']

/**
 * What was painted, put into the channels in which a role of the game has it; a channel that means something else is
 * empty.
 */
function inChannelsOf(role: MapRole, shine: Uint8Array): Uint8Array {
  const meanings = meaningsOf(role)
  const data = new Uint8Array(shine.length)
  meanings.forEach((meaning, channel) => {
    const from = painted.indexOf(meaning === 'gloss' ? 'roughness' : meaning)
    const empty = meaning === 'full' || (meaning === null && channel === 3) ? 255 : 0
    for (let at = channel; at < data.length; at += 4) {
      const value = from < 0 ? empty : shine[at - channel + from]
      data[at] = meaning === 'gloss' ? 255 - value : value
    }
  })
  return data
}
