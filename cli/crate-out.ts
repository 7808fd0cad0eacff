import { existsSync, readdirSync, rmSync, statSync } from 'node:fs'
import { join, relative, sep } from 'node:path'
import { writeCrateFolder } from '../core/crate/crate-folder.ts'
import { writeCrateFile, type CrateWithSources } from '../core/crate/file.ts'
import { namesFolder, writeBytes, writeLoose } from './bytes.ts'

/** Folders of a crate folder that hold nothing but what the crate has. */
const OWN = ['items', 'sources']

/**
 * Writes a crate: as one file, or as a folder that a repository can keep. In a folder what the crate has no more is taken
 * away; whatever else lies there stays.
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
    for (const path of filesBelow(join(out, folder)))
      if (!files.has(relative(out, path).split(sep).join('/'))) rmSync(path)
  writeLoose(
    out,
    [...files].map(([path, bytes]) => ({ path, bytes })),
  )
  return null
}

function filesBelow(folder: string): string[] {
  if (!existsSync(folder) || !statSync(folder).isDirectory()) return []
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name))
}
