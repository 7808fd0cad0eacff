import type { Kind } from '../game/schema.ts'
import type { TrialLog } from './log.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'

const LIGHTS = 'KHR_lights_punctual'

/**
 * What a mesh file carries beside triangles: lights, shapes to morph to, extensions.
 * @example checkCarried(file, nodes, kind, log)
 */
export function checkCarried(file: string, nodes: readonly LoadedNode[], kind: Kind, log: TrialLog): void {
  const lights = nodes.filter((node) => node.extensions.includes(LIGHTS)).length
  if (lights > kind.mostLights)
    log.complain('mesh.lights', file, `${lights} lights; ${kind.mostLights} of a ${kind.id} are lit.`)
  const morphing = nodes.find((node) => node.primitives.some((primitive) => primitive.morphs > 0))
  if (morphing)
    log.complain('mesh.morphs', file, `${morphing.name} has shapes to morph to; the game draws the first alone.`)
  const unknown = nodes.flatMap((node) => node.extensions).find((extension) => extension !== LIGHTS)
  if (unknown !== undefined) log.complain('mesh.extension', file, `The game does not know ${unknown} and skips it.`)
}
