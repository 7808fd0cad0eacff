import type { Document, Material, Primitive, Texture } from '@gltf-transform/core'
import { listMaterialMaps, materialMap } from '../../item/source-maps.ts'
import { placeOfMap } from '../../item/material-meaning.ts'
import { keyOf } from '../../game/map-roles.ts'
import type { MapRole, Rulebook } from '../../game/schema.ts'
import { listLooks, listShownMaterials, materialInLook } from '../../item/looks.ts'
import { isGameMapRole } from '../../item/map-roles.ts'
import { listViewParts, restMatrix } from '../../item/parts.ts'
import { accessorToFloats, readPrimitive } from '../../item/primitive-arrays.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { triangleAreas } from '../../geometry/surface/sample-surface.ts'
import { uvArea } from '../../geometry/uv/uv-raster.ts'

/** A texture that the game would be given. */
export interface ShownMap {
  texture: Texture
  role: MapRole
  materials: Material[]
}

/**
 * The textures that some look of the item shows in a role that the game reads.
 *
 * @example for (const { texture, role } of listShownMaps(document, rulebook)) shrink(texture, role)
 */
export function listShownMaps(document: Document, rulebook: Rulebook): ShownMap[] {
  const found = new Map<Texture, ShownMap>()
  for (const material of listShownMaterials(document)) {
    for (const role of rulebook.maps.roles) {
      const texture = materialMap(material, keyOf(role, rulebook))
      if (!texture) continue
      const known = found.get(texture) ?? { texture, role, materials: [] }
      known.materials.push(material)
      found.set(texture, known)
    }
  }
  return [...found.values()]
}

/**
 * A surface as a texture lies on it: its UVs in the set that the texture uses, its triangles, and their area in game
 * units².
 */
export interface TexturedSurface {
  primitive: Primitive
  uvs: Float32Array
  indices: Uint32Array
  area: number
}

/**
 * The surfaces seen close by that show a texture.
 * @example if (surfacesShowing(document, texture).length === 0) texture.dispose()
 */
export function surfacesShowing(document: Document, texture: Texture): TexturedSurface[] {
  const found = new Map<Primitive, TexturedSurface>()
  for (const look of listLooks(document)) {
    for (const part of listViewParts(document)) {
      for (const primitive of part.mesh.listPrimitives()) {
        const material = materialInLook(primitive, look)
        const set = material ? uvSetOf(material, texture) : null
        const accessor = set === null ? null : primitive.getAttribute(`TEXCOORD_${set}`)
        if (!accessor || found.has(primitive)) continue
        const { positions, indices } = readPrimitive(primitive)
        const areas = triangleAreas(transformedPoints(positions, restMatrix(part.node)), indices)
        found.set(primitive, {
          primitive,
          uvs: accessorToFloats(accessor),
          indices,
          area: areas.reduce((sum, area) => sum + area, 0),
        })
      }
    }
  }
  return [...found.values()]
}

/** The set of UVs that a texture of a material lies on; null when the material does not show it. */
function uvSetOf(material: Material, texture: Texture): number | null {
  const map = listMaterialMaps(material).find((each) => isGameMapRole(each.role) && each.texture === texture)
  return map ? placeOfMap(material, map.role).set : null
}

/**
 * How many texels of a texture lie on one game unit, on average over the surfaces that show it; null when none does.
 *
 * @example const density = texelsPerUnit(document, texture, 1024, 1024)
 */
export function texelsPerUnit(document: Document, texture: Texture, width: number, height: number): number | null {
  let [area, texels] = [0, 0]
  for (const surface of surfacesShowing(document, texture)) {
    area += surface.area
    texels += uvArea(surface.uvs, surface.indices) * width * height
  }
  return area > 0 && texels > 0 ? Math.sqrt(texels / area) : null
}
