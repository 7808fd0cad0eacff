import type { Document } from '@gltf-transform/core'
import type { Light as PunctualLight } from '@gltf-transform/extensions'
import { LIGHTS_EXTENSION } from '../../item/annotations/light/light.ts'
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
}

/** The lights of an item, in the order of the scene. */
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
      },
    ]
  })
