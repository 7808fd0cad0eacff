import type { Document, Material, Texture } from '@gltf-transform/core'
import type { ArchiveFile } from '../support/archive.ts'
import type { PackedFile } from './packed-file.ts'
import { materialMap } from '../item/source-maps.ts'
import { getMaterialExtras, getTextureExtras } from '../item/extras.ts'
import { materialsInLook } from '../item/looks.ts'
import { materialTag, readWrittenName } from '../game/material-tag.ts'
import type { MapRole, Rulebook } from '../game/schema.ts'
import { keyOf, stockMaps } from '../game/map-roles.ts'
import { shadingOf } from '../game/shading.ts'
import type { ItemPaths } from '../game/item-paths.ts'
import { hexColour, srgbBytes } from '../operations/maps/map-pixels.ts'
import { packedName } from '../game/packed-name.ts'
import { textureWriters } from './writers/texture/index.ts'
import type { WrittenMap } from './writers/texture/texture-writer.ts'

export interface PackedMaterial {
  shading: string
  /** Here where names in the game’s files carry no tag. */
  surface?: string | null
  flags?: string[]
  /** Where the game tints: the one colour, as `#rrggbb` in sRGB. */
  tint?: string
  /** By the game’s names of its roles. */
  maps: Record<string, string>
}

/** A look as the game reads it: for each material of the mesh its shading and maps. */
export interface PackedLook {
  look: string
  materials: Record<string, PackedMaterial>
}

/** Maps are encoded once, however many materials and looks show them. */
const encoded = new WeakMap<Texture, { role: MapRole; made: Promise<WrittenMap> }>()

function written(texture: Texture, role: MapRole, { files }: Rulebook): Promise<WrittenMap> {
  const known = encoded.get(texture)
  if (known?.role === role) return known.made
  const made = textureWriters[files.texture.writer]({ texture, role, files: files.texture })
  encoded.set(texture, { role, made })
  return made
}

/**
 * One look of an item. The maps it shows are added to `maps`, by path, with what shows them.
 * @param item the item's name in the game
 *
 * @example const { materials } = await packLook(document, 'plain', rulebook, itemPaths, maps, 'gate')
 */
export async function packLook(
  document: Document,
  look: string,
  rulebook: Rulebook,
  paths: ItemPaths,
  maps: Map<string, PackedFile>,
  item: string,
): Promise<PackedLook> {
  const materials: Record<string, PackedMaterial> = {}
  for (const [own, shown] of materialsInLook(document, look)) {
    const name = packedName(own, rulebook, paths)
    const addMap = ({ path, bytes }: ArchiveFile, role: MapRole, written: string | undefined): void => {
      const asker = { item, by: `the look ${look}: ${role.role} of ${name}` }
      const askedBy = [...(maps.get(path)?.askedBy ?? []), asker]
      maps.set(path, { path, bytes, sort: 'map', askedBy, ...(written === undefined ? {} : { written }) })
    }
    materials[name] = await packMaterial(own, shown, rulebook, paths, addMap)
  }
  return { look, materials }
}

/** Name, flags and shading are the mesh's own material's, for that is what the game looks a look's lines up by. */
async function packMaterial(
  own: Material,
  shownMaterial: Material,
  rulebook: Rulebook,
  paths: ItemPaths,
  addMap: (file: ArchiveFile, role: MapRole, written: string | undefined) => void,
): Promise<PackedMaterial> {
  const stock = stockMaps(shownMaterial, rulebook)
  const lost = getMaterialExtras(shownMaterial).references.filter(({ found }) => found === null)
  const shown: Record<string, string> = {}
  for (const role of rulebook.maps.roles) {
    const key = keyOf(role, rulebook)
    const texture = materialMap(shownMaterial, key)
    const image = texture?.getImage()
    const missing = lost.find((reference) => reference.role === key)
    const own = stock.get(role.role)
    if (own !== undefined) shown[role.role] = own
    else if (texture && image) {
      const { bytes, ending } = await written(texture, role, rulebook)
      const path = paths.map(texture.getName(), ending)
      addMap({ path, bytes }, role, getTextureExtras(texture).written)
      shown[role.role] = path
    }
    // A texture that was never found is named all the same: the loader then says which file is missing.
    else if (missing) shown[role.role] = paths.map(stemOf(missing.path), rulebook.files.texture.writer)
  }
  const { surface, flags } = materialTag(own, rulebook)
  const untagged = rulebook.materials.naming.form === 'marks' ? {} : { surface, flags }
  const tint = rulebook.materials.tinted ? { tint: hexColour(srgbBytes(shownMaterial.getBaseColorFactor())) } : {}
  return { shading: shadingOf(own, shownMaterial, rulebook), ...untagged, ...tint, maps: shown }
}

/** The file name of a written path, without folders and ending. */
const stemOf = (path: string): string => (path.split(/[\\/]/).pop() ?? path).replace(/\.[^.]*$/, '')

/**
 * The text file that some games want for each material, from the rulebook's template: paths stand without ending, and a
 * line whose words are all empty is left out.
 *
 * @example const files = materialFiles(look, rulebook, itemPaths)
 */
export function materialFiles(look: PackedLook, rulebook: Rulebook, paths: ItemPaths): ArchiveFile[] {
  const template = rulebook.files.materialTemplate
  if (!template || rulebook.files.paths.material === undefined) return []
  return Object.entries(look.materials).map(([name, line]) => {
    const { maps } = line
    const written = readWrittenName(rulebook, name)
    const { base } = written
    const words: Record<string, string> = {
      material: base,
      surface: line.surface ?? written.surface ?? '',
      flags: (line.flags ?? written.flags).join(' '),
    }
    for (const { role } of rulebook.maps.roles) words[role] = (maps[role] ?? '').replace(/\.[^./]*$/, '')
    const lines = template.filter((line) => {
      const asked = [...line.matchAll(/\{(\w+)\}/g)].map(([, word]) => word)
      return asked.length === 0 || asked.some((word) => (words[word] ?? '') !== '')
    })
    const text = lines.map((line) => line.replace(/\{(\w+)\}/g, (_, word: string) => words[word] ?? '')).join('\n')
    return { path: paths.material(base), bytes: new TextEncoder().encode(`${text}\n`) }
  })
}
