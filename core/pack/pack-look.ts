import type { Document, Material, Texture } from '@gltf-transform/core'
import type { ArchiveFile } from '../support/archive.ts'
import { materialMap } from '../item/source-maps.ts'
import { getMaterialExtras } from '../item/extras.ts'
import { materialsInLook } from '../item/looks.ts'
import { isGameMapRole } from '../item/map-roles.ts'
import { parseMaterialTag } from '../game/names.ts'
import type { Rulebook } from '../game/schema.ts'
import { presentMaps, shadingOf, stockMaps, type MapRoleName } from '../game/shading.ts'
import { textureFacts } from '../operations/maps/texture-pixels.ts'
import type { itemPaths } from './layout.ts'

export interface PackedMaterial {
  shading: string
  maps: Partial<Record<MapRoleName, string>>
}

/** A look as the game reads it: for each material of the mesh its shading and maps. */
export interface PackedLook {
  look: string
  materials: Record<string, PackedMaterial>
}

type Paths = ReturnType<typeof itemPaths>

/** One look of an item. The maps it shows are added to `maps`, by path. */
export function packLook(
  document: Document,
  look: string,
  rulebook: Rulebook,
  paths: Paths,
  maps: Map<string, ArchiveFile>,
): PackedLook {
  const materials: Record<string, PackedMaterial> = {}
  for (const [own, shown] of materialsInLook(document, look))
    materials[own.getName()] = packMaterial(own, shown, rulebook, paths, maps)
  return { look, materials }
}

/** Name, flags and shading are the mesh's own material's, for that is what the game looks a look's lines up by. */
function packMaterial(
  own: Material,
  shownMaterial: Material,
  rulebook: Rulebook,
  paths: Paths,
  maps: Map<string, ArchiveFile>,
): PackedMaterial {
  const shown: Partial<Record<MapRoleName, string>> = stockMaps(shownMaterial)
  const textures: Record<MapRoleName, Texture | null> = {
    colour: shownMaterial.getBaseColorTexture(),
    normal: shownMaterial.getNormalTexture(),
    mixed: materialMap(shownMaterial, 'mixed'),
  }
  for (const role of presentMaps(shownMaterial)) {
    const texture = textures[role]
    const image = texture?.getImage()
    if (!texture || !image || shown[role] !== undefined) continue
    const { format } = textureFacts(texture)
    const path = paths.map(texture.getName(), format === 'jpeg' ? 'jpg' : format)
    maps.set(path, { path, bytes: image })
    shown[role] = path
  }
  // A texture that was never found is named all the same: the loader then says which file is missing.
  for (const reference of getMaterialExtras(shownMaterial).references) {
    if (reference.found === null && isGameMapRole(reference.role))
      shown[reference.role] ??= paths.map(stemOf(reference.path), rulebook.files.texture.writer)
  }
  return { shading: shadingOf(own, shownMaterial, rulebook), maps: shown }
}

/** The file name of a written path, without folders and ending. */
const stemOf = (path: string): string => (path.split(/[\\/]/).pop() ?? path).replace(/\.[^.]*$/, '')

/**
 * The text file that some games want for each material, from the rulebook's template: paths stand without ending, and a line
 * whose words are all empty is left out.
 */
export function materialFiles(look: PackedLook, rulebook: Rulebook, paths: Paths): ArchiveFile[] {
  const template = rulebook.files.materialTemplate
  if (!template || rulebook.files.paths.material === undefined) return []
  return Object.entries(look.materials).map(([name, { maps }]) => {
    const { base, surface, flags } = parseMaterialTag(rulebook, name)
    const words: Record<string, string> = { material: base, surface: surface ?? '', flags: flags.join(' ') }
    for (const { role } of rulebook.maps.roles) words[role] = (maps[role] ?? '').replace(/\.[^./]*$/, '')
    const lines = template.filter((line) => {
      const asked = [...line.matchAll(/\{(\w+)\}/g)].map(([, word]) => word)
      return asked.length === 0 || asked.some((word) => (words[word] ?? '') !== '')
    })
    const text = lines.map((line) => line.replace(/\{(\w+)\}/g, (_, word: string) => words[word] ?? '')).join('\n')
    return { path: paths.material(base), bytes: new TextEncoder().encode(`${text}\n`) }
  })
}
