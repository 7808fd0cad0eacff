import type { Document, Mesh } from '@gltf-transform/core'
import { z } from 'zod'
import { countTriangles, listViewParts, type Part } from '../../item/parts.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import { measureVisibility } from '../../geometry/surface/facing.ts'
import { reduceTriangles, type Hold } from '../../geometry/mesh/reduce.ts'
import { sampleShares } from '../../geometry/surface/sample-shares.ts'
import { triangleAreas } from '../../geometry/surface/sample-surface.ts'
import { errorCurve, MOST_CURVE_SAMPLES, shareBudget, type ErrorCurve } from '../../geometry/mesh/share-budget.ts'
import { seenItem } from '../../operations/meshes/measure-part-facing.ts'
import {
  MEASURED_IN_FULL,
  MOST_SAMPLES,
  noteReduction,
  NOTICED_TURN_DEGREES,
  type ReductionDone,
} from '../../operations/meshes/reduction-done.ts'
import { readMesh, writeMesh, type MeshArrays } from '../../operations/meshes/mesh-arrays.ts'
import type { StepContext } from '../../operations/context.ts'
import { nameInItem, namesInItem } from '../item-names.ts'
import { defineStep, type StepRun } from '../step.ts'
import { formatChange, formatCount, formatLength } from '../../support/wording.ts'

const parameters = z.object({
  by: z.enum(['count', 'share', 'shift']).default('count'),
  targetTriangles: z.number().int().min(1).max(10_000_000),
  /** Share of the present triangles, 0 to 1. */
  share: z.number().positive().max(1).default(0.5),
  /** How far the surface may move, in game units. */
  shift: z.number().positive().max(1000).default(0.02),
  holdSeams: z.boolean(),
  holdBorders: z.boolean(),
  leaveAlone: namesInItem,
  /** How much a part counts against the others; 1 where nothing is said. */
  weights: z
    .array(z.object({ part: nameInItem, weight: z.number().positive().max(100) }))
    .max(10_000)
    .default([]),
})
type Parameters = z.infer<typeof parameters>

/** Room left for edits after this step, so that the item does not sit on its limit. */
const HEADROOM = 5 / 6
/** What is hidden still gets this much of its due: it may be seen when a door opens. */
const LEAST_VISIBILITY = 0.1

/** Brings the item under its kind's triangle budget. */
export const reduce = defineStep<Parameters>({
  id: 'reduce-triangles',
  version: 6,
  stage: 'mesh',
  title: 'Reduce triangles',
  purpose:
    'Collapses the edges that matter least until the item fits its budget; what is seen more and has more ' +
    'detail keeps more.',
  parameters,
  fields: ({ kind, rulebook }) => [
    {
      type: 'choice',
      key: 'by',
      label: 'Down to',
      options: [
        { value: 'count', label: 'a count' },
        { value: 'share', label: 'a share of what is there' },
        { value: 'shift', label: 'a largest shift of the surface' },
      ],
    },
    {
      type: 'number',
      key: 'targetTriangles',
      label: 'Keep',
      unit: 'triangles',
      least: 100,
      most: kind.mesh?.triangles ?? 100_000,
      step: 100,
      slider: true,
      when: { key: 'by', is: ['count'] },
    },
    {
      type: 'number',
      key: 'share',
      label: 'Keep',
      unit: 'of 1',
      least: 0.01,
      most: 1,
      step: 0.01,
      slider: true,
      when: { key: 'by', is: ['share'] },
    },
    {
      type: 'number',
      key: 'shift',
      label: 'Move at most',
      unit: rulebook.space.unit.plural,
      least: 0.001,
      most: 1,
      step: 0.001,
      slider: true,
      when: { key: 'by', is: ['shift'] },
    },
    { type: 'toggle', key: 'holdSeams', label: 'Hold texture seams' },
    { type: 'toggle', key: 'holdBorders', label: 'Hold open borders' },
    { type: 'parts', key: 'leaveAlone', label: 'Leave alone' },
    { type: 'weights', key: 'weights', label: 'Counts for', least: 0.1, most: 10 },
  ],
  defaults: (context) => ({
    by: 'count',
    targetTriangles: budgetOf(context),
    share: 0.5,
    shift: context.rulebook.space.smallestDrawn * 2 || 0.02,
    holdSeams: true,
    holdBorders: true,
    leaveAlone: [],
    weights: [],
  }),
  propose(context) {
    const triangles = countTriangles(listViewParts(context.document))
    const limit = context.kind.mesh?.triangles
    if (limit === undefined || triangles <= limit) return []
    return [
      {
        parameters: this.defaults(context) as Parameters,
        reason:
          `${formatCount(triangles)} triangles; a ${context.kind.title.toLowerCase()} may have ` +
          `${formatCount(limit)}, and some room is left for edits.`,
      },
    ]
  },
  async run(run) {
    const { document, parameters: chosen, rulebook } = run
    const before = countTriangles(listViewParts(document))
    const done = await reduceParts(run)
    dropUnusedAccessors(document)
    const after = countTriangles(listViewParts(document))
    const unit = rulebook.space.unit.plural
    const details = [
      `${formatCount(before)} triangles became ${formatCount(after)}; the surface moved by ` +
        `${formatLength(done.worst)} ${unit} at ` +
        `most${done.mean === null ? ', as the library estimates it' : ` and ${formatLength(done.mean)} on average`}.`,
    ]
    const litOtherwise = done.litArea > 0 ? done.litOff / done.litArea : 0
    if (litOtherwise > 0.005)
      details.push(
        `On ${formatShare(litOtherwise)} of the surface light falls more than ${NOTICED_TURN_DEGREES}° otherwise.`,
      )
    if (done.letGo.size > 0)
      details.push(
        'To reach the count, ' +
          `${[...done.letGo].map(([part, holds]) => `${part} had to let go of ${holds.map((hold) => letGoNames[hold]).join(' and ')}`).join('; ')}.`,
      )
    const asked = done.asked
    if (asked !== null && after > asked)
      details.push(
        `${formatCount(asked)} could not be reached: ` +
          `${after === done.held ? 'all other parts are left alone' : 'each part keeps at least one triangle, and some are left alone'}.`,
      )
    if (asked !== null && after < asked * 0.99 && after < before)
      details.push(
        `${formatCount(asked - after)} fewer than asked: the edges that are left can only be taken away several ` +
          'triangles at a time.',
      )
    if (chosen.by === 'shift')
      details.push(
        `No collapse that would move the surface further than ${formatLength(chosen.shift)} ${unit} was made.`,
      )
    return { headline: formatChange(after - before), details, changed: after !== before }
  },
})

const letGoNames: Record<Hold, string> = {
  borders: 'its open borders',
  seams: 'some texture seams',
  pieces: 'its smallest pieces',
}

interface Work {
  mesh: Mesh
  parts: Part[]
  arrays: MeshArrays
}

async function reduceParts({ document, parameters: chosen, progress }: StepRun<Parameters>): Promise<ReductionDone> {
  const work = workOf(document, chosen)
  const before = countTriangles(listViewParts(document))
  const free = work.reduce((sum, { arrays, parts }) => sum + (arrays.indices.length / 3) * parts.length, 0)
  const asked =
    chosen.by === 'count'
      ? chosen.targetTriangles
      : chosen.by === 'share'
        ? Math.max(1, Math.floor(before * chosen.share))
        : null
  const done: ReductionDone = {
    worst: 0,
    mean: 0,
    measured: 0,
    litArea: 0,
    litOff: 0,
    letGo: new Map(),
    asked,
    held: before - free,
  }
  if (asked !== null && before <= asked) return done
  const shares =
    asked === null
      ? null
      : await sharesOf(document, work, chosen, Math.max(work.length, asked - done.held), (fraction, doing) =>
          progress(fraction * 0.3, doing),
        )
  const samples = sampleShares(
    work.map(({ arrays }) => arrays.indices.length / 3),
    MOST_SAMPLES,
    MEASURED_IN_FULL,
  )
  for (const [number, { mesh, parts, arrays }] of work.entries()) {
    const triangles = arrays.indices.length / 3
    await progress(0.3 + (number / work.length) * 0.7, `${parts[0].name}: ${formatCount(triangles)} triangles`)
    const reduction = await reduceTriangles({
      ...arrays,
      holdSeams: chosen.holdSeams,
      holdBorders: chosen.holdBorders,
      ...(shares
        ? { targetTriangles: shares[number] }
        : {
            targetTriangles: 1,
            largestShift:
              chosen.shift /
              Math.max(1e-9, ...parts.map(({ node }) => Math.max(...node.getWorldScale().map(Math.abs)))),
          }),
    })
    noteReduction(done, parts[0], arrays, reduction, samples[number])
    if (reduction.indices !== arrays.indices) writeMesh(document, mesh, arrays, reduction)
  }
  return done
}

const formatShare = (share: number): string => `${(share * 100).toFixed(1)} %`

function workOf(document: Document, { leaveAlone }: Parameters): Work[] {
  const work = new Map<Mesh, Work>()
  for (const part of listViewParts(document)) {
    if (leaveAlone.includes(part.name)) continue
    const known = work.get(part.mesh)
    if (known) known.parts.push(part)
    else work.set(part.mesh, { mesh: part.mesh, parts: [part], arrays: readMesh(part.mesh) })
  }
  return [...work.values()]
}

/** Triangles for each mesh, by how much is seen of it, how much detail it has and what the modder gave it. */
async function sharesOf(
  document: Document,
  work: readonly Work[],
  { weights }: Parameters,
  budget: number,
  progress: (fraction: number, doing: string) => Promise<void>,
): Promise<number[]> {
  if (work.length === 1) return [Math.floor(budget / work[0].parts.length)]
  const parts = listViewParts(document)
  await progress(0, 'looking what is seen')
  const seen = seenItem(parts)
  const areaOfPart = parts.map(() => 0)
  triangleAreas(seen.positions, seen.indices).forEach(
    (area, triangle) => (areaOfPart[seen.partOfTriangle[triangle]] += area),
  )
  const visibility = measureVisibility(seen, areaOfPart)
  const samples = sampleShares(
    work.map(({ arrays }) => arrays.indices.length / 3),
    MOST_CURVE_SAMPLES,
  )
  const curves: ErrorCurve[] = []
  for (const [number, { arrays, parts: own }] of work.entries()) {
    await progress(number / work.length, `detail of ${own[0].name}`)
    curves.push(await errorCurve(arrays, samples[number]))
  }
  return shareBudget(
    work.map(({ parts: own }, number) => ({
      curve: curves[number],
      instances: own.length,
      weight: Math.max(
        ...own.map(
          (part) =>
            Math.max(LEAST_VISIBILITY, visibility[parts.findIndex((each) => each.node === part.node)]) *
            (weights.find((each) => each.part === part.name)?.weight ?? 1),
        ),
      ),
    })),
    budget,
  )
}

function budgetOf({ kind, document }: StepContext): number {
  const limit = kind.mesh?.triangles ?? countTriangles(listViewParts(document))
  const withSolids = kind.mesh?.withSolids ?? limit
  return Math.floor(Math.min(limit * HEADROOM, withSolids * 0.75) / 100) * 100 || limit
}
