import type { Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { countTriangles, listViewParts } from '../document/parts.ts'
import { dropUnusedAccessors, gatherCorners, readPrimitive, writeIndices } from '../document/primitive-arrays.ts'
import { compactCorners, reduceTriangles, shareBudget, surfaceArea } from '../geometry/reduce.ts'
import { defineStep, formatChange, formatCount, formatLength, type StepContext } from './step.ts'

const parameters = z.object({
  targetTriangles: z.number().int().min(1).max(10_000_000),
  holdSeams: z.boolean(),
  holdBorders: z.boolean(),
  leaveAlone: z.array(z.string()).max(10_000),
})
type Parameters = z.infer<typeof parameters>

/** Room left for edits after this step, so that the item does not sit on its limit. */
const HEADROOM = 5 / 6

/** Brings the item under its kind's triangle budget. */
export const reduce = defineStep<Parameters>({
  id: 'reduce-triangles',
  version: 1,
  stage: 'mesh',
  title: 'Reduce triangles',
  purpose: 'Collapses the edges that matter least until the item fits its budget.',
  parameters,
  fields: ({ kind }) => [
    { type: 'number', key: 'targetTriangles', label: 'Keep', unit: 'triangles', least: 100, most: kind.mesh?.triangles ?? 100_000, step: 100, slider: true },
    { type: 'toggle', key: 'holdSeams', label: 'Hold texture seams' },
    { type: 'toggle', key: 'holdBorders', label: 'Hold open borders' },
    { type: 'parts', key: 'leaveAlone', label: 'Leave alone' },
  ],
  defaults: (context) => ({ targetTriangles: budgetOf(context), holdSeams: true, holdBorders: true, leaveAlone: [] }),
  propose(context) {
    const triangles = countTriangles(listViewParts(context.document))
    const limit = context.kind.mesh?.triangles
    if (limit === undefined || triangles <= limit) return []
    return [{ parameters: this.defaults(context) as Parameters, reason: `${formatCount(triangles)} triangles; a ${context.kind.title.toLowerCase()} may have ${formatCount(limit)}, and some room is left for edits.` }]
  },
  async run({ document, parameters: chosen, progress, rulebook }) {
    const parts = listViewParts(document)
    const before = countTriangles(parts)
    const instances = new Map<Primitive, number>()
    for (const part of parts) {
      if (chosen.leaveAlone.includes(part.name)) continue
      for (const primitive of part.mesh.listPrimitives()) instances.set(primitive, (instances.get(primitive) ?? 0) + 1)
    }
    const work = [...instances].map(([primitive, count]) => ({ primitive, count, arrays: readPrimitive(primitive) }))
    const free = work.reduce((sum, { arrays, count }) => sum + (arrays.indices.length / 3) * count, 0)
    const held = before - free
    const shares = shareBudget(
      work.map(({ arrays, count }) => ({ triangles: (arrays.indices.length / 3) * count, area: surfaceArea(arrays.positions, arrays.indices) * count })),
      Math.max(work.length, chosen.targetTriangles - held),
    )
    let worst = 0
    for (const [number, { primitive, count, arrays }] of work.entries()) {
      await progress(number / work.length, `${formatCount(arrays.indices.length / 3)} triangles`)
      const reduction = await reduceTriangles({ ...arrays, targetTriangles: Math.floor(shares[number] / count), holdSeams: chosen.holdSeams, holdBorders: chosen.holdBorders })
      worst = Math.max(worst, reduction.worstShift)
      if (reduction.indices === arrays.indices) continue
      const compact = compactCorners(reduction.indices, arrays.positions.length / 3)
      gatherCorners(document, primitive, compact.oldCorner)
      writeIndices(document, primitive, compact.indices, compact.oldCorner.length)
    }
    dropUnusedAccessors(document)
    const after = countTriangles(listViewParts(document))
    const details = [`${formatCount(before)} triangles became ${formatCount(after)}; the surface moved by ${formatLength(worst)} ${rulebook.space.unit.plural} at most.`]
    if (after > chosen.targetTriangles) details.push(`${formatCount(chosen.targetTriangles)} could not be reached: ${chosen.holdSeams || chosen.holdBorders ? 'seams and borders are held' : 'the shapes would vanish'}.`)
    return { headline: formatChange(after - before), details, changed: after !== before }
  },
})

function budgetOf({ kind, document }: StepContext): number {
  const limit = kind.mesh?.triangles ?? countTriangles(listViewParts(document))
  const withSolids = kind.mesh?.withSolids ?? limit
  return Math.floor(Math.min(limit * HEADROOM, withSolids * 0.75) / 100) * 100 || limit
}
