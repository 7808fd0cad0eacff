import { fileName, type SourceFile } from './source-file.ts'

/**
 * A path as written, made comparable: forward slashes, no drive, no leading dots, lower case.
 * @example comparablePath('E:\\Edda\\Oak.PNG') // 'edda/oak.png'
 */
export function comparablePath(path: string): string {
  return decodeUri(path)
    .trim()
    .replaceAll('\\', '/')
    .replace(/^[a-z]:/i, '')
    .replace(/^(\.?\/)+/, '')
    .toLowerCase()
}

/** Paths in XML and glTF are written as URIs: with a scheme, and with spaces and others in percent signs. */
function decodeUri(path: string): string {
  const plain = path.replace(/^file:\/{2,3}/i, '/')
  try {
    return decodeURIComponent(plain)
  } catch {
    return plain
  }
}

/** How many trailing folders and the file name two comparable paths share. */
function sharedTail(first: string, second: string): number {
  const a = first.split('/').reverse()
  const b = second.split('/').reverse()
  let shared = 0
  while (shared < a.length && shared < b.length && a[shared] === b[shared]) shared++
  return shared
}

const STOCK_MARK = 'stock:'

/**
 * Path of the game's own texture that a link names; null for links to files.
 * @example stockOfLink(undefined) // null
 */
export const stockOfLink = (link: string | undefined): string | null =>
  link?.startsWith(STOCK_MARK) === true ? link.slice(STOCK_MARK.length) : null

/**
 * The file that a written texture path means: one pointed to by hand, else the same full path,
 * else the file of that name whose folders agree the longest; case, folder and drive are ignored.
 * @param links written path → path of a file, set by hand
 *
 * @example findTexture('E:\\Edda\\wood\\oak.png', [{ path: 'textures/oak.png' }])?.path // 'textures/oak.png'
 */
export function findTexture<F extends Pick<SourceFile, 'path'>>(
  written: string,
  files: readonly F[],
  links: Readonly<Record<string, string>> = {},
): F | null {
  const linked = links[written]
  if (linked !== undefined) {
    const byHand = files.find((file) => file.path === linked)
    if (byHand) return byHand
  }
  const wanted = comparablePath(written)
  const exact = files.find((file) => comparablePath(file.path) === wanted)
  if (exact) return exact
  const name = fileName(wanted)
  const sameName = files.filter((file) => fileName(comparablePath(file.path)) === name)
  if (sameName.length === 0) return null
  return sameName.reduce((best, file) =>
    sharedTail(comparablePath(file.path), wanted) > sharedTail(comparablePath(best.path), wanted) ? file : best,
  )
}
