import type { Texture } from '@gltf-transform/core'
import { isEmptyBounds, partBounds, uniteBounds, emptyBounds } from '../document/measure.ts'
import type { Part } from '../document/parts.ts'
import type { Place } from './rule.ts'

/** A place that frames the given parts. */
export function placeOfParts(parts: readonly Part[]): Place {
  const bounds = parts.map(partBounds).reduce(uniteBounds, emptyBounds())
  return { parts: parts.map((part) => part.name), bounds: isEmptyBounds(bounds) ? null : bounds, texture: null }
}

export const placeOfTexture = (texture: Texture): Place => ({ parts: [], bounds: null, texture: texture.getName() })
