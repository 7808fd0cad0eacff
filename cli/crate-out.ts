import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { writeCrateFolder } from '../core/crate/crate-folder.ts'
import { writeCrateFile, type CrateWithSources } from '../core/crate/file.ts'
import { namesFolder, writeBytes, writeLoose } from './bytes.ts'
import { pathsBelow } from './folders.ts'

/** Folders of a crate folder that hold nothing but what the crate has. */
const OWN = ['items', 'sources']

/**
 * Writes a crate: as one file, or as a folder that a repository can keep. In a folder what the crate has no more is
 * taken away; whatever else lies there stays.
 * @returns the bytes of a file; null for a folder
 */
export function writeCrate(out: string, content: CrateWithSources): Uint8Array | null {
  if (!namesFolder(out)) {
    const bytes = writeCrateFile(content)
    writeBytes(out, bytes)
    return bytes
  }
  const files = writeCrateFolder(content)
  for (const folder of OWN)
    for (const path of pathsBelow(join(out, folder)))
      if (!files.has(`${folder}/${path}`)) rmSync(join(out, folder, path))
  writeLoose(
    out,
    [...files].map(([path, bytes]) => ({ path, bytes })),
  )
  return null
}
