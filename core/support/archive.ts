import { unzipSync, zipSync, type UnzipFileInfo, type Zippable } from 'fflate'
import { limits } from './limits.ts'
import { climbsOut } from './paths.ts'
import { PlainError } from './plain-error.ts'
import { formatCount } from './wording.ts'

export interface ArchiveFile {
  path: string
  bytes: Uint8Array
  /** It is compressed already: it travels as it is. */
  stored?: boolean
}

/** How files go into an archive; what is to lie loose in a folder travels stored. */
export type ArchiveWriter = 'zip-deflated' | 'zip-stored' | 'folder'

/** The earliest time a ZIP can hold, for every file, so that equal content gives equal bytes. */
const FIXED_TIME = new Date(1980, 0, 1, 0, 0, 0)

/**
 * A ZIP with files in the order given; with `folders` each folder has an entry of its own before what is in it. What
 * is to lie loose in a folder travels stored.
 * @param effort of deflate, 1 to 9: 3 takes half the time of 6 and some hundredths more bytes
 *
 * @example const zip = writeArchive([{ path: 'a.txt', bytes }], 'zip-deflated')
 */
export function writeArchive(
  files: readonly ArchiveFile[],
  writer: ArchiveWriter,
  folders = false,
  effort: 3 | 6 = 6,
): Uint8Array {
  const entries: Zippable = {}
  for (const { path, bytes, stored } of files) {
    const above = folders ? path.split('/').slice(0, -1) : []
    for (const depth of above.keys())
      entries[`${above.slice(0, depth + 1).join('/')}/`] ??= [new Uint8Array(0), { level: 0, mtime: FIXED_TIME, os: 0 }]
    entries[path] = [bytes, { level: writer === 'zip-deflated' && !stored ? effort : 0, mtime: FIXED_TIME, os: 0 }]
  }
  return zipSync(entries)
}

/**
 * Unpacks a ZIP into memory, by path.
 * @throws PlainError when it is no ZIP, is damaged, would unpack to more than is read, or holds paths that climb out
 *
 * @example for (const [path, file] of readArchive(bytes, 'pack.zip')) files.set(path, file)
 */
export function readArchive(bytes: Uint8Array, name: string): Map<string, Uint8Array> {
  let total = 0
  let count = 0
  let unpacked: Record<string, Uint8Array>
  try {
    // All that it promises is looked at before the first file is unpacked.
    unzipSync(bytes, {
      filter: (entry) => {
        total += entry.originalSize
        count++
        assertEntry(entry, name)
        if (count > limits.archiveFiles || total > limits.unpackedBytes)
          throw new PlainError(
            `it would unpack to more than ${limits.unpackedBytes / 1024 / 1024} MB or ` +
              `${formatCount(limits.archiveFiles)} files`,
            name,
            'Bring its files in smaller portions.',
          )
        return false
      },
    })
    unpacked = unzipSync(bytes, { filter: (entry) => !entry.name.endsWith('/') })
  } catch (error) {
    if (error instanceof PlainError) throw error
    throw new PlainError('it is not a whole ZIP archive', name, 'Copy it again.')
  }
  return new Map(Object.entries(unpacked))
}

/** Deflated bytes are hardly ever more than what they came from. */
const MOST_GROWTH = 1.1
const LEAST_BYTES = 1024

/** @throws PlainError when a path climbs out of the archive, or what is packed cannot be as small as is said */
function assertEntry({ name: path, size, originalSize }: UnzipFileInfo, name: string): void {
  if (climbsOut(path))
    throw new PlainError(`the path “${path.slice(0, 80)}” climbs out of the archive`, name, 'Do not use this file.')
  if (size > originalSize * MOST_GROWTH + LEAST_BYTES)
    throw new PlainError(
      `“${path.slice(0, 80)}” holds more than it says: ${formatCount(size)} bytes packed for ` +
        `${formatCount(originalSize)}`,
      name,
      'Copy it again.',
    )
}
