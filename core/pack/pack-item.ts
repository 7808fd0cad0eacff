import type { Document, Material, Texture } from '@gltf-transform/core'
import { getMaterialExtras } from '../document/extras.ts'
import { PlainError } from '../document/plain-error.ts'
import { listUsedMaterials } from '../document/parts.ts'
import { parseMaterialTag } from '../rulebook/names.ts'
import type { Kind, Rulebook } from '../rulebook/schema.ts'
import { presentMaps, shadingModelFor, stockMaps, type MapRoleName } from '../rulebook/shading.ts'
import { textureFacts } from '../steps/texture-pixels.ts'
import type { ArchiveFile } from '../document/archive.ts'
import { writeGameGlb } from './game-mesh.ts'
import { itemPaths } from './layout.ts'

/** An item that has run through its worklist, ready to be packed. */
export interface PackableItem {
  /** The item's name in the game. */
  name: string
  kind: Kind
  document: Document
}

const LOOK_NAME = 'plain'
const toJson = (value: unknown): Uint8Array => new TextEncoder().encode(`${JSON.stringify(value, null, 2)}\n`)

/** Every file of one item: mesh, maps, look and entry, in the order in which they are packed. */
export async function packItem({ name, kind, document }: PackableItem, rulebook: Rulebook): Promise<ArchiveFile[]> {
  if (rulebook.files.mesh.writer !== 'glb') throw new PlainError(`meshes for ${rulebook.title} cannot be written yet`, name, 'Choose another rulebook.')
  const paths = itemPaths(rulebook, kind, name)
  const materials = listUsedMaterials(document)
  const maps = new Map<string, ArchiveFile>()
  const look = { look: LOOK_NAME, materials: Object.fromEntries(materials.map((material) => [material.getName(), lookOf(material, rulebook, paths, maps)])) }
  const entry = { item: name, kind: kind.id, category: kind.category, mesh: paths.mesh, looks: [paths.look(LOOK_NAME)] }
  return [
    { path: paths.entry, bytes: toJson(entry) },
    { path: paths.mesh, bytes: await writeGameGlb(document, name, kind) },
    { path: paths.look(LOOK_NAME), bytes: toJson(look) },
    ...[...maps.values()].sort((a, b) => (a.path < b.path ? -1 : 1)),
  ]
}

function lookOf(material: Material, rulebook: Rulebook, paths: ReturnType<typeof itemPaths>, maps: Map<string, ArchiveFile>) {
  const { flags } = parseMaterialTag(rulebook, material.getName())
  const extras = getMaterialExtras(material)
  const shown: Partial<Record<MapRoleName, string>> = stockMaps(material)
  const textures: Record<MapRoleName, Texture | null> = { colour: material.getBaseColorTexture(), normal: material.getNormalTexture(), mixed: material.getMetallicRoughnessTexture() }
  for (const role of presentMaps(material)) {
    const texture = textures[role]
    const image = texture?.getImage()
    if (!texture || !image || shown[role] !== undefined) continue
    const { format } = textureFacts(texture)
    const path = paths.map(texture.getName(), format === 'jpeg' ? 'jpg' : format)
    maps.set(path, { path, bytes: image })
    shown[role] = path
  }
  // A texture that was never found is named all the same: the loader then says which file is missing.
  for (const reference of extras.references) {
    if (reference.found === null && reference.role !== 'other') shown[reference.role] ??= paths.map(stemOf(reference.path), rulebook.files.texture.writer)
  }
  return { shading: extras.shadingModel ?? shadingModelFor(rulebook, presentMaps(material), flags), maps: shown }
}

/** The file name of a written path, without folders and ending. */
const stemOf = (path: string): string => (path.split(/[\\/]/).pop() ?? path).replace(/\.[^.]*$/, '')
