import { unzipSync, zipSync, type Zippable } from 'fflate'
import { PlainError } from './plain-error.ts'

export interface ArchiveFile {
  path: string
  bytes: Uint8Array
}

/** The earliest time a ZIP can hold, for every file, so that equal content gives equal bytes. */
const FIXED_TIME = new Date(1980, 0, 1, 0, 0, 0)
const MOST_FILES = 20_000
const MOST_UNPACKED_BYTES = 1024 ** 3

/** A ZIP with files in the order given; with `folders` each folder has an entry of its own before what is in it. */
export function writeArchive(
  files: readonly ArchiveFile[],
  writer: 'zip-deflated' | 'zip-stored',
  folders = false,
): Uint8Array {
  const entries: Zippable = {}
  for (const { path, bytes } of files) {
    const above = folders ? path.split('/').slice(0, -1) : []
    for (const depth of above.keys())
      entries[`${above.slice(0, depth + 1).join('/')}/`] ??= [new Uint8Array(0), { level: 0, mtime: FIXED_TIME, os: 0 }]
    entries[path] = [bytes, { level: writer === 'zip-stored' ? 0 : 6, mtime: FIXED_TIME, os: 0 }]
  }
  return zipSync(entries)
}

/**
 * Unpacks a ZIP into memory, by path.
 * @throws PlainError when it is no ZIP, is damaged, would unpack to more than 1 GiB, or holds paths that climb out
 */
export function readArchive(bytes: Uint8Array, name: string): Map<string, Uint8Array> {
  let total = 0
  let count = 0
  let unpacked: Record<string, Uint8Array>
  try {
    unpacked = unzipSync(bytes, {
      filter: (entry) => {
        total += entry.originalSize
        count++
        if (count > MOST_FILES || total > MOST_UNPACKED_BYTES)
          throw new PlainError(
            'it would unpack to more than 1 GiB or 20,000 files',
            name,
            'Bring its files in smaller portions.',
          )
        if (entry.name.split(/[\\/]/).includes('..') || /^([\\/]|[a-z]:)/i.test(entry.name))
          throw new PlainError(
            `the path “${entry.name.slice(0, 80)}” climbs out of the archive`,
            name,
            'Do not use this file.',
          )
        return !entry.name.endsWith('/')
      },
    })
  } catch (error) {
    if (error instanceof PlainError) throw error
    throw new PlainError('it is not a whole ZIP archive', name, 'Copy it again.')
  }
  return new Map(Object.entries(unpacked))
}
