import type { Document } from '@gltf-transform/core'
import { addScene } from '../item/add-scene.ts'
import { getNodeExtras, setNodeExtras } from '../item/extras.ts'
import { wordsOfName } from '../item/map-roles.ts'
import { nameApart } from '../item/name-apart.ts'
import { listAllParts } from '../item/parts.ts'
import { readItem } from './read-item.ts'
import type { MeshReading, ReadOptions } from './reader.ts'
import { fileStem, type SourceFile } from './source-file.ts'

/** Model name → path of its mesh file. */
export type ModelFiles = Readonly<Record<string, string>>

/**
 * The mesh files that are the models of one item, by the models' names in theirs; null when they are not one for each.
 *
 * @example const models = findModels(meshes, ['lying', 'worn'])
 */
export function findModels(meshes: readonly SourceFile[], models: readonly string[]): ModelFiles | null {
  if (models.length < 2 || meshes.length !== models.length) return null
  const found = models.map((model) => meshes.filter((file) => wordsOfName(fileStem(file.path)).includes(model)))
  if (found.some((files) => files.length !== 1) || new Set(found.map(([file]) => file)).size !== models.length)
    return null
  return Object.fromEntries(models.map((model, index) => [model, found[index][0].path]))
}

/**
 * What the names of an item's models have in common: “rain_hat_lying” and “rain_hat_worn” are “rain_hat”.
 * @example nameWithoutModel('rain_hat_lying.obj', ['lying', 'worn'])
 */
export function nameWithoutModel(path: string, models: readonly string[]): string {
  const words = fileStem(path)
    .split(/[\s_.-]+/)
    .filter((word) => !models.includes(word.toLowerCase()))
  return words.join('_') || fileStem(path)
}

/**
 * Reads every model into one document; each part says which model it belongs to.
 * @example const { document } = await readModels(models, files, {})
 */
export async function readModels(
  models: ModelFiles,
  files: readonly SourceFile[],
  options: ReadOptions,
): Promise<MeshReading> {
  let whole: Document | null = null
  const usedPaths = new Set<string>()
  for (const [model, path] of Object.entries(models)) {
    const reading = await readItem(path, files, options)
    reading.usedPaths.forEach((used) => usedPaths.add(used))
    for (const part of listAllParts(reading.document)) setNodeExtras(part.node, { ...getNodeExtras(part.node), model })
    if (whole) addScene(whole, reading.document)
    else whole = reading.document
  }
  if (!whole) throw new Error('an item has at least one model')
  nameApart(whole)
  return { document: whole, usedPaths }
}
