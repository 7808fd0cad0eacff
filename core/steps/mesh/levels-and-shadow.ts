import { z } from 'zod'
import type { Document, Mesh, Node } from '@gltf-transform/core'
import { countMeshTriangles, countTriangles, listViewParts, type Part } from '../../item/parts.ts'
import { listLevelParts } from '../../item/annotations/level/list.ts'
import { listShadowParts } from '../../item/annotations/shadow/list.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import { sampleShares } from '../../geometry/surface/sample-shares.ts'
import { closedShape, MOST_SAMPLES, shadowShape } from '../../geometry/surface/shadow-shape.ts'
import type { ErrorCurve } from '../../geometry/mesh/share-budget.ts'
import { levelSuffix } from '../../game/names.ts'
import type { Rulebook } from '../../game/schema.ts'
import {
  addDerivedNode,
  errorCurvesOf,
  plainShape,
  reducedCopy,
  reducedHeldShape,
  reducedShape,
  sharesByShift,
  soupMesh,
} from '../../operations/meshes/derived-meshes.ts'
import { noticedShift, shiftsBetween } from '../../operations/meshes/level-shift.ts'
import { furthestTriangles } from '../../operations/meshes/reach.ts'
import { boundsSize, partsBounds } from '../../item/measure.ts'
import type { StepContext } from '../../operations/context.ts'
import { defineStep } from '../step.ts'
import { formatCount, formatLength, plural } from '../../support/wording.ts'

const share = z.number().positive().max(1)
/**
 * Beside the shadow mesh’s, a share of the first level’s triangles for each further level: `level1`, `level2` and so
 * on.
 */
const parameters = z.object({ shadowFrom: z.enum(['own', 'level']).default('own'), shadow: share }).catchall(share)
type Parameters = { shadowFrom: 'own' | 'level'; shadow: number } & Partial<
  Record<LevelKey | (typeof earlierKeys)[number], number>
>
type LevelKey = `level${number}`

/** The setting that holds a level’s share. */
export const levelKey = (level: number): LevelKey => `level${level}`

/** How worklists of earlier versions call the first two. */
const earlierKeys = ['levelOne', 'levelTwo'] as const

/** Levels stay this much under what is allowed, so that a later edit does not push them over. */
const MARGIN = 0.9

/** How much of what the game allows a level may have where fewer triangles would be seen. */
const MOST_OF_ALLOWED = 0.99

/** Of a box; for each a triangle may be kept so that a level reaches as far as the first. */
const MOST_SIDES = 6

/** How often a shadow mesh is made that has too many triangles. */
const MOST_ROUNDS = 4

/** Makes the coarser levels and the shadow mesh from the present parts. */
export const levelsAndShadow = defineStep<Parameters>({
  id: 'levels-and-shadow',
  version: 8,
  stage: 'mesh',
  title: 'Levels',
  purpose:
    'Makes the coarser levels that the game draws from further off, each from the full mesh, and the mesh that ' +
    'throws the shadow.',
  parameters: parameters as unknown as z.ZodType<Parameters>,
  fields: ({ rulebook }) => [
    ...rulebook.levels.chain.map((each) => ({
      type: 'number' as const,
      key: levelKey(each.level),
      label: `Level ${each.level}, from ${each.fromDistance} ${rulebook.space.unit.plural}`,
      unit: `of 1 (≤ ${each.mostShare})`,
      least: 0.02,
      most: each.mostShare,
      step: 0.01,
      slider: true,
    })),
    {
      type: 'choice',
      key: 'shadowFrom',
      label: 'Shadow mesh',
      options: [
        { value: 'own', label: 'closed, inside the view mesh' },
        ...(rulebook.levels.shadow.orALevel ? [{ value: 'level', label: 'the last level again' }] : []),
      ],
    },
    {
      type: 'number',
      key: 'shadow',
      label: 'Shadow mesh',
      unit: `of 1 (≤ ${rulebook.levels.shadow.mostShare})`,
      least: 0.02,
      most: rulebook.levels.shadow.mostShare,
      step: 0.01,
      slider: true,
      when: { key: 'shadowFrom', is: ['own'] },
    },
  ],
  defaults: ({ rulebook }) => ({
    ...Object.fromEntries(rulebook.levels.chain.map((each) => [levelKey(each.level), each.mostShare * MARGIN])),
    shadowFrom: 'own',
    shadow: rulebook.levels.shadow.mostShare * MARGIN,
  }),
  propose(context) {
    const triangles = countTriangles(listViewParts(context.document))
    const { neededAboveTriangles } = context.rulebook.levels
    if (!context.kind.levelsAsked || triangles <= neededAboveTriangles || hasLevels(context)) return []
    return [
      {
        parameters: this.defaults(context) as Parameters,
        reason:
          `${formatCount(triangles)} triangles; above ${formatCount(neededAboveTriangles)} the game wants coarser ` +
          'levels and a shadow mesh.',
      },
    ]
  },
  async run({ document, parameters: chosen, rulebook, progress }) {
    for (const part of [
      ...rulebook.levels.chain.flatMap((each) => listLevelParts(document, each.level)),
      ...listShadowParts(document),
    ])
      if (!part.extras.byHand) part.node.dispose()
    const parts = listViewParts(document)
    const details: string[] = []
    const curves = await errorCurvesOf(parts, (fraction, doing) => progress(fraction * 0.1, doing))
    const { chain } = rulebook.levels
    for (const [index, each] of chain.entries()) {
      const part = (fraction: number, doing: string): Promise<void> =>
        progress(0.1 + (0.9 * (index + fraction)) / (chain.length + 1), doing)
      details.push(
        await makeLevel({ document, parts, curves, rulebook, progress: part }, each, shareOf(each, index, chosen)),
      )
    }
    details.push(
      await makeShadow(
        {
          document,
          parts,
          curves,
          rulebook,
          progress: (fraction, doing) => progress(0.1 + (0.9 * (chain.length + fraction)) / (chain.length + 1), doing),
        },
        chosen,
      ),
    )
    dropUnusedAccessors(document)
    return { headline: `${chain.length + 1} made`, details, changed: true }
  },
})

interface Work {
  document: Document
  parts: readonly Part[]
  curves: readonly ErrorCurve[]
  rulebook: Rulebook
  progress: (fraction: number, doing: string) => Promise<void>
}

type Level = Rulebook['levels']['chain'][number]

/** The share that was chosen for a level; what the game allows, less a margin, where nothing was. */
const shareOf = (level: Level, index: number, chosen: Parameters): number =>
  chosen[levelKey(level.level)] ?? chosen[earlierKeys[index]] ?? level.mostShare * MARGIN

/**
 * One level, made from the parts themselves and not from another level; parts with one made by hand keep it. Where it
 * would be seen to change when the game switches to it, it gets as many triangles as the game allows.
 */
async function makeLevel(work: Work, level: Level, share: number): Promise<string> {
  const { document, parts, rulebook } = work
  const total = countTriangles(parts)
  const byHand = new Set(listLevelParts(document, level.level).map((each) => each.node.getParentNode()))
  const noticed = noticedShift(level)
  const remake = (triangles: number, kept?: ReadonlyMap<Part, number[]>): Promise<number> => {
    for (const part of listLevelParts(document, level.level))
      if (!byHand.has(part.node.getParentNode())) part.node.dispose()
    return reduceTo(work, level, triangles, byHand, kept)
  }
  let triangles = total * share
  let apart = await reduceTo(work, level, triangles, byHand)
  const most = level.mostShare * MOST_OF_ALLOWED
  if (apart > noticed && share < most) apart = await remake((triangles = total * most))
  const reach = Math.max(...boundsSize(partsBounds(parts))) * rulebook.levels.mostDrift
  const furthest = furthestTriangles(parts, listLevelParts(document, level.level), reach)
  if (furthest.size > 0) apart = await remake(triangles - MOST_SIDES, furthest)
  const made = countTriangles(listLevelParts(document, level.level))
  const unit = rulebook.space.unit.plural
  const kept =
    byHand.size > 0
      ? ` ${plural(byHand.size, 'mesh', 'meshes')} made by hand ${byHand.size === 1 ? 'was' : 'were'} kept.`
      : ''
  return (
    `Level ${level.level} has ${formatCount(made)} triangles, ` +
    `${total > 0 ? ((made / total) * 100).toFixed(0) : 0} % of ${formatCount(total)}, and lies ` +
    `${formatLength(apart)} ${unit} from the first at most; it is drawn from ${formatCount(level.fromDistance)} ` +
    `${unit} on, where ${formatLength(noticed)} would be noticed.${kept}`
  )
}

/** Makes the level of each part; tells how far it lies from the first at most, in scene units. */
async function reduceTo(
  { document, parts, curves, rulebook, progress }: Work,
  { level }: Level,
  triangles: number,
  byHand: ReadonlySet<Node | null>,
  kept?: ReadonlyMap<Part, number[]>,
): Promise<number> {
  const wanted = sharesByShift(parts, curves, triangles)
  const made: { part: Part; mesh: Mesh }[] = []
  for (const [number, part] of parts.entries()) {
    await progress(number / parts.length, `level ${level} of ${part.name}`)
    if (byHand.has(part.node)) continue
    const name = part.name + levelSuffix(rulebook, level)
    const mesh = await reducedCopy(document, part, name, wanted[number], kept?.get(part))
    addDerivedNode(document, part, name, mesh, { role: 'level', level })
    made.push({ part, mesh })
  }
  return shiftsBetween(made.map(({ part, mesh }) => [part.mesh, mesh])).reduce(
    (most, shift, index) => Math.max(most, shift * Math.max(...made[index].part.node.getWorldScale().map(Math.abs))),
    0,
  )
}

async function makeShadow(work: Work, chosen: Parameters): Promise<string> {
  const { document, parts, rulebook } = work
  const { shadow, chain } = rulebook.levels
  const byHand = new Set(listShadowParts(document).map((each) => each.node.getParentNode()))
  const lastLevels = new Map(
    listLevelParts(document, chain.at(-1)?.level ?? 1).map((each) => [each.node.getParentNode(), each]),
  )
  const fromLevel = (part: Part): Part | undefined =>
    chosen.shadowFrom === 'level' ? lastLevels.get(part.node) : undefined
  const own = parts.filter((part) => !byHand.has(part.node) && !part.node.getSkin() && !fromLevel(part))
  const { shares, shapes } = await closedShapes(work, own, chosen.shadow)
  const counts = own.map((part) => (shapes.get(part)?.indices.length ?? 0) / 3)
  const samples = new Map(sampleShares(counts, MOST_SAMPLES).map((count, index) => [own[index], count]))
  let standsOut = 0
  let closed = 0
  for (const [number, part] of parts.entries()) {
    await work.progress(0.5 + (0.5 * number) / parts.length, `shadow of ${part.name}`)
    if (byHand.has(part.node)) continue
    const name = part.name + shadow.nameSuffix
    const last = fromLevel(part)
    const shape = shapes.get(part)
    let mesh: Mesh
    if (part.node.getSkin()) mesh = await reducedHeldShape(document, part, name, shares[number])
    else if (last) mesh = soupMesh(document, name, plainShape(last))
    else if (shape) {
      const drawn = shadowShape(shape, plainShape(part), samples.get(part))
      standsOut = Math.max(standsOut, drawn.standsOut)
      closed += drawn.closed
      mesh = soupMesh(document, name, drawn)
    } else continue
    addDerivedNode(document, part, name, mesh, { role: 'shadow' })
  }
  const triangles = listShadowParts(document).reduce((sum, part) => sum + countMeshTriangles(part.mesh), 0)
  if (chosen.shadowFrom === 'level')
    return `The shadow mesh is the last level again: ${formatCount(triangles)} triangles.`
  const unit = rulebook.space.unit.plural
  return (
    `The shadow mesh has ${formatCount(triangles)} ` +
    `triangles${closed > 0 ? `; ${plural(closed, 'hole was', 'holes were')} closed` : ''}; it stands out of the ` +
    `view mesh by ${formatLength(standsOut)} ${unit} at most.`
  )
}

/**
 * Each part reduced and closed; again with fewer triangles where closing holes brought them over what the game allows.
 * @returns the shares of all parts beside them
 */
async function closedShapes(
  { parts, curves, rulebook, progress }: Work,
  own: readonly Part[],
  share: number,
): Promise<{ shares: number[]; shapes: Map<Part, ReturnType<typeof closedShape>> }> {
  const total = countTriangles(parts)
  const allowed = Math.floor(total * rulebook.levels.shadow.mostShare)
  const ownShares = new Set(own)
  let wanted = total * share
  for (let round = 1; ; round++) {
    const shares = sharesByShift(parts, curves, wanted)
    const shapes = new Map<Part, ReturnType<typeof closedShape>>()
    for (const [number, part] of parts.entries()) {
      if (!ownShares.has(part)) continue
      await progress((0.5 * number) / parts.length, `shadow of ${part.name}`)
      shapes.set(part, closedShape(await reducedShape(part, shares[number])))
    }
    const made = parts.reduce((sum, part, number) => sum + (shapes.get(part)?.indices.length ?? shares[number] * 3), 0)
    if (made <= allowed * 3 || round === MOST_ROUNDS) return { shares, shapes }
    wanted *= ((allowed * 3) / made) * MARGIN
  }
}

const hasLevels = ({ document }: StepContext): boolean =>
  listLevelParts(document, 1).length > 0 && listShadowParts(document).length > 0
