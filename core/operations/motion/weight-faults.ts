import type { Document } from '@gltf-transform/core'
import type { Kind } from '../../game/schema.ts'
import type { Part } from '../../item/parts.ts'
import { formatCount, plural } from '../../support/wording.ts'
import { influenceSets, listHeldParts } from './skin.ts'

/** How far a sum of weights may be from 1; games and the rule for corner values take no more. */
export const SUM_TOLERANCE = 0.01

/** What is wrong with the weights of one part. */
export interface WeightFaults {
  part: Part
  bones: number
  /** Most bones that one corner follows. */
  influences: number
  /** Corners whose weights make more or less than 1; those that nothing holds are told by themselves. */
  uneven: number
}

/**
 * Measures the weights of every part that bones hold, as the file has them.
 * @example const uneven = weightFaults(document).filter(({ uneven }) => uneven > 0)
 */
export const weightFaults = (document: Document): WeightFaults[] =>
  listHeldParts(document).map((part) => {
    const faults = { part, bones: part.node.getSkin()?.listJoints().length ?? 0, influences: 0, uneven: 0 }
    for (const primitive of part.mesh.listPrimitives()) {
      const sets = influenceSets(primitive)
      const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
      for (let corner = 0; corner < corners; corner++) {
        let [count, sum] = [0, 0]
        for (const { weights } of sets)
          for (let at = corner * 4; at < corner * 4 + 4; at++)
            if (weights[at] > 0) {
              count++
              sum += weights[at]
            }
        faults.influences = Math.max(faults.influences, count)
        if (count > 0 && Math.abs(sum - 1) > SUM_TOLERANCE) faults.uneven++
      }
    }
    return faults
  })

/**
 * In words, where the game reads fewer bones than there are, or sums that are 1.
 * @example const reasons = kind.bones ? overLimits(document, kind.bones) : []
 */
export function overLimits(document: Document, limits: NonNullable<Kind['bones']>): string[] {
  return weightFaults(document).flatMap(({ part, bones, influences, uneven }) => [
    ...(bones > limits.most ? [`${part.name} is held by ${plural(bones, 'bone')}, ${limits.most} are read`] : []),
    ...(influences > limits.influences
      ? [`corners of ${part.name} follow up to ${influences} bones, ${limits.influences} are read`]
      : []),
    ...(uneven > 0 ? [`weights of ${formatCount(uneven)} corners of ${part.name} do not make 1`] : []),
  ])
}
