import type { TextureRole } from '../../item/extras.ts'
import {
  emissiveOf,
  linearOf,
  placeRising,
  roughnessOfExponent,
  type SourceMap,
  type SourceMaterial,
} from '../scene/source-scene.ts'
import type { FbxObject, FbxObjects } from './objects.ts'
import { childOf, FbxProperties, textOf, type FbxNode } from './tree.ts'

/**
 * A material with its maps. Colours of the file are sRGB.
 * @example materials.set(object.id, readMaterial(objects, object))
 */
export function readMaterial(objects: FbxObjects, object: FbxObject): SourceMaterial {
  const properties = new FbxProperties(object.node)
  const colour = properties.vector('DiffuseColor') ?? properties.vector('Diffuse') ?? [0.8, 0.8, 0.8]
  const share = properties.vector('DiffuseColor') ? (properties.number('DiffuseFactor') ?? 1) : 1
  const exponent = properties.number('ShininessExponent') ?? properties.number('Shininess')
  const emission = properties.vector('EmissiveColor') ?? properties.vector('Emissive')
  const maps = objects
    .children(object, 'Texture')
    .flatMap(({ object: texture, property }) => readMap(objects, texture, property))
  const layered = objects
    .children(object, 'LayeredTexture')
    .flatMap(({ object: layer, property }) =>
      objects.children(layer, 'Texture').flatMap(({ object: texture }) => readMap(objects, texture, property)),
    )
  return {
    name: object.name,
    colour: [
      linearOf(colour[0] * share),
      linearOf(colour[1] * share),
      linearOf(colour[2] * share),
      opacityOf(properties),
    ],
    emissive: emissiveOf(
      emission?.map((value) => linearOf(value * (properties.number('EmissiveFactor') ?? 1))),
      [...maps, ...layered],
    ),
    metalness: 0,
    roughness: exponent === null ? 0.9 : roughnessOfExponent(exponent),
    maps: [...maps, ...layered],
  }
}

/** Programs disagree on which of three properties says it, and most write 0 for both “transparent” and “not used”. */
function opacityOf(properties: FbxProperties): number {
  const opacity = properties.number('Opacity')
  if (opacity !== null) return Math.min(1, Math.max(0, opacity))
  const factor = properties.number('TransparencyFactor') ?? 0
  const colour = properties.vector('TransparentColor')
  if (!colour || factor <= 0 || factor >= 1) return 1
  return Math.min(1, Math.max(0, 1 - factor * Math.max(...colour)))
}

function roleOf(property: string): TextureRole {
  if (/diffuse|base_?colou?r|albedo/i.test(property)) return 'colour'
  if (/normal|bump/i.test(property)) return 'normal'
  if (/emissive/i.test(property)) return 'glow'
  if (/ambientocclusion/i.test(property)) return 'occlusion'
  if (/rough/i.test(property)) return 'roughness'
  if (/metal/i.test(property)) return 'metalness'
  if (/specular/i.test(property)) return 'specular'
  if (/transparen|opacity/i.test(property)) return 'opacity'
  return 'other'
}

function readMap(objects: FbxObjects, texture: FbxObject, property: string): SourceMap[] {
  const written = textOf(childOf(texture.node, 'FileName')) || textOf(childOf(texture.node, 'RelativeFilename'))
  const video = objects.children(texture, 'Video')[0]?.object
  const path =
    written ||
    (video ? textOf(childOf(video.node, 'Filename')) || textOf(childOf(video.node, 'RelativeFilename')) : '') ||
    texture.name
  const embedded = video ? contentOf(childOf(video.node, 'Content')) : contentCalled(objects, written)
  return path === '' ? [] : [{ role: roleOf(property), path, embedded, ...placeOf(texture) }]
}

/** Where a texture lies and what is beyond its edges: scaled and moved on UVs that rise, 1 for ending at the edge. */
function placeOf({ node }: FbxObject): Pick<SourceMap, 'offset' | 'scale' | 'wrap'> {
  const properties = new FbxProperties(node)
  const [scaleU, scaleV] = properties.vector('Scaling') ?? [1, 1]
  const [moveU, moveV] = properties.vector('Translation') ?? [0, 0]
  return {
    ...(properties.number('WrapModeU') === 1 ? { wrap: 'clamp' as const } : {}),
    ...placeRising([scaleU, scaleV], [moveU, moveV]),
  }
}

/** The content of a video that no texture is linked to, by its file name. */
function contentCalled(objects: FbxObjects, path: string): Uint8Array | undefined {
  if (path === '') return undefined
  const videos = objects
    .ofType('Video')
    .filter(
      (video) =>
        textOf(childOf(video.node, 'Filename')) === path || textOf(childOf(video.node, 'RelativeFilename')) === path,
    )
  return videos.map((video) => contentOf(childOf(video.node, 'Content'))).find((content) => content !== undefined)
}

/** Bytes of an embedded picture: raw in binary files, base64 in text files, perhaps in several pieces. */
function contentOf(node: FbxNode | undefined): Uint8Array | undefined {
  const first = node?.values[0]
  if (first instanceof Uint8Array) return first.length > 0 ? first : undefined
  const pieces = (node?.values ?? []).filter((value): value is string => typeof value === 'string' && value.length >= 4)
  if (pieces.length === 0) return undefined
  try {
    // Each piece is padded on its own.
    return Uint8Array.from(pieces.map((piece) => atob(piece.replace(/\s/g, ''))).join(''), (character) =>
      character.charCodeAt(0),
    )
  } catch {
    return undefined
  }
}
