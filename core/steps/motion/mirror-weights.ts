import { z } from 'zod'
import { gameAxes } from '../../game/space.ts'
import { mirrorWeights } from '../../geometry/skin/take-weights.ts'
import { sameRow } from '../../geometry/skin/weight-table.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import { mirroredBones } from '../../operations/motion/mirrored-bones.ts'
import { heldPlaces, readHeldMesh, writeWeights } from '../../operations/motion/skin.ts'
import { formatCount, plural } from '../../support/wording.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { chosenHeldParts } from './held-part.ts'

const sides = ['+x', '-x', '+y', '-y', '+z', '-z'] as const

const parameters = z.object({
  /** Names of parts; empty for all that bones hold. */
  parts: namesInItem,
  /** Which side stays as it is, along an axis of the working space. */
  keep: z.enum(sides),
  /** Where the mirror stands along the game’s own axis, in game units. */
  at: z.number().min(-1e6).max(1e6),
})

/** Weights of one side, put on the other. */
export const mirrorWeightsStep = defineStep<z.infer<typeof parameters>>({
  id: 'mirror-weights',
  version: 1,
  stage: 'motion',
  title: 'Mirror weights',
  purpose: 'Holds the other side as the mirror image of this one is held, each bone exchanged for the one opposite.',
  parameters,
  fields: ({ rulebook: { space } }) => [
    { type: 'parts', key: 'parts', label: 'Only these' },
    {
      type: 'choice',
      key: 'keep',
      label: 'Stays',
      options: gameAxes(space).flatMap(({ letter, working, sign }) =>
        ([1, -1] as const).map((way) => ({
          value: sides[working * 2 + (way * sign > 0 ? 0 : 1)],
          label: `the ${way > 0 ? '+' : '−'}${letter} side`,
        })),
      ),
    },
    { type: 'number', key: 'at', label: 'Mirror at', unit: space.unit.plural, least: -1000, most: 1000, step: 0.05 },
  ],
  defaults: () => ({ parts: [], keep: '+x', at: 0 }),
  propose: () => [],
  async run({ document, rulebook: { space }, parameters: { parts, keep, at: atInGame } }) {
    const across = Math.floor(sides.indexOf(keep) / 2) as 0 | 1 | 2
    const side = keep.startsWith('+') ? 1 : -1
    const at = atInGame * (gameAxes(space).find(({ working }) => working === across)?.sign ?? 1)
    const details: string[] = []
    let count = 0
    for (const part of chosenHeldParts(document, parts)) {
      const held = readHeldMesh(part)
      const mesh = ownMesh(part.node)
      if (!held || !mesh) continue
      const positions = heldPlaces(part, held).map((value, index) => (index % 3 === across ? value - at : value))
      const opposite = mirroredBones(held.bones, across, at)
      const surface = { positions, indices: held.indices, table: held.table }
      const made = mirrorWeights(surface, across, side, opposite, 1e-4 * largest(positions))
      let changed = 0
      for (let corner = 0; corner < made.corners; corner++) if (!sameRow(held.table, corner, made, corner)) changed++
      count += changed
      if (changed > 0) writeWeights(document, mesh, made)
      const pairs = opposite.filter((other, bone) => other > bone).length
      details.push(
        `${part.name}: ${formatCount(changed)} corners changed, ${plural(pairs, 'pair')} of bones exchanged.`,
      )
    }
    return {
      headline: `${formatCount(count)} corners`,
      details: details.length > 0 ? details : ['Bones hold none of these parts.'],
      changed: count > 0,
    }
  },
})

const largest = (values: Float32Array): number => values.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
