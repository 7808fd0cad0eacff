import { existsSync, readdirSync, statSync } from 'node:fs'
import { join, relative, sep } from 'node:path'
import { limits } from '../core/support/limits.ts'
import { PlainError } from '../core/support/plain-error.ts'
import { formatCount } from '../core/support/wording.ts'
import { readBytes } from './bytes.ts'

export const MOST_FILES = 2000
const DEEPEST = 32

/** Which files of a folder are taken, how many of them, and how many folders deep. */
interface FolderBounds {
  most: number
  deepest: number
  wants: (path: string) => boolean
}

const everything: FolderBounds = { most: MOST_FILES, deepest: DEEPEST, wants: () => true }

/**
 * Every file below a folder, bounded in number and depth, in the order of their names. Hidden ones and what is
 * installed for Node are passed over.
 */
export function listFolder(folder: string, asked: Partial<FolderBounds> = {}, found: string[] = []): string[] {
  const bounds = { ...everything, ...asked }
  if (bounds.deepest < 0) return found
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    if (found.length >= bounds.most) break
    if (entry.name.startsWith('.') || entry.name === 'node_modules') continue
    const path = join(folder, entry.name)
    if (entry.isDirectory()) listFolder(path, { ...bounds, deepest: bounds.deepest - 1 }, found)
    else if (entry.isFile() && bounds.wants(path)) found.push(path)
  }
  return found
}

/**
 * Every file below a folder by its path there, with forward slashes.
 * @throws PlainError when there are more than an archive may have: a part of them would say something else
 */
export function readFolder(folder: string): Map<string, Uint8Array> {
  const files = listFolder(folder, { most: limits.archiveFiles + 1 })
  const bytes = files.reduce((sum, file) => sum + statSync(file).size, 0)
  if (files.length > limits.archiveFiles || bytes > limits.unpackedBytes)
    throw new PlainError(
      `it holds more than ${formatCount(limits.archiveFiles)} files or ${limits.unpackedBytes / 1024 / 1024} MB`,
      folder,
      'Name the folder that your files were laid into.',
    )
  return new Map(files.map((file) => [pathIn(folder, file), readBytes(file)]))
}

/** The paths of all files below a folder, as `readFolder` has them; none where there is no such folder. */
export const pathsBelow = (folder: string): string[] =>
  existsSync(folder) ? listFolder(folder, { most: limits.archiveFiles }).map((file) => pathIn(folder, file)) : []

const pathIn = (folder: string, file: string): string => relative(folder, file).split(sep).join('/')
