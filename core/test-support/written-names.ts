import type { Document } from '@gltf-transform/core'
import { materialTag, writtenName } from '../game/material-tag.ts'
import { listUsedMaterials } from '../item/parts.ts'
import { tarnAndTiller } from './prepared-gate.ts'

/** The drawn materials of an item as they would be written into the game's files. */
export const writtenNames = (document: Document): string[] =>
  listUsedMaterials(document).map((material) => writtenName(tarnAndTiller, materialTag(material, tarnAndTiller)))
