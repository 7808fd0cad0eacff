import { z } from 'zod'
import type { LoadedGltf } from './gltf-schema.ts'
import type { LoadedNode } from './loaded-mesh.ts'

const EXTENSION = 'KHR_lights_punctual'

/** A light of a node, as the file has it. */
export interface LoadedLight {
  kind: 'point' | 'spot' | 'directional'
  colour: number[]
  intensity: number
  range: number | null
  /** Of a spot: where it shines to, and half the angles of its cone in degrees. */
  beam: { towards: number[]; innerDegrees: number; outerDegrees: number } | null
}

const listSchema = z.object({
  lights: z.array(
    z.looseObject({
      type: z.enum(['point', 'spot', 'directional']),
      color: z.array(z.number().min(0)).length(3).default([1, 1, 1]),
      intensity: z.number().min(0).default(1),
      range: z.number().positive().optional(),
      spot: z
        .object({
          innerConeAngle: z.number().min(0).default(0),
          outerConeAngle: z
            .number()
            .positive()
            .max(Math.PI / 2)
            .default(Math.PI / 4),
        })
        .optional(),
    }),
  ),
})
const ofNodeSchema = z.object({ light: z.number().int().nonnegative() })

/**
 * Reads what lights each node holds (KHR_lights_punctual, ratified).
 * @throws Error with a short reason
 *
 * @example readLights(gltf, loaded)
 */
export function readLights(gltf: LoadedGltf, nodes: ReadonlyMap<number, LoadedNode>): void {
  const holders = [...nodes].filter(([, node]) => node.extensions.includes(EXTENSION))
  if (holders.length === 0) return
  const listed = listSchema.safeParse(gltf.extensions?.[EXTENSION])
  for (const [number, node] of holders) {
    const own = ofNodeSchema.safeParse(gltf.nodes[number].extensions?.[EXTENSION])
    const light = listed.success && own.success ? listed.data.lights[own.data.light] : undefined
    // A light that cannot be read stays dark: it is counted all the same.
    if (light)
      node.light = {
        kind: light.type,
        colour: light.color,
        intensity: light.intensity,
        range: light.range ?? null,
        beam:
          light.type === 'spot' && light.spot
            ? {
                towards: [-node.world[8], -node.world[9], -node.world[10]],
                innerDegrees: (light.spot.innerConeAngle * 180) / Math.PI,
                outerDegrees: (light.spot.outerConeAngle * 180) / Math.PI,
              }
            : null,
      }
  }
}
