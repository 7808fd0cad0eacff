import type { Document } from '@gltf-transform/core'
import { entryAsPacked } from '../operations/entry/entry-as-packed.ts'
import { getRootExtras } from '../item/extras.ts'
import { FIRST_LOOK, listLooks } from '../item/looks.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import type { ArchiveFile } from '../support/archive.ts'
import { gameMesh } from './game-mesh.ts'
import { meshWriters } from './writers/mesh/index.ts'
import type { WrittenMesh } from './writers/mesh/mesh-writer.ts'
import { firstSlot } from '../game/slots.ts'
import { itemPaths } from '../game/item-paths.ts'
import { materialFiles, packLook, type PackedLook } from './pack-look.ts'
import type { FileSort, PackedFile } from './packed-file.ts'
import { writeEntryRecord } from './records/entry.ts'
import { writeRecord } from './records/index.ts'

/** An item that has run through its worklist, ready to be packed. */
export interface PackableItem {
  /** The item's name in the game. */
  name: string
  /** The game's place that it stands in for; the first of its kind when left out. */
  slot?: string | null
  kind: Kind
  document: Document
}

/**
 * Every file of one item with who asks for it: entry, meshes, looks and maps, in the order in which they are packed.
 *
 * @example const paths = (await packItem({ name: 'gate', kind, document }, rulebook)).map(({ path }) => path)
 */
export async function packItem(
  { name, kind, document, slot: given }: PackableItem,
  rulebook: Rulebook,
): Promise<PackedFile[]> {
  const slot = given === undefined ? firstSlot(rulebook, kind.id) : given
  const paths = itemPaths(rulebook, kind, name, slot)
  const maps = new Map<string, PackedFile>()
  const looks: PackedLook[] = []
  for (const look of listLooks(document)) looks.push(await packLook(document, look, rulebook, paths, maps, name))
  const meshes = await packMeshes(document, name, kind, rulebook, paths)
  const { changes, turns } = getRootExtras(document.getRoot())
  const entry = {
    item: name,
    kind: kind.id,
    category: kind.category,
    ...(slot === null ? {} : { slot }),
    ...(changes === undefined ? {} : { changes }),
    ...(kind.mesh?.facing && turns !== undefined ? { turns } : {}),
    ...meshes.entry,
    looks: looks.map(({ look }) => paths.look(look)),
  }
  const said = entryAsPacked(document, rulebook, kind, name)
  const first = looks.find(({ look }) => look === FIRST_LOOK) ?? looks[0]
  const asked = (sort: FileSort, by: string, files: readonly ArchiveFile[]): PackedFile[] =>
    files.map(({ path, bytes }) => ({ path, bytes, sort, askedBy: [{ item: name, by }] }))
  return [
    ...asked('entry', 'the game, which looks for it there', [
      { path: paths.entry, bytes: writeEntryRecord(entry, said, rulebook) },
    ]),
    ...asked('mesh', 'its entry', meshes.files),
    ...asked(
      'look',
      'its entry',
      looks.map((look) => ({ path: paths.look(look.look), bytes: writeRecord('look', look, rulebook) })),
    ),
    ...asked('material', 'the mesh, by the material’s name', materialFiles(first, rulebook, paths)),
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
  const write = async (path: string, model?: string): Promise<WrittenMesh> =>
    meshWriters[rulebook.files.mesh.writer]({
      document: await gameMesh(document, name, kind, rulebook, paths, model),
      path,
      rulebook,
    })
  if (kind.models.length < 2) {
    const { files, entry } = await write(paths.mesh)
    return { entry: { mesh: paths.mesh, ...entry }, files }
  }
  const written = new Map<string, WrittenMesh>()
  for (const model of kind.models) written.set(model, await write(paths.model(model), model))
  const besides = [...written].filter(([, { entry }]) => Object.keys(entry).length > 0)
  return {
    entry: {
      models: Object.fromEntries(kind.models.map((model) => [model, paths.model(model)])),
      ...(besides.length > 0
        ? { ofModels: Object.fromEntries(besides.map(([model, { entry }]) => [model, entry])) }
        : {}),
    },
    files: [...written.values()].flatMap(({ files }) => files),
  }
}
