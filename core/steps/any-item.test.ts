import type { Document } from '@gltf-transform/core'
import { beforeAll, describe, expect, it } from 'vitest'
import { builtInRulebooks } from '../game/load.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import { copyDocument, createIO, documentFromGlb, documentToGlb } from '../item/io.ts'
import { mergedTriangles } from '../item/measure.ts'
import { listUsedMaterials, listViewParts } from '../item/parts.ts'
import type { StepContext } from '../operations/context.ts'
import { sha256Hex } from '../support/hashing.ts'
import { PlainError } from '../support/plain-error.ts'
import { NOT_WORDS, oddItems } from '../test-support/odd-items.ts'
import { steps } from './registry.ts'
import type { AnyStep, StepField, StepSummary } from './step.ts'

// What is promised of a step holds on any item, in any game: nobody asks the modder whether his mesh is as ours are.

/** The first kind of a game that has a mesh: what most items become. */
const meshKind = ({ kinds }: Rulebook): Kind => kinds.find(({ mesh }) => mesh !== null) ?? kinds[0]

// Each item in one game, and each game with every third of them: all that there is in all games would take minutes.
const games = builtInRulebooks()
const tried = oddItems.map(([what, make], number) => {
  const rulebook = games[number % games.length]
  return { what, make, game: rulebook.id, rulebook, kind: meshKind(rulebook), twice: number < games.length }
})

/** What steps are set to so that pictures stay small. */
const SMALL: Record<string, number> = { sidePixels: 64, rays: 8 }

const madeSmall = (parameters: unknown): unknown =>
  Object.fromEntries(
    Object.entries(parameters as Record<string, unknown>).map(([key, value]) => [
      key,
      typeof value === 'number' ? Math.min(value, SMALL[key] ?? value) : value,
    ]),
  )

/** Values that a parameter of the field may have, by its control; all for controls whose values are not listed. */
function isOffered(field: StepField, value: unknown): boolean {
  if (field.type === 'number' && typeof value === 'number') return value >= field.least && value <= field.most
  if (field.type === 'choice')
    return field.options.length === 0 || field.options.some((option) => option.value === value)
  return true
}

/** Accessors that hold what is no number, and triangles of corners that are not there. */
function brokenNumbers(document: Document): string[] {
  const accessors = document.getRoot().listAccessors()
  const noNumbers = accessors.filter((accessor) =>
    accessor.getArray()?.some((value: number) => !Number.isFinite(value)),
  )
  const beyond = document
    .getRoot()
    .listMeshes()
    .flatMap((mesh) => mesh.listPrimitives())
    .filter((primitive) => {
      const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
      return primitive
        .getIndices()
        ?.getArray()
        ?.some((corner: number) => corner >= corners)
    })
  return [
    ...noNumbers.map((accessor) => `not finite: ${accessor.getName() || accessor.getType()}`),
    ...beyond.map(() => 'a corner that is not there'),
  ]
}

type Outcome = { summary: StepSummary; document: Document; hash: string } | { refused: string }

const hashOf = async (document: Document): Promise<string> => sha256Hex(await documentToGlb(document))

/**
 * What is seen of an item: its triangles where they stand, what holds them and moves them, its materials and pictures.
 */
async function seenIn(document: Document): Promise<string> {
  const { json } = await createIO().binaryToJSON(await documentToGlb(document))
  const { positions, indices } = mergedTriangles(listViewParts(document))
  const corners = Array.from(indices, (corner) => positions.subarray(corner * 3, corner * 3 + 3).join())
  const { animations, skins, images } = json
  const nodes = (json.nodes ?? []).map(({ name, matrix, translation, rotation, scale }) => [
    name,
    matrix,
    translation,
    rotation,
    scale,
  ])
  const shown = new Set(listUsedMaterials(document).map((material) => material.getName()))
  const materials = (json.materials ?? []).filter(({ name }) => shown.has(name ?? ''))
  const counted = [animations, skins, images].map((list) => list?.length ?? 0)
  return JSON.stringify([corners, nodes, materials, counted], (key, value: unknown) =>
    key === 'extras' ? undefined : value,
  )
}

/** What is told of an outcome, and what tells it from another. */
const wordsOf = (outcome: Outcome): string[] =>
  'refused' in outcome ? [outcome.refused] : [outcome.summary.headline, ...outcome.summary.details, outcome.hash]

async function outcomeOf(step: AnyStep, context: StepContext, parameters: unknown): Promise<Outcome> {
  const document = copyDocument(context.document)
  try {
    const summary = await step.run({ ...context, document, parameters, progress: async () => undefined })
    return { summary, document, hash: await hashOf(document) }
  } catch (error) {
    if (error instanceof PlainError) return { refused: error.message }
    throw error
  }
}

describe.each(tried)('an item that is $what, in $game', ({ make, rulebook, kind, twice }) => {
  let document: Document
  let context: StepContext
  let before: string

  beforeAll(async () => {
    document = make()
    context = { document, rulebook, kind, source: document, images: [], hosts: [], official: null }
    before = await hashOf(document)
  })

  it('is given settings that each step takes, offers and keeps through a file', () => {
    for (const step of steps) {
      const defaults = step.defaults(context)
      const kept: unknown = JSON.parse(JSON.stringify(defaults))
      expect(step.parameters.safeParse(kept).error?.issues, step.id).toBeUndefined()
      const byKey = kept as Record<string, unknown>
      const fields = step.fields(context)
      for (const field of fields.filter(({ when }) => !when || when.is.includes(byKey[when.key] as string)))
        expect(
          isOffered(field, byKey[field.key]),
          `${step.id}: ${field.key} = ${JSON.stringify(byKey[field.key])}`,
        ).toBe(true)
    }
  })

  it('is proposed steps with settings that they take, for reasons in whole words', () => {
    for (const step of steps) {
      for (const { parameters, reason } of step.propose(context)) {
        expect(step.parameters.safeParse(parameters).error?.issues, step.id).toBeUndefined()
        expect(reason, step.id).toMatch(/\S \S.*\.$/s)
        expect(reason, step.id).not.toMatch(NOT_WORDS)
      }
    }
  })

  it('comes out of each step readable, the same each time, and as it was where nothing is said to be changed', async () => {
    for (const step of steps) {
      const [proposed] = step.propose(context)
      const parameters = madeSmall(proposed?.parameters ?? step.defaults(context))
      const outcome = await outcomeOf(step, context, parameters)
      expect(await hashOf(document), `${step.id} writes into what it is given`).toBe(before)
      if (twice) expect(wordsOf(await outcomeOf(step, context, parameters)), step.id).toEqual(wordsOf(outcome))
      for (const text of wordsOf(outcome)) expect(text, step.id).not.toMatch(NOT_WORDS)
      if ('refused' in outcome) continue
      const { summary } = outcome
      for (const text of [summary.headline, ...summary.details]) expect(text.trim(), step.id).not.toBe('')
      if (!summary.changed)
        expect(
          (await seenIn(outcome.document)) === (await seenIn(document)),
          `${step.id} says that nothing changed`,
        ).toBe(true)
      const read = await documentFromGlb(await documentToGlb(outcome.document))
      expect(brokenNumbers(read), `${step.id} leaves broken numbers`).toEqual([])
    }
  })
})
