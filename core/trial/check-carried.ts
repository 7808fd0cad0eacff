import type { Kind } from '../game/schema.ts'
import type { TrialLog } from './log.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import type { LoadedPrimitive } from './loaders/mesh/read-primitive.ts'

const LIGHTS = 'KHR_lights_punctual'

/** What a mesh file carries beside triangles: bones, lights, shapes to morph to, extensions. */
export function checkCarried(file: string, nodes: readonly LoadedNode[], kind: Kind, log: TrialLog): void {
  const lights = nodes.filter((node) => node.extensions.includes(LIGHTS)).length
  if (lights > kind.mostLights)
    log.complain('mesh.lights', file, `${lights} lights; ${kind.mostLights} of a ${kind.id} are lit.`)
  const morphing = nodes.find((node) => node.primitives.some((primitive) => primitive.morphs > 0))
  if (morphing)
    log.complain('mesh.morphs', file, `${morphing.name} has shapes to morph to; the game draws the first alone.`)
  const unknown = nodes.flatMap((node) => node.extensions).find((extension) => extension !== LIGHTS)
  if (unknown !== undefined) log.complain('mesh.extension', file, `The game does not know ${unknown} and skips it.`)
  for (const node of nodes.filter((each) => each.bones.length > 0)) {
    if (!kind.bones)
      log.complain('mesh.bones', file, `${node.name} is held by bones; a ${kind.id} has none and stands still.`)
    else if (node.bones.length > kind.bones.most)
      log.refuse('mesh.bones', file, `${node.name} is held by ${node.bones.length} bones; ${kind.bones.most} are read.`)
    const most = Math.max(0, ...node.primitives.map(mostInfluences))
    if (kind.bones && most > kind.bones.influences)
      log.complain(
        'mesh.influences',
        file,
        `A corner of ${node.name} follows ${most} bones; ${kind.bones.influences} are read.`,
      )
  }
}

/** Most bones that a corner follows. */
function mostInfluences({ influences }: LoadedPrimitive): number {
  let most = 0
  for (let corner = 0; corner < (influences[0]?.weights.length ?? 0) / 4; corner++) {
    let count = 0
    for (const { weights } of influences)
      for (let at = corner * 4; at < corner * 4 + 4; at++) if (weights[at] > 0) count++
    most = Math.max(most, count)
  }
  return most
}
