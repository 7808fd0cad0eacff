import type { Texture } from '@gltf-transform/core'
import { isEmptyBounds, partBounds, uniteBounds, emptyBounds } from '../item/measure.ts'
import type { Part } from '../item/parts.ts'
import type { Place } from './rule.ts'

/** More marks than this hide what they point at. */
const MOST_SPOTS = 60

/**
 * A place that frames the given parts.
 *
 * @example const place = placeOfParts([part], [[0, 1, 0]])
 */
export function placeOfParts(parts: readonly Part[], spots: [number, number, number][] = []): Place {
  const bounds = parts.map(partBounds).reduce(uniteBounds, emptyBounds())
  return {
    parts: parts.map((part) => part.name),
    bounds: isEmptyBounds(bounds) ? null : bounds,
    spots: spots.slice(0, MOST_SPOTS),
    texture: null,
  }
}

/**
 * A finding’s place: one texture.
 * @example const place = placeOfTexture(texture)
 */
export const placeOfTexture = (texture: Texture): Place => ({
  parts: [],
  bounds: null,
  spots: [],
  texture: texture.getName(),
})
