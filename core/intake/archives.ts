import { readArchive } from '../support/archive.ts'
import { limits } from '../support/limits.ts'
import { PlainError } from '../support/plain-error.ts'
import { formatCount } from '../support/wording.ts'
import { assertReadableSize, fileName, fileStem, type SourceFile } from './source-file.ts'

const DEEPEST = 2

/** Files that systems leave in archives and folders, and that nobody brought on purpose. */
const isLitter = (path: string): boolean => /(^|\/)(__MACOSX\/|\.DS_Store$|Thumbs\.db$|desktop\.ini$|\._)/i.test(path)

/**
 * Whether a file is an archive that sources may come in, by how its bytes begin.
 * @example isArchive({ bytes: new TextEncoder().encode('solid gate') }) // false
 */
export const isArchive = ({ bytes }: Pick<SourceFile, 'bytes'>): boolean =>
  bytes.length > 4 && bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4

/**
 * The files that were brought, with those inside ZIPs in place of the ZIPs, each below the archive's own name.
 * Archives inside archives are opened once more.
 * @throws PlainError for archives that are broken, climb out, or would unpack to too much
 *
 * @example const files = unpackSources(dropped)
 */
export function unpackSources(files: readonly SourceFile[]): SourceFile[] {
  const unpacked: SourceFile[] = []
  let bytes = 0
  const add = (file: SourceFile, depth: number, top: string): void => {
    if (isLitter(file.path)) return
    if (!isArchive(file) || depth >= DEEPEST) {
      bytes += file.bytes.length
      if (unpacked.length >= limits.archiveFiles || bytes > limits.unpackedBytes)
        throw new PlainError(
          `it would unpack to more than ${limits.unpackedBytes / 1024 / 1024} MB or ` +
            `${formatCount(limits.archiveFiles)} files`,
          top,
          'Bring its files in smaller portions.',
        )
      unpacked.push(file)
      return
    }
    assertReadableSize(file)
    const folder = file.path.replace(/[^/]*$/, '') + fileStem(file.path)
    for (const [path, content] of readArchive(file.bytes, fileName(file.path)))
      add({ path: `${folder}/${path.replaceAll('\\', '/')}`, bytes: content }, depth + 1, top)
  }
  for (const file of files) add(file, 0, fileName(file.path))
  return unpacked
}
