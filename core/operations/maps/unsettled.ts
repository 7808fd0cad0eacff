import { packedChannel } from '../../game/map-roles.ts'
import type { Rulebook } from '../../game/schema.ts'
import type { Document, Material, Primitive } from '@gltf-transform/core'
import { listLooks, materialInLook } from '../../item/looks.ts'
import {
  glowFactor,
  isStill,
  isUnlit,
  placeOfMap,
  rolesOf,
  samePlace,
  type MapPlace,
} from '../../item/material-meaning.ts'
import { listAllParts } from '../../item/parts.ts'
import { accessorToFloats, primitiveIndices } from '../../item/primitive-arrays.ts'
import { materialMap } from '../../item/source-maps.ts'
import { rasteriseUvs } from '../../geometry/uv/uv-raster.ts'

/**
 * The surfaces that show a material in some look, each once.
 * @example const shown = surfacesOfMaterial(document, material).length > 0
 */
export function surfacesOfMaterial(document: Document, material: Material): Primitive[] {
  const looks = listLooks(document)
  const drawn = listAllParts(document).filter((part) => part.extras.role !== 'solid' && part.extras.role !== 'shadow')
  return [...new Set(drawn.flatMap((part) => part.mesh.listPrimitives()))].filter((surface) =>
    looks.some((look) => materialInLook(surface, look) === material),
  )
}

/**
 * The one colour (linear RGBA) that all corners of some surfaces have; `varies` where they differ, null where they have
 * none.
 *
 * @example if (cornerColour(surfaces) === 'varies') paint(surfaces)
 */
export function cornerColour(surfaces: readonly Primitive[]): readonly number[] | 'varies' | null {
  let first: readonly number[] | null = null
  let bare = false
  for (const surface of surfaces) {
    const accessor = surface.getAttribute('COLOR_0')
    if (!accessor) {
      bare = true
      continue
    }
    const size = accessor.getElementSize()
    const values = accessorToFloats(accessor)
    for (let at = 0; at + size <= values.length; at += size) {
      const colour = [values[at], values[at + 1], values[at + 2], size === 4 ? values[at + 3] : 1]
      first ??= colour
      if (colour.some((value, index) => Math.abs(value - (first as readonly number[])[index]) > 1 / 255))
        return 'varies'
    }
  }
  return first !== null && bare && first.some((value) => value < 1 - 1 / 255) ? 'varies' : first
}

/**
 * The place that a material's first map lies at: the one that all its others are brought to.
 * @example const set = leadingPlace(material)?.set ?? 0
 */
export function leadingPlace(material: Material): MapPlace | null {
  const [first] = rolesOf(material)
  return first === undefined ? null : placeOfMap(material, first)
}

/**
 * Lowest and highest u and v that surfaces reach in a map's place.
 * @example const { least, most } = reachOf(surfaces, place)
 */
export function reachOf(
  surfaces: readonly Primitive[],
  place: MapPlace,
): { least: [number, number]; most: [number, number] } {
  const reach = { least: [Infinity, Infinity] as [number, number], most: [-Infinity, -Infinity] as [number, number] }
  for (const surface of surfaces) {
    const uvs = placedUvs(surface, place)
    if (!uvs) continue
    for (let at = 0; at < uvs.length; at++) {
      reach.least[at % 2] = Math.min(reach.least[at % 2], uvs[at])
      reach.most[at % 2] = Math.max(reach.most[at % 2], uvs[at])
    }
  }
  return reach
}

/**
 * A surface's UVs as a map's place has them; null where it lacks that set.
 * @example const uvs = placedUvs(surface, place)
 */
export function placedUvs(
  surface: Primitive,
  { set, transform: [a, b, c, d, e, f] }: MapPlace,
  nameOfSet = (number: number): string => `TEXCOORD_${number}`,
): Float32Array | null {
  const accessor = surface.getAttribute(nameOfSet(set))
  if (!accessor) return null
  const uvs = accessorToFloats(accessor)
  const placed = new Float32Array(uvs.length)
  for (let at = 0; at + 1 < uvs.length; at += 2) {
    placed[at] = a * uvs[at] + b * uvs[at + 1] + e
    placed[at + 1] = c * uvs[at] + d * uvs[at + 1] + f
  }
  return placed
}

const EDGE = 1e-4
const OVERLAP_SIDE = 256
/** Islands that touch share the pixels at their borders. */
const TOLERATED_OVERLAP = 0.02

/**
 * Whether surfaces lie within one picture, each place of it shown once: then it can be painted on.
 * @example const canBePainted = liesApart(surfaces, place)
 */
export function liesApart(surfaces: readonly Primitive[], place: MapPlace): boolean {
  const { least, most } = reachOf(surfaces, place)
  if (!(Math.min(...least) >= -EDGE && Math.max(...most) <= 1 + EDGE)) return false
  const counts = new Uint16Array(OVERLAP_SIDE * OVERLAP_SIDE)
  let [covered, twice] = [0, 0]
  for (const surface of surfaces) {
    const uvs = placedUvs(surface, place)
    if (!uvs) return false
    rasteriseUvs(uvs, primitiveIndices(surface), OVERLAP_SIDE, OVERLAP_SIDE, (pixel) => {
      counts[pixel]++
      if (counts[pixel] === 1) covered++
      else if (counts[pixel] === 2) twice++
    })
  }
  return covered > 0 && twice <= covered * TOLERATED_OVERLAP
}

/** The most pictures, side by side, that a clamped or mirrored picture is laid out over. */
export const MOST_LAID_OUT = 4

/**
 * What of a material only painting its maps anew can bring to a game that multiplies nothing and reads one set of UVs.
 *
 * @example const reasons = needsPainting(document, material)
 */
export function needsPainting(document: Document, material: Material): string[] {
  const surfaces = surfacesOfMaterial(document, material)
  const reasons: string[] = []
  const lead = leadingPlace(material)
  if (cornerColour(surfaces) === 'varies') reasons.push('colours of its corners')
  if (!lead) return reasons
  const others = rolesOf(material).filter((role) => !samePlace(placeOfMap(material, role), lead))
  if (others.length > 0) reasons.push(`${others.join(' and ')} on UVs of ${others.length === 1 ? 'its' : 'their'} own`)
  const { least, most } = reachOf(surfaces, lead)
  const tiles = [0, 1].map((axis) =>
    lead.wrap[axis] === 'repeat' ? 1 : Math.ceil(most[axis] - EDGE) - Math.floor(least[axis] + EDGE),
  )
  if (lead.wrap.some((wrap, axis) => wrap === 'clamp' && tiles[axis] > MOST_LAID_OUT))
    reasons.push('a picture whose edge runs on')
  return reasons
}

/**
 * What of a material can be put into its pixels and UVs as they lie.
 * @example if (needsFolding(document, material).length > 0) toFold.push(material)
 */
export function needsFolding(document: Document, material: Material): string[] {
  const surfaces = surfacesOfMaterial(document, material)
  const reasons: string[] = []
  const colour = material.getBaseColorTexture()
  const lead = leadingPlace(material)
  if (colour && material.getBaseColorFactor().some((value) => value < 1 - 1e-3)) reasons.push('a tint over its picture')
  if (Array.isArray(cornerColour(surfaces))) reasons.push('one colour on all corners')
  if (lead && !isStill(lead)) reasons.push(lead.set > 0 ? `UVs of set ${lead.set + 1}` : 'a moved picture')
  if (lead && beyondEdges(surfaces, lead)) reasons.push('a picture that is mirrored or ends at its edges')
  if (colour && material.getAlphaMode() === 'MASK' && Math.abs(material.getAlphaCutoff() - 0.5) > 1e-3)
    reasons.push(`a threshold of ${Math.round(material.getAlphaCutoff() * 100)} %`)
  if (materialMap(material, 'metal-rough') && (material.getMetallicFactor() < 1 || material.getRoughnessFactor() < 1))
    reasons.push('factors over metalness and roughness')
  if (materialMap(material, 'occlusion') && material.getOcclusionStrength() < 1) reasons.push('weakened occlusion')
  if (!isUnlit(material) && colour && (Math.max(...glowFactor(material)) > 0 || material.getEmissiveTexture()))
    reasons.push('glow')
  const relief = material.getNormalTexture() ? material.getNormalScale() : 1
  if (Math.abs(relief - 1) > 1e-3) reasons.push('a relief of another strength')
  return reasons
}

/**
 * Whether surfaces reach over the edges of a picture that does not simply repeat there.
 * @example const isTiled = beyondEdges(surfaces, place)
 */
export function beyondEdges(surfaces: readonly Primitive[], place: MapPlace): boolean {
  if (place.wrap.every((wrap) => wrap === 'repeat')) return false
  const { least, most } = reachOf(surfaces, place)
  return place.wrap.some((wrap, axis) => wrap !== 'repeat' && (least[axis] < -EDGE || most[axis] > 1 + EDGE))
}

/**
 * Whether a material shows metal, gloss or glow that no map of it says yet.
 * @example const wanting = materials.filter((each) => needsSurfaceMap(each, true, rulebook))
 */
export function needsSurfaceMap(material: Material, hasColour: boolean, rulebook: Rulebook): boolean {
  if (isUnlit(material) || !hasColour || packedChannel(material, 'roughness', rulebook)) return false
  return material.getMetallicFactor() > 0.02 || material.getRoughnessFactor() < 0.95
}
