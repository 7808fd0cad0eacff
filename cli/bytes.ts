import { existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { PlainError } from '../core/support/plain-error.ts'
import { limits } from '../core/support/limits.ts'
import { climbsOut } from '../core/support/paths.ts'

/** @throws PlainError when the file is not there, is a folder or is too large */
export function readBytes(path: string): Uint8Array {
  if (!existsSync(path)) throw new PlainError('there is no such file', path, 'Check the path.')
  const facts = statSync(path)
  if (facts.isDirectory()) throw new PlainError('it is a folder', path, 'Name a file.')
  if (facts.size > limits.fileBytes)
    throw new PlainError(`it has ${Math.round(facts.size / 1024 / 1024)} MB; up to 500 MB are read`, path, 'Split it.')
  return new Uint8Array(readFileSync(path))
}

/** @throws PlainError when the folder cannot be written to */
export function writeBytes(path: string, bytes: Uint8Array | string): void {
  try {
    writeFileSync(path, bytes)
  } catch (error) {
    throw new PlainError(
      `it cannot be written (${error instanceof Error ? error.message : String(error)})`,
      path,
      'Choose another place.',
    )
  }
}

/** Whether a path names a folder: one that is there, or one that is written with a slash at its end. */
export const namesFolder = (path: string): boolean =>
  existsSync(path) ? statSync(path).isDirectory() : /[\\/]$/.test(path)

/**
 * Lays files into a folder, each in the folders of its path.
 * @throws PlainError when the folder cannot be written to, or a path leads out of it
 */
export function writeLoose(folder: string, files: readonly { path: string; bytes: Uint8Array }[]): void {
  for (const { path, bytes } of files) {
    if (climbsOut(path)) throw new PlainError('it leads out of the folder', path, 'Mend the paths of the rulebook.')
    const place = join(folder, path)
    try {
      mkdirSync(dirname(place), { recursive: true })
    } catch (error) {
      throw new PlainError(
        `it cannot be made (${error instanceof Error ? error.message : String(error)})`,
        dirname(place),
        'Choose another place.',
      )
    }
    writeBytes(place, bytes)
  }
}
