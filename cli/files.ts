import { readBytes } from './bytes.ts'
import type { Document } from '@gltf-transform/core'
import { existsSync, readdirSync, statSync } from 'node:fs'
import { basename, dirname, join, relative, resolve, sep } from 'node:path'
import { assembleCrate, lossesOf, readCrateFile, type OpenedCrate } from '../core/crate/file.ts'
import { PlainError } from '../core/support/plain-error.ts'
import { progressLine } from './command.ts'
import { listFolder, MOST_FILES, readFolder } from './folders.ts'
import { gameNamed } from './game.ts'
import { isCompanionFile, isMeshFile, readItem } from '../core/intake/read-item.ts'
import { type SourceFile } from '../core/intake/source-file.ts'

/**
 * The meshes named by a call, with the files beside them that they may ask for. A folder brings everything in it.
 * Beside a single mesh only materials, binaries and images are read, never other meshes.
 * @param leaveOut full paths of files, or of folders with all that is in them, that are no sources
 */
export function gatherSources(
  names: readonly string[],
  { read = readBytes, leaveOut = [] }: { read?: (path: string) => Uint8Array; leaveOut?: readonly string[] } = {},
): SourceFile[] {
  if (names.length === 0) throw new PlainError('no file was named', 'this call', 'Name a mesh or a folder.')
  const paths = new Set<string>()
  const chosen = new Set<string>()
  for (const name of names) {
    if (!existsSync(name)) throw new PlainError('there is no such file', name, 'Check the path.')
    if (statSync(name).isDirectory()) for (const path of listWanted(name, isSource)) paths.add(resolve(path))
    else {
      paths.add(resolve(name))
      chosen.add(resolve(name))
      if (isMeshFile(name)) for (const path of companionsOf(resolve(name))) paths.add(path)
    }
  }
  const list = [...paths].filter((path) => !leaveOut.some((own) => path === own || path.startsWith(own + sep)))
  if (list.length === 0)
    throw new PlainError(
      'there is nothing to read in it: neither meshes nor pictures',
      names.join(', '),
      'Name a mesh, or a folder that holds one.',
    )
  const base = commonFolder(list)
  return list.map((path) => ({
    path: relative(base, path).split(sep).join('/') || basename(path),
    bytes: read(path),
    ...(chosen.has(path) ? {} : { beside: true }),
  }))
}

const isSource = (path: string): boolean => isMeshFile(path) || isCompanionFile(path) || /\.zip$/i.test(path)

/** The wanted files below a folder; where there are more than are read, that is told. */
function listWanted(folder: string, wants: (path: string) => boolean): string[] {
  const found = listFolder(folder, { most: MOST_FILES + 1, wants })
  if (found.length > MOST_FILES)
    progressLine(`${folder}: it holds more than ${MOST_FILES} such files; the first ${MOST_FILES} are read.`)
  return found.slice(0, MOST_FILES)
}

/** Folders beside a mesh's own that hold its pictures: models are often handed on as `source` and `textures`. */
const pictureFolder = /^(textures?|maps?|images?|materials?)$/i

/** Materials, binaries and pictures in a mesh's folder, in those within it, and in folders for pictures beside it. */
function companionsOf(mesh: string): string[] {
  const own = dirname(mesh)
  const beside = dirname(own)
  const folders = readdirSync(beside, { withFileTypes: true })
    .filter((entry) => entry.isDirectory() && pictureFolder.test(entry.name))
    .map(({ name }) => join(beside, name))
  return [...new Set([own, ...folders])].flatMap((folder) => listFolder(folder, { deepest: 1, wants: isCompanionFile }))
}

/** Every mesh among the files and folders of a call, with its path and what to call it: its path below its folder. */
export function listMeshes(names: readonly string[]): { path: string; name: string }[] {
  return names.flatMap((name) => {
    if (!existsSync(name)) throw new PlainError('there is no such file', name, 'Check the path.')
    if (!statSync(name).isDirectory()) return isMeshFile(name) ? [{ path: name, name: basename(name) }] : []
    return listWanted(name, isMeshFile).map((path) => ({ path, name: relative(name, path).split(sep).join('/') }))
  })
}

function commonFolder(paths: readonly string[]): string {
  let base = dirname(paths[0])
  for (const path of paths)
    while (!path.startsWith(base.endsWith(sep) ? base : base + sep) && base !== dirname(base)) base = dirname(base)
  return base
}

/**
 * Every file that a call names, whatever it is, a folder's by their paths in it.
 * @throws PlainError when one is not there, or none is named
 */
export function gatherGameFiles(names: readonly string[]): SourceFile[] {
  if (names.length === 0) throw new PlainError('no file was named', 'this call', 'Name packs or a folder of the game.')
  return names.flatMap((name) => {
    if (!existsSync(name)) throw new PlainError('there is no such file', name, 'Check the path.')
    return statSync(name).isDirectory()
      ? [...readFolder(name)].map(([path, bytes]) => ({ path, bytes }))
      : [{ path: basename(name), bytes: readBytes(name) }]
  })
}

/**
 * A crate from a crate file or from a folder with its unpacked content. What of it cannot be used is told on standard
 * error.
 * @param rulebook a game by id or file, for a crate whose own rulebook cannot be read
 */
export async function openCrate(path: string, rulebook?: string | boolean): Promise<OpenedCrate> {
  if (!existsSync(path)) throw new PlainError('there is no such crate', path, 'Check the path.')
  const game = typeof rulebook === 'string' ? (await gameNamed(rulebook)).game : null
  const name = basename(path)
  const opened = statSync(path).isDirectory()
    ? assembleCrate(readFolder(path), name, game)
    : readCrateFile(readBytes(path), name, game)
  for (const loss of lossesOf(opened)) progressLine(`${name}: ${loss}.`)
  return opened
}

/** One mesh with what lies beside it. */
export async function readMeshFile(path: string): Promise<Document> {
  const files = gatherSources([path])
  const main = files.find((file) => isMeshFile(file.path))
  if (!main) throw new PlainError('it is no mesh', path, 'Name a mesh.')
  return (await readItem(main.path, files)).document
}
