import type { Document } from '@gltf-transform/core'
import { sha256Hex } from '../../support/hashing.ts'
import { boundsSize, partsBounds } from '../../item/measure.ts'
import { getMaterialExtras } from '../../item/extras.ts'
import { countTriangles, listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { fingerprintOf, samePlace, sameShape } from './fingerprint.ts'

/** What is different between two versions of a source. */
export interface SourceChange {
  parts: {
    name: string
    state: 'same' | 'moved' | 'changed' | 'added' | 'gone'
    before: number | null
    after: number | null
  }[]
  triangles: { before: number; after: number }
  /** Width, height and depth as in the file, in its units. */
  size: { before: number[]; after: number[] }
  textures: { name: string; state: 'same' | 'changed' | 'added' | 'gone' }[]
  materials: { added: string[]; gone: string[] }
}

/**
 * Compares a newer source with the one it replaces: parts and textures by name, shapes and pictures by content.
 * @example const { parts } = whatChanged(before, after)
 */
export function whatChanged(before: Document, after: Document): SourceChange {
  const [old, fresh] = [before, after].map(
    (document) => new Map(listViewParts(document).map((part) => [part.name, fingerprintOf(part)])),
  )
  const names = [...new Set([...old.keys(), ...fresh.keys()])]
  const parts = names.map((name): SourceChange['parts'][number] => {
    const [first, second] = [old.get(name), fresh.get(name)]
    if (!first || !second)
      return {
        name,
        state: first ? 'gone' : 'added',
        before: first?.triangles ?? null,
        after: second?.triangles ?? null,
      }
    const state = !sameShape(first, second) ? 'changed' : samePlace(first, second) ? 'same' : 'moved'
    return { name, state, before: first.triangles, after: second.triangles }
  })
  const materialNames = (document: Document): string[] =>
    listUsedMaterials(document).map((material) => material.getName())
  const [oldMaterials, freshMaterials] = [materialNames(before), materialNames(after)]
  return {
    parts,
    triangles: { before: countTriangles(listViewParts(before)), after: countTriangles(listViewParts(after)) },
    size: {
      before: [...boundsSize(partsBounds(listViewParts(before)))],
      after: [...boundsSize(partsBounds(listViewParts(after)))],
    },
    textures: textureChanges(before, after),
    materials: {
      added: freshMaterials.filter((name) => !oldMaterials.includes(name)),
      gone: oldMaterials.filter((name) => !freshMaterials.includes(name)),
    },
  }
}

function textureChanges(before: Document, after: Document): SourceChange['textures'] {
  const pictures = (document: Document): Map<string, string> => {
    const found = new Map(
      document
        .getRoot()
        .listTextures()
        .map((texture) => [texture.getName(), sha256Hex(texture.getImage() ?? new Uint8Array())]),
    )
    for (const material of document.getRoot().listMaterials())
      for (const { path, found: file } of getMaterialExtras(material).references)
        if (file === null) found.set(path, 'missing')
    return found
  }
  const [old, fresh] = [pictures(before), pictures(after)]
  return [...new Set([...old.keys(), ...fresh.keys()])].map((name) => ({
    name,
    state: !old.has(name)
      ? 'added'
      : !fresh.has(name)
        ? 'gone'
        : old.get(name) === fresh.get(name)
          ? 'same'
          : 'changed',
  }))
}
