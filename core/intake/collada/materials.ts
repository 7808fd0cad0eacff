import {
  emissiveOf,
  linearOf,
  placeRising,
  roughnessOfExponent,
  type SourceMap,
  type SourceMaterial,
} from '../scene/source-scene.ts'
import type { ColladaLibrary } from './library.ts'
import { allOf, firstOf, numbersOf, type XmlElement } from '../../support/xml.ts'

const shaders = ['phong', 'blinn', 'lambert', 'constant']

/**
 * A material by way of its effect's common profile.
 * @param setOf by the name that a texture gives its UVs, the number of the set that a geometry binds to it
 *
 * @example const material = readMaterial(library, element, new Map())
 */
export function readMaterial(
  library: ColladaLibrary,
  material: XmlElement,
  setOf: ReadonlyMap<string, number>,
): SourceMaterial {
  const name = material.attributes['name'] || material.attributes['id'] || 'material'
  const effect = library.find(firstOf(material, 'instance_effect')?.attributes['url'])
  const profile = firstOf(effect, 'profile_COMMON')
  const technique = firstOf(profile, 'technique')
  const shader = technique?.children.find((child) => shaders.includes(child.name))
  const colour = numbersOf(firstOf(shader, 'diffuse', 'color'))
  const emission = numbersOf(firstOf(shader, 'emission', 'color'))
  const shininess = numbersOf(firstOf(shader, 'shininess', 'float'))[0]
  const maps: SourceMap[] = []
  const add = (role: SourceMap['role'], texture: XmlElement | undefined): void => {
    const path = texture && imagePath(library, profile, texture.attributes['texture'])
    if (texture && path)
      maps.push({ role, path, ...uvSetOf(texture, setOf), ...wrapOf(profile, texture), ...placedByExtra(texture) })
  }
  add('colour', firstOf(shader, 'diffuse', 'texture'))
  const slots: readonly [string, SourceMap['role']][] = [
    ['specular', 'specular'],
    ['emission', 'glow'],
    ['transparent', 'opacity'],
    ['ambient', 'other'],
    ['reflective', 'other'],
  ]
  for (const [slot, role] of slots) add(role, firstOf(shader, slot, 'texture'))
  // Normal maps have no place in the common profile; programs put them under “extra”.
  for (const holder of [technique, profile, effect]) {
    for (const extra of allOf(holder, 'extra'))
      for (const each of allOf(extra, 'technique'))
        for (const slot of ['bump', 'normalmap', 'normal']) add('normal', firstOf(each, slot, 'texture'))
  }
  return {
    name,
    colour:
      colour.length >= 3
        ? [linearOf(colour[0]), linearOf(colour[1]), linearOf(colour[2]), opacityOf(shader)]
        : [1, 1, 1, opacityOf(shader)],
    emissive: emissiveOf(emission.length >= 3 ? [...emission.slice(0, 3)].map(linearOf) : undefined, maps),
    metalness: 0,
    roughness:
      shininess === undefined || !Number.isFinite(shininess)
        ? 0.9
        : roughnessOfExponent(shininess <= 1 ? shininess * 128 : shininess),
    twoSided: isTwoSided(profile, technique, effect),
    maps,
  }
}

/** Transparency by the two rules of the standard: A_ONE, where 1 is opaque, and RGB_ZERO, where 0 is. */
function opacityOf(shader: XmlElement | undefined): number {
  const transparent = firstOf(shader, 'transparent')
  const colour = numbersOf(firstOf(transparent, 'color'))
  const transparency = numbersOf(firstOf(shader, 'transparency', 'float'))[0] ?? 1
  if (!transparent || colour.length < 4 || !Number.isFinite(transparency)) return 1
  const byZero = transparent.attributes['opaque'] === 'RGB_ZERO'
  const opacity = byZero
    ? 1 - transparency * (0.2126 * colour[0] + 0.7152 * colour[1] + 0.0722 * colour[2])
    : transparency * colour[3]
  // A wholly invisible material is how several programs write “opaque” the wrong way round.
  return opacity > 0.004 && opacity < 1 ? opacity : 1
}

function isTwoSided(...holders: (XmlElement | undefined)[]): boolean {
  return holders.some((holder) =>
    allOf(holder, 'extra').some((extra) =>
      allOf(extra, 'technique').some((technique) => (firstOf(technique, 'double_sided')?.text ?? '').trim() === '1'),
    ),
  )
}

const uvSetOf = (texture: XmlElement, setOf: ReadonlyMap<string, number>): Pick<SourceMap, 'uvSet'> => {
  const uvSet = setOf.get(texture.attributes['texcoord'] ?? '')
  return uvSet === undefined ? {} : { uvSet }
}

/** What a sampler says is beyond the picture's edges (COLLADA 1.4.1, fx_sampler_wrap_common). */
function wrapOf(profile: XmlElement | undefined, texture: XmlElement): Pick<SourceMap, 'wrap'> {
  const sampler = firstOf(
    allOf(profile, 'newparam').find((each) => each.attributes['sid'] === texture.attributes['texture']),
    'sampler2D',
  )
  const word = firstOf(sampler, 'wrap_s')?.text.trim().toUpperCase()
  return word === 'MIRROR' ? { wrap: 'mirror' } : word === 'CLAMP' || word === 'BORDER' ? { wrap: 'clamp' } : {}
}

/**
 * How often a picture repeats and how far it is moved: the standard has no place for it, so programs put it under
 * “extra”.
 */
function placedByExtra(texture: XmlElement): Pick<SourceMap, 'offset' | 'scale'> {
  for (const extra of allOf(texture, 'extra')) {
    for (const technique of allOf(extra, 'technique')) {
      const number = (name: string, otherwise: number): number => {
        const [value] = numbersOf(firstOf(technique, name))
        return value === undefined || !Number.isFinite(value) ? otherwise : value
      }
      const placed = placeRising(
        [number('repeatU', 1), number('repeatV', 1)],
        [number('offsetU', 0), number('offsetV', 0)],
      )
      if (placed.scale) return placed
    }
  }
  return {}
}

/** Path of the picture that a texture means: by way of a sampler and a surface, or at once. */
function imagePath(library: ColladaLibrary, profile: XmlElement | undefined, name: string | undefined): string | null {
  if (name === undefined) return null
  const parameter = (sid: string): XmlElement | undefined =>
    allOf(profile, 'newparam').find((each) => each.attributes['sid'] === sid)
  const sampler = firstOf(parameter(name), 'sampler2D')
  const surfaceName = firstOf(sampler, 'source')?.text.trim()
  const image =
    firstOf(sampler, 'instance_image')?.attributes['url'] ??
    (surfaceName && firstOf(parameter(surfaceName), 'surface', 'init_from')?.text.trim()) ??
    name
  const from = firstOf(library.find(image || name), 'init_from')
  const path = (firstOf(from, 'ref')?.text ?? from?.text ?? '').trim()
  return path === '' ? null : path
}
