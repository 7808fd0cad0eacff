import { comparablePath, findTexture } from '../intake/texture-search.ts'
import type { SingleCommand } from './commands.ts'
import type { PathRow } from './path-row.ts'
import type { SourceReference } from './schema.ts'

/** A written path that now leads to a file. */
export interface Rebased<F> {
  written: string
  file: F
}

const withSlash = (path: string): string => (path.endsWith('/') ? path : `${path}/`)

/**
 * Leads all written paths below a folder to files that lie elsewhere, by the rest of each path, else by its name.
 * @param from the beginning of the written paths, up to a folder; any case, either slash, with or without drive
 * @param files what lies in the other folder, by paths within it
 *
 * @example rebase(rows, 'E:\\Edda\\textures', files) // 'E:\\Edda\\textures\\wood\\oak.png' → wood/oak.png
 */
export function rebase<F extends { path: string }>(
  rows: readonly Pick<PathRow, 'written' | 'sort'>[],
  from: string,
  files: readonly F[],
): Rebased<F>[] {
  const beginning = from.trim() === '' ? '' : withSlash(comparablePath(from))
  const written = [...new Set(rows.filter(({ sort }) => sort === 'picture').map((row) => row.written))]
  return written.flatMap((path): Rebased<F>[] => {
    const whole = comparablePath(path)
    if (!whole.startsWith(beginning)) return []
    const file = findTexture(whole.slice(beginning.length), files)
    return file ? [{ written: path, file }] : []
  })
}

/**
 * The same in all items that rows are of, as commands that bring the files and lead the paths to them.
 *
 * @example applyCommand(crate, { do: 'several', commands: rebaseCommands(rows, 'E:\\Edda\\textures', files) })
 */
export function rebaseCommands(
  rows: readonly PathRow[],
  from: string,
  files: readonly SourceReference[],
): SingleCommand[] {
  const items = [...new Set(rows.map(({ id }) => id))]
  return items.flatMap((item): SingleCommand[] => {
    const own = rebase(
      rows.filter(({ id }) => id === item),
      from,
      files,
    )
    if (own.length === 0) return []
    const sources = [...new Map(own.map(({ file }) => [file.path, file])).values()]
    return [
      { do: 'add-sources', item, sources },
      ...own.map(({ written, file }) => ({ do: 'link-texture' as const, item, written, path: file.path })),
    ]
  })
}

/**
 * Folders that written paths begin with, the one with most of them first: what one may want to rebase.
 * @example writtenFolders(rows)[0] // { folder: 'E:/Edda/textures', count: 12 }
 */
export function writtenFolders(
  rows: readonly Pick<PathRow, 'written' | 'sort'>[],
): { folder: string; count: number }[] {
  const counts = new Map<string, number>()
  for (const { written, sort } of rows) {
    if (sort !== 'picture') continue
    const folder = written.replaceAll('\\', '/').split('/').slice(0, -1).join('/')
    if (folder !== '') counts.set(folder, (counts.get(folder) ?? 0) + 1)
  }
  return [...counts].map(([folder, count]) => ({ folder, count })).sort((a, b) => b.count - a.count)
}
