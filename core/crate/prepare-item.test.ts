import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { kindOf } from '../game/load.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { documentOf } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import type { WorklistEntry } from '../worklist/entry.ts'
import { prepareWorklist } from '../worklist/prepare.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { runWorklist, StoppedError, type RunOptions } from '../worklist/run.ts'
import { checkResult } from './evaluate.ts'
import { prepareItem } from './prepare-item.ts'

const prop = kindOf(tarnAndTiller, 'prop')
const optionsFor = (over: Partial<RunOptions> = {}): RunOptions => ({
  rulebook: tarnAndTiller,
  kind: prop,
  store: memoryStore(),
  ...over,
})
const startOf = (document: Document) => ({ key: 'start', document })

async function openFindings(document: Document, worklist: WorklistEntry[], options: RunOptions): Promise<string[]> {
  const result = await runWorklist(startOf(document), worklist, options)
  const { findings } = checkResult(result, { rulebook: options.rulebook, kind: options.kind })
  return findings.filter(({ severity }) => severity !== 'note').map(({ rule }) => rule)
}

/** A box and a needle: a triangle with next to no area. */
function needled(): Document {
  const box = boxMesh({ min: [0, 0, 0], max: [2, 2, 2] })
  return documentOf({
    box,
    needle: {
      positions: Float32Array.from([0, 0, 0, 2, 0, 0, 1, 1e-7, 0, 0, 3, 0]),
      indices: Uint32Array.from([0, 1, 2, 0, 1, 3]),
    },
  })
}

/** A single sheet that leans, which looks as if it held something and has no hull. */
const sheet = (): Document =>
  documentOf({
    sheet: {
      positions: Float32Array.from([2, 4, 6, 4, 6, 2, 6, 2, 4]),
      indices: Uint32Array.from([0, 1, 2]),
    },
  })

describe('Prepare, run and check until nothing is left', () => {
  it('leaves no more that blocks or is risky than proposing alone', async () => {
    const options = optionsFor()
    const proposed = await prepareWorklist(startOf(needled()), options)
    const { worklist: prepared } = await prepareItem(startOf(needled()), options)
    const [before, after] = [
      await openFindings(needled(), proposed, options),
      await openFindings(needled(), prepared, options),
    ]
    expect(after.length).toBeLessThanOrEqual(before.length)
  })

  it('sets what is there by the names it has there, and proposes anew what comes later', async () => {
    const { positions, indices } = boxMesh({ min: [0, 0, 0], max: [2, 2, 2] })
    const trough = (): Document => documentOf({ 'Old Trough': { positions, indices: indices.slice(6) } })
    const leftOut = { parts: [], how: 'flag' }
    const decided = [{ id: 'step-9', step: 'two-sided', on: true, parameters: leftOut, reason: null }]
    const options = optionsFor()
    const proposed = await prepareWorklist(startOf(trough()), options, decided)
    expect(await openFindings(trough(), proposed, options)).toContain('inside-seen')
    const { worklist, rounds, findings } = await prepareItem(startOf(trough()), options, { decided })
    expect(findings.map(({ rule }) => rule)).not.toContain('inside-seen')
    expect(rounds[0]).toMatch(/“Two sides” was tried and stays/)
    expect(worklist.filter(({ step }) => step === 'two-sided')).toMatchObject([
      { parameters: { parts: ['Old Trough'] } },
    ])
    // What the material is told to be later says it as well.
    expect(worklist.map(({ step }) => step)).toEqual(proposed.map(({ step }) => step))
    expect(new Set(worklist.map(({ id }) => id)).size).toBe(worklist.length)
  })

  it('does the same every time', async () => {
    const [first, second] = [
      (await prepareItem(startOf(needled()), optionsFor())).worklist,
      (await prepareItem(startOf(needled()), optionsFor())).worklist,
    ]
    expect(second).toEqual(first)
  })

  it('tries the mend of what it finds, and keeps it with the reason where it helps', async () => {
    const options = optionsFor({ kind: kindOf(tarnAndTiller, 'loose') })
    const proposed = await prepareWorklist(startOf(sheet()), options)
    expect(await openFindings(sheet(), proposed, options)).toContain('solid-missing')
    const { worklist: prepared } = await prepareItem(startOf(sheet()), options)
    expect(await openFindings(sheet(), prepared, options)).not.toContain('solid-missing')
    expect(prepared.find(({ step }) => step === 'fit-solids')?.reason).toMatch(/^Found when it was checked: /)
    expect(new Set(prepared.map(({ id }) => id)).size).toBe(prepared.length)
  })

  it('puts nothing beside what a person decided', async () => {
    const off = (step: string): WorklistEntry => ({
      id: `${step}-off`,
      step,
      on: false,
      parameters: {},
      reason: null,
      byHand: true,
    })
    const options = optionsFor({ kind: kindOf(tarnAndTiller, 'loose') })
    const { worklist: prepared } = await prepareItem(startOf(sheet()), options, {
      decided: [off('weld'), off('fit-solids')],
    })
    expect(prepared.filter(({ step }) => step === 'weld')).toEqual([off('weld')])
    expect(prepared.filter(({ step }) => step === 'fit-solids')).toEqual([off('fit-solids')])
  })

  it('is stopped like any run', async () => {
    await expect(prepareItem(startOf(needled()), optionsFor({ shouldStop: () => true }))).rejects.toThrow(StoppedError)
  })
})

describe('a proposed step that does not work', () => {
  it('is left out with its reason, and what comes after it is proposed all the same', async () => {
    const options = optionsFor({ kind: kindOf(tarnAndTiller, 'loose') })
    const worklist = await prepareWorklist(startOf(sheet()), options)
    const failed = worklist.filter(({ on }) => !on)
    expect(failed.map(({ step }) => step)).toEqual(['add-solid'])
    expect(failed[0].reason).toMatch(/^Left out, since it did not work: .*flat.*Use a box\.$/)
    expect((await runWorklist(startOf(sheet()), worklist, options)).failed).toBe(false)
  })
})
