import { unpackSources } from '../intake/archives.ts'
import { isImageFile } from '../intake/images.ts'
import { findModels, nameWithoutModel, type ModelFiles } from '../intake/models.ts'
import { groupPictures } from '../intake/picture.ts'
import { isMeshFile, meshEndings } from '../intake/read-item.ts'
import { fileName, fileStem, type SourceFile } from '../intake/source-file.ts'
import { subjectOfName } from '../item/map-roles.ts'
import { PlainError } from '../support/plain-error.ts'

/** An item to come of files that were brought; nothing of it was read yet. */
export interface PlannedItem {
  /** Path of the file that it is read from. */
  main: string
  /** That file and those that it may ask for. */
  files: SourceFile[]
  /** For kinds with several models: the mesh file of each. */
  models: ModelFiles | null
  title: string
  /** Whether nothing else was brought with it. */
  alone: boolean
}

/**
 * What items files become: each mesh is one, the models of one thing are one; pictures that come without any mesh are
 * one for each colour map among them.
 * @param models names of the models that an item may have
 * @throws PlainError when there is neither a mesh nor a picture
 *
 * @example planItems(files, []).map(({ title }) => title) // ['Post 00', 'Post 01']
 */
export function planItems(brought: readonly SourceFile[], models: readonly string[]): PlannedItem[] {
  const files = unpackSources(brought)
  const meshes = files.filter((file) => isMeshFile(file.path))
  const besides = files.filter((file) => !isMeshFile(file.path))
  const found = findModels(meshes, models)
  if (found) {
    const [main] = Object.values(found)
    return [{ main, files, models: found, title: itemTitle(nameWithoutModel(main, models)), alone: true }]
  }
  if (meshes.length > 0)
    return meshes.map((mesh) => ({
      main: mesh.path,
      files: [mesh, ...besides],
      models: null,
      title: itemTitle(fileStem(mesh.path)),
      alone: meshes.length === 1,
    }))
  const sets = [...groupPictures(files.filter((file) => isImageFile(file.path)))]
  if (sets.length > 0)
    return sets.map(([main, own]) => ({
      main: main.path,
      files: own,
      models: null,
      title: itemTitle(subjectOfName(fileStem(main.path))),
      alone: sets.length === 1,
    }))
  const names = files
    .map((file) => fileName(file.path))
    .slice(0, 3)
    .join(', ')
  throw new PlainError(
    'there is neither a mesh nor a picture among them',
    names || 'what was brought',
    `Bring ${meshEndings.join(', ').toUpperCase()}, with its textures, or a picture.`,
  )
}

/**
 * Why a file became no item: of many, files of one name are told apart by their folders.
 * @example refused.push(refusalOf(main.path, error))
 */
export function refusalOf(main: string, error: PlainError): string {
  const name = fileName(main)
  return error.where === name ? `${main}${error.message.slice(name.length)}` : error.message
}

/** Names of files may be longer than names of items. */
const LONGEST_TITLE = 120

/**
 * What an item is called by the name of a file or part: “boathouse_gate.v2” → “Boathouse gate v2”.
 * @example itemTitle('boathouse_gate.v2') // 'Boathouse gate v2'
 */
export function itemTitle(stem: string): string {
  const words = stem.replace(/[_.-]+/g, ' ').trim() || 'Item'
  return (words.charAt(0).toUpperCase() + words.slice(1)).slice(0, LONGEST_TITLE)
}
