import type { Document } from '@gltf-transform/core'
import type { Light as PunctualLight } from '@gltf-transform/extensions'
import { LIGHTS_EXTENSION } from '../../item/annotations/light/light.ts'
import { unit } from '../../maths/vectors.ts'
import { listPlaces } from '../../item/annotations/places.ts'

/** A light of an item as it is lit in the yard. */
export interface LitLight {
  name: string
  kind: 'point' | 'spot' | 'directional'
  /** Linear red, green and blue. */
  colour: [number, number, number]
  /** Candela (lux for one that shines from far), as KHR_lights_punctual has it. */
  intensity: number
  /** How far it shines, in game units; null for as far as it is seen. */
  range: number | null
  /** In the scene. */
  at: [number, number, number]
  /** Of a spot: where it shines to, and half the angle of its cone to where it begins to fade, and to where it ends. */
  beam: { towards: [number, number, number]; innerDegrees: number; outerDegrees: number } | null
}

/**
 * The lights of an item, in the order of the scene.
 * @example const lit = itemLights(document).length
 */
export const itemLights = (document: Document): LitLight[] =>
  listPlaces(document).flatMap(({ name, node }) => {
    const light = node.getExtension<PunctualLight>(LIGHTS_EXTENSION)
    if (!light) return []
    const world = node.getWorldMatrix()
    return [
      {
        name,
        kind: light.getType(),
        colour: [...light.getColor()] as [number, number, number],
        intensity: light.getIntensity(),
        range: light.getRange(),
        at: [world[12], world[13], world[14]] as [number, number, number],
        beam:
          light.getType() === 'spot'
            ? {
                towards: unit([-world[8], -world[9], -world[10]]),
                innerDegrees: (light.getInnerConeAngle() * 180) / Math.PI,
                outerDegrees: (light.getOuterConeAngle() * 180) / Math.PI,
              }
            : null,
      },
    ]
  })
