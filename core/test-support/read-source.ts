import type { Document } from '@gltf-transform/core'
import { boundsSize, partsBounds } from '../item/measure.ts'
import { listViewParts } from '../item/parts.ts'
import { textFile } from './sources.ts'
import { readItem } from '../intake/read-item.ts'

export const read = async (path: string, content: string | Uint8Array): Promise<Document> =>
  (await readItem(path, [typeof content === 'string' ? textFile(path, content) : { path, bytes: content }])).document
export const sizeOf = (document: Document): number[] =>
  boundsSize(partsBounds(listViewParts(document))).map((value) => Math.round(value * 1000) / 1000)
export const firstSurface = (document: Document) => listViewParts(document)[0].mesh.listPrimitives()[0]
export const valuesOf = (document: Document, semantic: string, corner: number): number[] =>
  (firstSurface(document).getAttribute(semantic)?.getElement(corner, []) ?? []).map(
    (value) => Math.round(value * 1000) / 1000,
  )
