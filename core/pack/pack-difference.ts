/** A file of a pack as it can be told from another of its path. */
export interface KnownFile {
  path: string
  bytes: number
  sha256: string
}

export interface FileChange {
  path: string
  change: 'new' | 'other' | 'gone'
  /** Bytes before and after; null where there is none. */
  before: number | null
  after: number | null
}

/**
 * What differs between two builds of a pack, file by file, in the order of their paths. Files that are the same are
 * left out.
 *
 * @example packDifference(lastPack.files, pack.files).map(({ path, change }) => `${change} ${path}`)
 */
export function packDifference(before: readonly KnownFile[], after: readonly KnownFile[]): FileChange[] {
  const earlier = new Map(before.map((file) => [file.path, file]))
  const later = new Map(after.map((file) => [file.path, file]))
  const paths = [...new Set([...earlier.keys(), ...later.keys()])].sort()
  return paths.flatMap((path): FileChange[] => {
    const [was, is] = [earlier.get(path), later.get(path)]
    if (was?.sha256 === is?.sha256) return []
    return [
      {
        path,
        change: was === undefined ? 'new' : is === undefined ? 'gone' : 'other',
        before: was?.bytes ?? null,
        after: is?.bytes ?? null,
      },
    ]
  })
}
