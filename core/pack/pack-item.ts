import type { Document } from '@gltf-transform/core'
import { PlainError } from '../support/plain-error.ts'
import { FIRST_LOOK, listLooks } from '../item/looks.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import type { ArchiveFile } from '../support/archive.ts'
import { writeGameGlb } from './game-mesh.ts'
import { itemPaths } from './layout.ts'
import { materialFiles, packLook } from './pack-look.ts'

/** An item that has run through its worklist, ready to be packed. */
export interface PackableItem {
  /** The item's name in the game. */
  name: string
  kind: Kind
  document: Document
}

const toJson = (value: unknown): Uint8Array => new TextEncoder().encode(`${JSON.stringify(value, null, 2)}\n`)

/** Every file of one item: entry, meshes, looks and maps, in the order in which they are packed. */
export async function packItem({ name, kind, document }: PackableItem, rulebook: Rulebook): Promise<ArchiveFile[]> {
  if (rulebook.files.mesh.writer !== 'glb')
    throw new PlainError(`meshes for ${rulebook.title} cannot be written yet`, name, 'Choose another rulebook.')
  const paths = itemPaths(rulebook, kind, name)
  const maps = new Map<string, ArchiveFile>()
  const looks = listLooks(document).map((look) => packLook(document, look, rulebook, paths, maps))
  const meshes = await packMeshes(document, name, kind, rulebook, paths)
  const entry = {
    item: name,
    kind: kind.id,
    category: kind.category,
    ...meshes.entry,
    looks: looks.map(({ look }) => paths.look(look)),
  }
  const first = looks.find(({ look }) => look === FIRST_LOOK) ?? looks[0]
  return [
    { path: paths.entry, bytes: toJson(entry) },
    ...meshes.files,
    ...looks.map((look) => ({ path: paths.look(look.look), bytes: toJson(look) })),
    ...materialFiles(first, rulebook, paths),
    ...[...maps.values()].sort((a, b) => (a.path < b.path ? -1 : 1)),
  ]
}

/** The mesh files and what the entry says of them: none for a finish, one for most kinds, one a model for gear. */
async function packMeshes(
  document: Document,
  name: string,
  kind: Kind,
  rulebook: Rulebook,
  paths: ReturnType<typeof itemPaths>,
): Promise<{ entry: object; files: ArchiveFile[] }> {
  if (kind.mesh === null) return { entry: {}, files: [] }
  if (kind.models.length < 2)
    return {
      entry: { mesh: paths.mesh },
      files: [{ path: paths.mesh, bytes: await writeGameGlb(document, name, kind, rulebook) }],
    }
  const files: ArchiveFile[] = []
  for (const model of kind.models)
    files.push({ path: paths.model(model), bytes: await writeGameGlb(document, name, kind, rulebook, model) })
  return { entry: { models: Object.fromEntries(kind.models.map((model, index) => [model, files[index].path])) }, files }
}
