import type { Material, Texture, TextureInfo } from '@gltf-transform/core'
import type { EmissiveStrength, Transform } from '@gltf-transform/extensions'
import type { GameMapRole, IngredientRole } from './map-roles.ts'
import { listMaterialMaps, materialMap } from './source-maps.ts'

export type MapRole = GameMapRole | IngredientRole
export type WrapMode = 'repeat' | 'mirror' | 'clamp'

/** How a map lies on a surface: which UV set, moved how, and what is beyond its edges. */
export interface MapPlace {
  set: number
  /** u' = a·u + b·v + e, v' = c·u + d·v + f. */
  transform: readonly [a: number, b: number, c: number, d: number, e: number, f: number]
  wrap: readonly [across: WrapMode, down: WrapMode]
}

const STILL = [1, 0, 0, 1, 0, 0] as const
const plainPlace: MapPlace = { set: 0, transform: STILL, wrap: ['repeat', 'repeat'] }
const wrapModes: Record<number, WrapMode> = { 10497: 'repeat', 33648: 'mirror', 33071: 'clamp' }

/**
 * Whether a picture lies on its UVs as they are: not moved, scaled or turned.
 * @example isStill({ set: 0, transform: [1, 0, 0, 1, 0, 0], wrap: ['repeat', 'repeat'] }) // true
 */
export const isStill = ({ set, transform }: MapPlace): boolean =>
  set === 0 && transform.every((value, index) => Math.abs(value - STILL[index]) < 1e-6)

/**
 * Whether two pictures lie alike: on the same set of UVs, moved alike.
 * @example const apart = places.filter((place) => !samePlace(place, first))
 */
export const samePlace = (a: MapPlace, b: MapPlace): boolean =>
  a.set === b.set && a.transform.every((value, index) => Math.abs(value - b.transform[index]) < 1e-6)

/**
 * Where a material's map lies. Maps that glTF has no place for lie as the colour does.
 *
 * @example const { set, transform } = placeOfMap(material, 'colour')
 */
export function placeOfMap(material: Material, role: MapRole): MapPlace {
  const info = infoOf(material, role)
  if (!info) return plainPlace
  const moved = info.getExtension<Transform>('KHR_texture_transform')
  return {
    set: moved?.getTexCoord() ?? info.getTexCoord(),
    transform: moved ? transformOf(moved) : STILL,
    wrap: [wrapModes[info.getWrapS()] ?? 'repeat', wrapModes[info.getWrapT()] ?? 'repeat'],
  }
}

function infoOf(material: Material, role: MapRole): TextureInfo | null {
  const texture = materialMap(material, role)
  if (role === 'normal') return material.getNormalTextureInfo()
  if (role === 'metal-rough') return material.getMetallicRoughnessTextureInfo()
  if (role === 'occlusion' && texture === material.getOcclusionTexture()) return material.getOcclusionTextureInfo()
  if (role === 'glow' && texture === material.getEmissiveTexture()) return material.getEmissiveTextureInfo()
  return material.getBaseColorTextureInfo()
}

/** KHR_texture_transform, “Overview”: scaled first, then turned, then moved. */
function transformOf(moved: Transform): MapPlace['transform'] {
  const [u, v] = moved.getScale()
  const [e, f] = moved.getOffset()
  const [cosine, sine] = [Math.cos(moved.getRotation()), Math.sin(moved.getRotation())]
  return [cosine * u, sine * v, -sine * u, cosine * v, e, f]
}

/**
 * Forgets where a material's maps lie: they lie on the first set as it is, and repeat.
 * @example settlePlaces(material)
 */
export function settlePlaces(material: Material): void {
  for (const info of [
    material.getBaseColorTextureInfo(),
    material.getNormalTextureInfo(),
    material.getMetallicRoughnessTextureInfo(),
    material.getOcclusionTextureInfo(),
    material.getEmissiveTextureInfo(),
  ]) {
    info?.setTexCoord(0).setExtension('KHR_texture_transform', null).setWrapS(10497).setWrapT(10497)
  }
}

/** One number of a surface: a channel of a map times a factor, plus what is always there. */
export interface Quantity {
  map: { texture: Texture; role: MapRole; channel: 0 | 1 | 2; inverted: boolean } | null
  scale: number
  base: number
}

const constant = (value: number): Quantity => ({ map: null, scale: 0, base: value })
const ofMap = (
  material: Material,
  role: MapRole,
  channel: 0 | 1 | 2,
  scale = 1,
  base = 0,
  inverted = false,
): Quantity | null => {
  const texture = materialMap(material, role)
  return texture ? { map: { texture, role, channel, inverted }, scale, base } : null
}

/**
 * What a material says of roughness, metalness and occlusion, wherever it keeps them (glTF 2.0 specification, sections
 * 3.9.2 and 3.9.3).
 *
 * @example const { roughness } = surfaceQuantities(material)
 */
export function surfaceQuantities(material: Material): {
  roughness: Quantity
  metalness: Quantity
  occlusion: Quantity
} {
  const [rough, metal, strength] = [
    material.getRoughnessFactor(),
    material.getMetallicFactor(),
    material.getOcclusionStrength(),
  ]
  return {
    roughness:
      ofMap(material, 'roughness', 0) ??
      ofMap(material, 'gloss', 0, 1, 0, true) ??
      ofMap(material, 'metal-rough', 1, rough) ??
      ofMap(material, 'orm', 1, rough) ??
      constant(rough),
    metalness:
      ofMap(material, 'metalness', 0) ??
      ofMap(material, 'metal-rough', 2, metal) ??
      ofMap(material, 'orm', 2, metal) ??
      constant(metal),
    occlusion: ofMap(material, 'occlusion', 0, strength, 1 - strength) ?? ofMap(material, 'orm', 0) ?? constant(1),
  }
}

/**
 * What a material gives off where its glow map is white, linear: its emissive factor times its strength.
 *
 * @example const glows = glowFactor(material).some((channel) => channel > 0)
 */
export function glowFactor(material: Material): [number, number, number] {
  const strength =
    material.getExtension<EmissiveStrength>('KHR_materials_emissive_strength')?.getEmissiveStrength() ?? 1
  return material.getEmissiveFactor().map((value) => value * strength) as [number, number, number]
}

/**
 * Whether a material is drawn without light (KHR_materials_unlit).
 *
 * @example const lit = materials.filter((material) => !isUnlit(material))
 */
export const isUnlit = (material: Material): boolean => material.getExtension('KHR_materials_unlit') !== null

/**
 * Roles of all maps of a material.
 *
 * @example const hasNormals = rolesOf(material).includes('normal')
 */
export const rolesOf = (material: Material): MapRole[] => listMaterialMaps(material).map(({ role }) => role)
