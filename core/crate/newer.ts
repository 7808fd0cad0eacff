import { sha256Hex } from '../support/hashing.ts'
import { PlainError } from '../support/plain-error.ts'
import { unpackSources } from '../intake/archives.ts'
import { whatChanged, type SourceChange } from '../intake/compare/what-changed.ts'
import { isMeshFile, readItem } from '../intake/read-item.ts'
import type { ReadOptions } from '../intake/reader.ts'
import { fileName, type SourceFile } from '../intake/source-file.ts'
import { startOf } from './bring-in.ts'
import type { CrateItem, SourceReference } from './schema.ts'

/** A newer version of an item's source, not accepted yet. */
export interface NewerSource {
  main: string
  sources: SourceReference[]
  files: { sha256: string; file: SourceFile }[]
  change: SourceChange
}

/**
 * Reads a newer version of an item's source and compares it with the present one. Files of the same name are replaced,
 * all others stay; what the modder said about unit, axes and textures holds.
 * @throws PlainError when there is no mesh among the files, or it cannot be read
 *
 * @example const { change } = await readNewer(item, dropped, bytesOf)
 */
export async function readNewer(
  item: CrateItem,
  brought: readonly SourceFile[],
  bytesOf: (sha256: string) => Promise<Uint8Array | null>,
  onProgress?: ReadOptions['onProgress'],
): Promise<NewerSource> {
  const files = unpackSources(brought)
  const meshes = files.filter((file) => isMeshFile(file.path))
  const sameName = meshes.find((file) => fileName(file.path).toLowerCase() === fileName(item.main).toLowerCase())
  const fresh = sameName ?? (meshes.length === 1 ? meshes[0] : undefined)
  if (meshes.length > 1 && !fresh)
    throw new PlainError(
      `none of ${meshes.length} meshes is called ${fileName(item.main)}`,
      item.name,
      'Bring one mesh, or keep its name.',
    )
  const replaced = (path: string): SourceFile | undefined =>
    files.find((file) => fileName(file.path).toLowerCase() === fileName(path).toLowerCase())
  const kept: SourceFile[] = []
  for (const source of item.sources) {
    if (replaced(source.path) || (fresh && source.path === item.main)) continue
    const bytes = await bytesOf(source.sha256)
    if (bytes) kept.push({ path: source.path, bytes })
  }
  const all = [...files.filter((file) => !isMeshFile(file.path) || file === fresh), ...kept]
  const main = fresh?.path ?? item.main
  const [before, after] = [await startOf(item, bytesOf), await readItem(main, all, { ...item.reading, onProgress })]
  const sources = all.map((file) => ({ sha256: sha256Hex(file.bytes), file }))
  return {
    main,
    sources: sources.map(({ sha256, file }) => ({ path: file.path, sha256, bytes: file.bytes.length })),
    files: sources,
    change: whatChanged(before.document, after.document),
  }
}
