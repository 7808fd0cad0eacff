import { fileName, type SourceFile } from './source-file.ts'

/** A path as written, made comparable: forward slashes, no drive, no leading dots, lower case. */
export function comparablePath(path: string): string {
  return decodeSpaces(path)
    .trim()
    .replaceAll('\\', '/')
    .replace(/^[a-z]:/i, '')
    .replace(/^(\.?\/)+/, '')
    .toLowerCase()
}

function decodeSpaces(path: string): string {
  return path.replaceAll('%20', ' ')
}

/** How many trailing folders and the file name two comparable paths share. */
function sharedTail(first: string, second: string): number {
  const a = first.split('/').reverse()
  const b = second.split('/').reverse()
  let shared = 0
  while (shared < a.length && shared < b.length && a[shared] === b[shared]) shared++
  return shared
}

/**
 * The file that a written texture path means: one pointed to by hand, else the same full path,
 * else the file of that name whose folders agree the longest; case, folder and drive are ignored.
 * @param links written path → path of a file, set by hand
 */
export function findTexture<F extends Pick<SourceFile, 'path'>>(written: string, files: readonly F[], links: Readonly<Record<string, string>> = {}): F | null {
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
