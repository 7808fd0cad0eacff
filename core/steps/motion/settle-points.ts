import type { Node } from '@gltf-transform/core'
import { z } from 'zod'
import { multiplyMatrices } from '../../maths/axes.ts'
import { invertMatrix } from '../../maths/matrices.ts'
import { lookingAlong, standingAttachPoints } from '../../operations/motion/attach-points.ts'
import { plural } from '../../support/wording.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({})

/** Attach points out of the body, looking away from it. */
export const settlePoints = defineStep<z.infer<typeof parameters>>({
  id: 'settle-points',
  version: 1,
  stage: 'motion',
  title: 'Settle attach points',
  purpose: 'Brings attach points that lie within the body to its nearest surface, and turns those that look into it.',
  parameters,
  fields: () => [],
  defaults: () => ({}),
  propose({ document, kind }) {
    if (!kind.attachPoints) return []
    const off = standingAttachPoints(document).filter(({ isInside, facesIn }) => isInside || facesIn)
    if (off.length === 0) return []
    return [
      {
        parameters: {},
        reason: `${off.map(({ name, isInside }) => `${name} ${isInside ? 'lies within the body' : 'looks into the body'}`).join('; ')}.`,
      },
    ]
  },
  async run({ document }) {
    const details: string[] = []
    for (const { node, name, at, isInside, facesIn, nearest } of standingAttachPoints(document)) {
      if (!nearest || !(isInside || facesIn)) continue
      const world = lookingAlong(isInside ? nearest.at : at, nearest.outward)
      const above = node.getParentNode()
      const back = above ? invertMatrix(above.getWorldMatrix()) : null
      node.setMatrix((back ? multiplyMatrices(back, world) : world) as Parameters<Node['setMatrix']>[0])
      details.push(
        isInside ? `${name} stands on the surface now and looks off it.` : `${name} looks off the surface now.`,
      )
    }
    return {
      headline: plural(details.length, 'point'),
      details: details.length > 0 ? details : ['Every attach point lies outside and looks away.'],
      changed: details.length > 0,
    }
  },
})
