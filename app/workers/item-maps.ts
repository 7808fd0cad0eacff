import { roleOfKey } from '../../core/game/map-roles'
import type { Document, Texture } from '@gltf-transform/core'
import type { z } from 'zod'
import { getTextureExtras } from '../../core/item/extras'
import { listLooks, listShownMaterials } from '../../core/item/looks'
import { isGameMapRole } from '../../core/item/map-roles'
import { PlainError } from '../../core/support/plain-error'
import { readPrimitive } from '../../core/item/primitive-arrays'
import { listMaterialMaps } from '../../core/item/source-maps'
import { layoutSvg, measureUvs } from '../../core/geometry/uv/uv-layout'
import { listShownMaps, surfacesShowing, texelsPerUnit } from '../../core/operations/maps/shown-maps'
import { meaningOf, textureFacts, textureMemory, texturePixels } from '../../core/operations/maps/texture-pixels'
import { mapNameOf } from '../../core/game/templates'
import { itemPaths } from '../../core/game/item-paths'
import { packLook } from '../../core/pack/pack-look'
import { readWrittenName } from '../../core/game/material-tag'
import type { Kind, Rulebook } from '../../core/game/schema'
import { decodeDdsLevel, isBlockCodec, levelBytes } from '../../core/pictures/codecs/block-codec'
import { compressMap } from '../../core/pictures/codecs/compress'
import { ddsMimeType } from '../../core/pictures/codecs/dds'
import type { Pixels } from '../../core/pictures/pixels'
import { mipmapChain, resizePixels } from '../../core/pictures/resize'
import type { LookChain, mapFactsSchema, mapPictureSchema, uvLayoutSchema } from './map-messages'

export type MapFacts = z.infer<typeof mapFactsSchema>
export type MapPicture = z.infer<typeof mapPictureSchema>
type UvLayoutMessage = z.infer<typeof uvLayoutSchema>

const THUMBNAIL_PIXELS = 208

/** Every map of the item's materials: those the game reads, then what they are packed from. */
export async function listMaps(document: Document, kind: Kind, rulebook: Rulebook): Promise<MapFacts[]> {
  const packed = new Map(listShownMaps(document, rulebook).map((map) => [map.texture, map]))
  const seen = new Map<Texture, MapFacts>()
  for (const material of listShownMaterials(document)) {
    for (const { role: key, texture } of listMaterialMaps(material)) {
      const known = seen.get(texture)
      if (known) known.materials.push(material.getName())
      else
        seen.set(texture, {
          ...(await factsOf(document, texture, kind.mesh === null ? rulebook.space.gridCell : null)),
          key,
          role: roleOfKey(key, rulebook)?.role ?? key,
          materials: [material.getName()],
          packed: packed.has(texture),
        })
    }
  }
  return [...seen.values()].sort((a, b) => Number(b.packed) - Number(a.packed))
}

/** @param wallCell for what has no mesh: how wide the picture lies on a wall, in game units */
async function factsOf(
  document: Document,
  texture: Texture,
  wallCell: number | null,
): Promise<Omit<MapFacts, 'key' | 'role' | 'materials' | 'packed'>> {
  const facts = textureFacts(texture)
  const { quality, written, cameAs } = getTextureExtras(texture)
  const pixels = shownPicture(await texturePixels(texture), meaningOf(texture) === 'normal')
  const scale = Math.min(1, THUMBNAIL_PIXELS / Math.max(pixels.width, pixels.height))
  const small =
    scale < 1
      ? resizePixels(
          pixels,
          Math.max(1, Math.round(pixels.width * scale)),
          Math.max(1, Math.round(pixels.height * scale)),
          meaningOf(texture),
        )
      : pixels
  return {
    name: texture.getName(),
    from: written ?? texture.getName(),
    cameAs: cameAs ?? '',
    width: facts.width,
    height: facts.height,
    codec: facts.codec,
    mipmaps: facts.mipmaps,
    memory: textureMemory(facts),
    quality: quality ?? null,
    density: isGameMapRole(getTextureExtras(texture).role)
      ? wallCell === null
        ? texelsPerUnit(document, texture, facts.width, facts.height)
        : facts.width / wallCell
      : null,
    thumbnail: { ...small, data: small.data.slice() },
  }
}

/** Two-channel normals get their third back for the eye; the numbers stay as they are. */
function shownPicture(
  pixels: Pixels,
  isNormal: boolean,
): { width: number; height: number; data: Uint8Array<ArrayBuffer> } {
  const data = pixels.data.slice()
  if (isNormal) {
    for (let at = 0; at < data.length; at += 4) {
      if (data[at + 2] !== 0) continue
      const [x, y] = [data[at] / 127.5 - 1, data[at + 1] / 127.5 - 1]
      data[at + 2] = Math.round(Math.sqrt(Math.max(0, 1 - x * x - y * y)) * 127.5 + 127.5)
      data[at + 3] = 255
    }
  }
  return { width: pixels.width, height: pixels.height, data }
}

const textureNamed = (document: Document, name: string): Texture => {
  const texture = document
    .getRoot()
    .listTextures()
    .find((each) => each.getName() === name)
  if (!texture) throw new PlainError('this map is not there at this place of the worklist', name, 'Choose another map.')
  return texture
}

/**
 * One level of a map as pixels, with what it takes and what was lost.
 * @param as `kept` as the state has it, or a block codec to try
 */
export async function mapPicture(
  document: Document,
  rulebook: Rulebook,
  name: string,
  level: number,
  as: string,
): Promise<MapPicture> {
  const texture = textureNamed(document, name)
  const facts = textureFacts(texture)
  const isNormal = meaningOf(texture) === 'normal'
  const cut =
    listShownMaps(document, rulebook)
      .find((map) => map.texture === texture)
      ?.materials.some((material) => material.getAlphaMode() === 'MASK') ?? false
  const levels = Math.floor(Math.log2(Math.max(facts.width, facts.height))) + 1
  const shownLevel = Math.min(level, levels - 1)
  if (as === 'kept' && texture.getMimeType() === ddsMimeType) {
    const last = Math.min(shownLevel, facts.mipmaps - 1)
    const pixels = await decodeDdsLevel(
      texture.getImage() ?? new Uint8Array(),
      last,
      Math.max(1, facts.width >> last),
      Math.max(1, facts.height >> last),
    )
    const quality = getTextureExtras(texture).quality
    return {
      ...shownPicture(pixels, isNormal),
      level: last,
      levels: facts.mipmaps,
      codec: facts.codec,
      memory: textureMemory(facts),
      psnrDecibels: quality?.psnrDecibels ?? null,
      meanAngleDegrees: quality?.meanAngleDegrees ?? null,
      worstBlock: quality?.worstBlock ?? null,
    }
  }
  const whole = await texturePixels(texture)
  const chain = shownLevel > 0 ? mipmapChain(whole, meaningOf(texture), cut ? 128 : undefined) : [whole]
  const pixels = chain[shownLevel]
  if (!isBlockCodec(as))
    return {
      ...shownPicture(pixels, isNormal),
      level: shownLevel,
      levels,
      codec: null,
      memory: Math.round(facts.width * facts.height * 4 * (4 / 3)),
      psnrDecibels: null,
      meanAngleDegrees: null,
      worstBlock: null,
    }
  const made = await compressMap(pixels, { codec: as, meaning: meaningOf(texture), withMipmaps: false, cut })
  const readBack = await decodeDdsLevel(made.dds, 0, pixels.width, pixels.height)
  return {
    ...shownPicture(readBack, isNormal),
    level: shownLevel,
    levels,
    codec: as,
    memory: Math.round((levelBytes(as, facts.width, facts.height) * 4) / 3),
    psnrDecibels: made.psnrDecibels,
    meanAngleDegrees: made.meanAngleDegrees,
    worstBlock: made.worstBlock,
  }
}

/** Look → material → maps, each with the file it becomes. */
export async function lookChains(
  document: Document,
  rulebook: Rulebook,
  kind: Kind,
  itemName: string,
  slot: string | null,
): Promise<LookChain[]> {
  const paths = itemPaths(rulebook, kind, itemName, slot)
  const chains: LookChain[] = []
  for (const look of listLooks(document)) {
    const { materials } = await packLook(document, look, rulebook, paths, new Map(), itemName)
    chains.push({
      look,
      file: paths.look(look),
      materials: Object.entries(materials).map(([name, { shading, maps }]) => ({
        name,
        base: readWrittenName(rulebook, name).base,
        shading,
        maps: Object.entries(maps).map(([role, file]) => ({
          role,
          file,
          texture: mapNameOf(file, rulebook),
          stock: rulebook.stock.textures.some(({ path }) => path === file),
        })),
      })),
    })
  }
  return chains
}

/** How the surfaces that show a map lie on it. */
export function layoutOf(document: Document, name: string): UvLayoutMessage {
  const texture = textureNamed(document, name)
  const surfaces = surfacesShowing(document, texture).map(({ primitive, uvs, indices }) => ({
    positions: readPrimitive(primitive).positions,
    uvs,
    indices,
  }))
  const layout = measureUvs(surfaces)
  return {
    ...layout,
    triangles: layout.triangles.slice(),
    stretch: layout.stretch.slice(),
    density: layout.density.slice(),
    svg: layoutSvg(layout, Math.max(textureFacts(texture).width, 256)),
  }
}
