import type { Document, Primitive } from '@gltf-transform/core'
import { writeAttribute } from '../../item/primitive-arrays.ts'
import { influenceSets } from './skin.ts'
import { SUM_TOLERANCE } from './weight-faults.ts'

/**
 * Weights as glTF wants them (glTF 2.0, section 3.7.3.3): no bone named twice at a corner, and a sum of 1 where it is
 * off by rounding alone. A sum that is further off stays, for check and loader speak of it.
 * @returns whether anything was rewritten
 *
 * @example const rewritten = surfaces.filter((surface) => tidyWeights(document, surface)).length
 */
export function tidyWeights(document: Document, primitive: Primitive): boolean {
  const sets = influenceSets(primitive).map(({ bones, weights }) => ({
    bones: bones.slice(),
    weights: weights.slice(),
  }))
  const corners = (sets[0]?.weights.length ?? 0) / 4
  let changed = false
  for (let corner = 0; corner < corners; corner++) {
    const places = sets.flatMap((set) => [0, 1, 2, 3].map((slot) => ({ set, at: corner * 4 + slot })))
    const first = new Map<number, (typeof places)[number]>()
    let sum = 0
    for (const place of places) {
      const [bone, weight] = [place.set.bones[place.at], place.set.weights[place.at]]
      if (!(weight > 0)) continue
      sum += weight
      const known = first.get(bone)
      if (!known) {
        first.set(bone, place)
        continue
      }
      known.set.weights[known.at] += weight
      place.set.weights[place.at] = 0
      place.set.bones[place.at] = 0
      changed = true
    }
    const off = Math.abs(sum - 1)
    if (off <= EVEN || off > SUM_TOLERANCE) continue
    evenOut([...first.values()], sum)
    changed = true
  }
  if (changed)
    sets.forEach(({ bones, weights }, number) => {
      const joints = document
        .createAccessor()
        .setType('VEC4')
        .setArray(Uint16Array.from(bones))
        .setBuffer(document.getRoot().listBuffers()[0] ?? document.createBuffer())
      primitive.setAttribute(`JOINTS_${number}`, joints)
      writeAttribute(document, primitive, `WEIGHTS_${number}`, weights, 4)
    })
  return changed
}

/** What rounding leaves of a sum at most: validators take two in ten million for each weight. */
const EVEN = 1e-7

/**
 * Brings the weights of one corner to a sum of 1; what rounding leaves goes to the strongest, where it matters least.
 */
function evenOut(places: readonly { set: { weights: Float32Array }; at: number }[], sum: number): void {
  for (const { set, at } of places) set.weights[at] /= sum
  const [strongest, ...others] = [...places].sort((a, b) => b.set.weights[b.at] - a.set.weights[a.at])
  strongest.set.weights[strongest.at] = 1 - others.reduce((rest, { set, at }) => rest + set.weights[at], 0)
}
