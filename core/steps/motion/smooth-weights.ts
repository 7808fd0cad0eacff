import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { smoothWeights } from '../../geometry/skin/smooth-weights.ts'
import { sameRow, SLOTS } from '../../geometry/skin/weight-table.ts'
import { boundsSize, partBounds } from '../../item/measure.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import type { Part } from '../../item/parts.ts'
import { breaksOf } from '../../operations/motion/measure-bend.ts'
import { heldPlaces, readHeldMesh, writeWeights, type HeldMesh } from '../../operations/motion/skin.ts'
import { formatCount, formatLength } from '../../support/wording.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { chosenHeldParts, partsHeldHere } from './held-part.ts'

const parameters = z.object({
  /** Names of parts; empty for all that bones hold. */
  parts: namesInItem,
  /** How far a border between two bones is spread to each side, in game units. */
  reach: z.number().min(0).max(1e6),
  /** 0 leaves all as it is, 1 spreads it whole. */
  amount: z.number().min(0).max(1),
})

/** Spreads the borders between bones along the surface. */
export const smoothWeightsStep = defineStep<z.infer<typeof parameters>>({
  id: 'smooth-weights',
  version: 1,
  stage: 'motion',
  title: 'Smooth weights',
  purpose: 'Spreads the border between two bones along the surface, so that it bends over a way and not at one edge.',
  parameters,
  fields: ({ rulebook: { space } }) => [
    { type: 'parts', key: 'parts', label: 'Only these' },
    {
      type: 'number',
      key: 'reach',
      label: 'To each side',
      unit: space.unit.plural,
      least: 0,
      most: 100,
      step: 0.05,
    },
    { type: 'number', key: 'amount', label: 'Amount', unit: '', least: 0, most: 1, step: 0.05, slider: true },
  ],
  defaults: ({ document }) => ({ parts: [], reach: usualReach(document), amount: 1 }),
  propose({ document }) {
    const hard = partsHeldHere(document).filter((part) => {
      const held = readHeldMesh(part)
      return held !== null && isHard(held)
    })
    if (hard.length === 0) return []
    return [
      {
        parameters: { parts: hard.map(({ name }) => name), reach: usualReach(document), amount: 1 },
        reason:
          `Each corner of ${hard.map(({ name }) => name).join(', ')} follows one bone alone: it would bend at ` +
          'single edges.',
      },
    ]
  },
  async run({ document, parameters: { parts, reach, amount }, rulebook: { space }, progress }) {
    const chosen = chosenHeldParts(document, parts)
    const details: string[] = []
    let count = 0
    for (const [number, part] of chosen.entries()) {
      await progress(number / chosen.length, part.name)
      const held = readHeldMesh(part)
      const mesh = ownMesh(part.node)
      if (!held || !mesh) continue
      const table = smoothWeights(heldPlaces(part, held), held.indices, held.table, { reach, amount })
      let changed = 0
      for (let corner = 0; corner < table.corners; corner++) if (!sameRow(held.table, corner, table, corner)) changed++
      if (changed === 0) continue
      count += changed
      const [before, after] = [breaksOf(held).worstDegrees, breaksOf({ ...held, table }).worstDegrees]
      details.push(
        `${part.name}: ${formatCount(changed)} corners over ${formatLength(reach)} ${space.unit.plural} to each ` +
          `side. A turned bone breaks it by ${before.toFixed(0)}° at one edge before, by ${after.toFixed(0)}° now.`,
      )
      writeWeights(document, mesh, table)
    }
    return {
      headline: `${formatCount(count)} corners`,
      details: details.length > 0 ? details : ['There is no border between two bones that could be spread.'],
      changed: count > 0,
    }
  },
})

/** Whether every corner follows one bone, or several in equal shares, and not all of them the same. */
function isHard({ table }: HeldMesh): boolean {
  const bones = new Set<number>()
  for (let corner = 0; corner < table.corners; corner++) {
    const [first, second] = table.weightOf.subarray(corner * SLOTS, corner * SLOTS + 2)
    if (second > 0 && second !== first) return false
    bones.add(table.boneOf[corner * SLOTS])
  }
  return bones.size > 1
}

/** A third of what lies between two bones, as if they stood in a row. */
function usualReach(document: Document): number {
  const parts = chosenHeldParts(document, [])
  const longest = Math.max(0, ...parts.map((part: Part) => Math.max(...boundsSize(partBounds(part)))))
  const bones = Math.max(1, ...parts.map(({ node }) => node.getSkin()?.listJoints().length ?? 1))
  return Number((longest / bones / 3).toPrecision(2))
}
