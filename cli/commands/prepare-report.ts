import { basename } from 'node:path'
import { anyFileSummary, anyFileTable, shareThatLoads, type TriedFile } from '../../core/crate/any-file-table.ts'
import { bringIn } from '../../core/crate/bring-in.ts'
import type { BroughtGame } from '../../core/crate/brought-game.ts'
import { tryAlone } from '../../core/crate/try-alone.ts'
import type { ReadOptions } from '../../core/intake/reader.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { print, progressLine, type Call } from '../command.ts'
import { gatherSources, listMeshes } from '../files.ts'

/**
 * Prepares, packs and tries every mesh that the call names, each by itself, and prints a table of what came of them.
 * @param kind what they become; guessed from each when left out
 * @returns 1 where one that can be read does not load
 */
export async function reportOnFiles(
  call: Call,
  game: BroughtGame,
  kind: string | undefined,
  reading: ReadOptions,
): Promise<number> {
  const files = await tryFiles(call.positionals, game, kind, reading)
  print(call, { files, summary: anyFileSummary(files) }, [...anyFileTable(files), '', anyFileSummary(files)])
  return shareThatLoads(files) === 1 ? 0 : 1
}

/**
 * Every mesh among files and folders, prepared, packed and tried; one that cannot be read holds up no other.
 * @throws PlainError when there is none
 */
export async function tryFiles(
  names: readonly string[],
  { game, stock }: BroughtGame,
  kind: string | undefined = undefined,
  reading: ReadOptions = {},
): Promise<TriedFile[]> {
  const meshes = listMeshes(names)
  if (meshes.length === 0)
    throw new PlainError(
      'there is no mesh in it, apart from folders that are hidden or named node_modules',
      names.join(', ') || 'this call',
      'Name a mesh or a folder.',
    )
  const files: TriedFile[] = []
  for (const { path, name } of meshes) {
    progressLine(`${files.length + 1} of ${meshes.length} ${basename(path)}`)
    try {
      const [brought] = await bringIn(gatherSources([path]), kind ?? game.rulebook.kinds[0].id, reading, [])
      const bytesOf = async (sha256: string): Promise<Uint8Array | null> =>
        sha256 === game.stock?.sha256 ? stock : null
      files.push({ file: name, tried: await tryAlone(brought, game, { kind, bytesOf }) })
    } catch (error) {
      if (!(error instanceof PlainError)) throw error
      files.push({ file: name, refused: error.message })
    }
  }
  return files
}
