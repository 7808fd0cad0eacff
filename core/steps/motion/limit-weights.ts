import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { fewerBones, limitWeights, renumberBones } from '../../geometry/skin/limit-weights.ts'
import { largestShift } from '../../geometry/skin/skin-points.ts'
import { sameRow, type WeightTable } from '../../geometry/skin/weight-table.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import type { Part } from '../../item/parts.ts'
import { bendPoses, bonesAbove, MEASURED_TURN_DEGREES } from '../../operations/motion/bend-poses.ts'
import { overLimits } from '../../operations/motion/weight-faults.ts'
import { listHeldParts, readHeldMesh, setBones, writeWeights, type HeldMesh } from '../../operations/motion/skin.ts'
import { formatCount, formatLength, plural } from '../../support/wording.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({
  /** Bones that a corner may follow. */
  influences: z.number().int().min(1).max(8),
  /** Bones that may hold a part. */
  bones: z.number().int().min(1).max(65_536),
  /** Percent of a corner’s whole weight below which a bone is left out. */
  leastPercent: z.number().min(0).max(50),
})

/** Brings weights within what the game reads, and says how far that moves the mesh when it bends. */
export const limitWeightsStep = defineStep<z.infer<typeof parameters>>({
  id: 'limit-weights',
  version: 1,
  stage: 'motion',
  title: 'Limit weights',
  purpose:
    'Keeps the strongest bones of each corner, leaves out those that hardly hold it, makes weights sum to 1, ' +
    'and gives what bones too many hold to those above them.',
  parameters,
  fields: () => [
    { type: 'number', key: 'influences', label: 'A corner follows', unit: 'bones', least: 1, most: 8, step: 1 },
    { type: 'number', key: 'bones', label: 'A part is held by', unit: 'bones', least: 1, most: 1024, step: 1 },
    { type: 'number', key: 'leastPercent', label: 'Leave out below', unit: '%', least: 0, most: 50, step: 0.5 },
  ],
  defaults: ({ kind }) => ({
    influences: Math.min(8, kind.bones?.influences ?? 4),
    bones: kind.bones?.most ?? 24,
    leastPercent: 0.5,
  }),
  propose({ document, kind }) {
    if (!kind.bones) return []
    const over = overLimits(document, kind.bones)
    if (over.length === 0) return []
    return [
      {
        parameters: {
          influences: Math.min(8, kind.bones.influences),
          bones: kind.bones.most,
          leastPercent: 0.5,
        },
        reason: `${over.join('; ')}.`,
      },
    ]
  },
  async run({ document, parameters: { influences, bones, leastPercent }, rulebook: { space }, progress }) {
    const parts = listHeldParts(document)
    const details: string[] = []
    for (const [number, part] of parts.entries()) {
      await progress(number / parts.length, part.name)
      const held = readHeldMesh(part)
      const mesh = ownMesh(part.node)
      if (!held || !mesh) continue
      const fewer = bonesWithin(held, bones)
      const limited = limitWeights(fewer ?? held.table, { influences, least: leastPercent / 100 })
      const corners = countDiffering(held.table, limited)
      if (corners === 0 && !fewer) continue
      const { distance } = largestShift(held.positions, normalised(held.table), limited, bendPoses(held))
      details.push(
        `${part.name}: ${formatCount(corners)} corners changed; with each bone turned by up to ` +
          `${MEASURED_TURN_DEGREES}° it is off by ${formatLength(distance)} ${space.unit.plural} at most.`,
      )
      const gone = fewer ? takeOutUnused(document, part, held, limited) : null
      if (gone)
        details.push(`${part.name}: ${plural(gone.count, 'bone')} left out; ${held.bones.length - gone.count} stay.`)
      writeWeights(document, mesh, gone?.table ?? limited)
    }
    return {
      headline: details.length > 0 ? plural(parts.length, 'part') : 'as it was',
      details: details.length > 0 ? details : ['All weights are within what the game reads.'],
      changed: details.length > 0,
    }
  },
})

function bonesWithin(held: HeldMesh, most: number): WeightTable | null {
  if (held.bones.length <= most) return null
  return renumberBones(held.table, fewerBones(held.table, bonesAbove(held.bones), most), held.bones.length)
}

/** What is off is measured against weights that sum to 1, as every game makes them. */
const normalised = (table: WeightTable): WeightTable => limitWeights(table, { influences: 8, least: 0 })

function countDiffering(a: WeightTable, b: WeightTable): number {
  let count = 0
  for (let corner = 0; corner < a.corners; corner++) if (!sameRow(a, corner, b, corner)) count++
  return count
}

/** Gives the part a skin of those bones alone that hold something of it. */
function takeOutUnused(
  document: Document,
  part: Part,
  held: HeldMesh,
  table: WeightTable,
): { table: WeightTable; count: number } {
  const used = new Set<number>()
  table.weightOf.forEach((weight, at) => {
    if (weight > 0) used.add(table.boneOf[at])
  })
  const kept = held.bones.map((_, bone) => bone).filter((bone) => used.has(bone))
  const skin = document.createSkin(part.node.getSkin()?.getName())
  setBones(
    document,
    skin,
    kept.map((bone) => held.bones[bone]),
    kept.map((bone) => held.binds[bone]),
  )
  part.node.setSkin(skin)
  const numbers = held.bones.map((_, bone) => kept.indexOf(bone))
  return { table: renumberBones(table, numbers, kept.length), count: held.bones.length - kept.length }
}
