import { describe, expect, it } from 'vitest'
import { kindOf } from '../game/load.ts'
import { documentToGlb } from '../item/io.ts'
import { sha256Hex } from '../support/hashing.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import type { WorklistEntry } from './entry.ts'
import { memoryStore, noStore, rememberingStore, type ResultStore } from './result-store.ts'
import { runWorklist, stateKey, type RunOptions, type StartState } from './run.ts'

const prop = kindOf(tarnAndTiller, 'prop')
const options = (store: ResultStore, handsOn = false): RunOptions => ({
  rulebook: tarnAndTiller,
  kind: prop,
  store,
  handsOn,
})
const start = (): StartState => ({
  key: 'start',
  document: documentOf({ 'Big Ball': ball(2, 24), 'small ball': ball(0.5, 12, [4, 0, 0]) }),
})
const entry = (id: string, step: string, parameters: WorklistEntry['parameters'] = {}): WorklistEntry => ({
  id,
  step,
  on: true,
  parameters,
  reason: null,
})
// Two steps of the stage Mesh, then one of Surface.
const weld = entry('a', 'weld', { distance: 0.0001 })
const reduce = entry('b', 'reduce-triangles', {
  targetTriangles: 1000,
  holdSeams: true,
  holdBorders: true,
  leaveAlone: [],
})
const names = entry('c', 'clean-names')
const failing = entry('x', 'reduce-triangles', { targetTriangles: 'many' })
const bytesOf = async ({ document }: Awaited<ReturnType<typeof runWorklist>>): Promise<string> =>
  sha256Hex(await documentToGlb(document))

/** The keys of the states that a store still has after a run. */
async function keptOf(store: ResultStore, worklist: readonly WorklistEntry[]): Promise<boolean[]> {
  const kept: boolean[] = []
  let key = 'start'
  for (const each of worklist) {
    key = stateKey(key, each, tarnAndTiller, prop)
    kept.push((await store.state(key)) !== null)
  }
  return kept
}

describe('a state that is handed on', () => {
  it('leads to the same item as one that is copied, and the source stays as it was', async () => {
    const begun = start()
    const source = sha256Hex(await documentToGlb(begun.document))
    const plain = await bytesOf(await runWorklist(start(), [weld, reduce, names], options(memoryStore())))
    expect(await bytesOf(await runWorklist(begun, [weld, reduce, names], options(noStore)))).toBe(plain)
    expect(await bytesOf(await runWorklist(begun, [weld, reduce, names], options(memoryStore(), true)))).toBe(plain)
    expect(sha256Hex(await documentToGlb(begun.document))).toBe(source)
  })

  it('is kept at the end of each stage, and not within it', async () => {
    const store = memoryStore()
    await runWorklist(start(), [weld, reduce, names], options(store, true))
    expect(await keptOf(store, [weld, reduce, names])).toEqual([false, true, true])
    const all = memoryStore()
    await runWorklist(start(), [weld, reduce, names], options(all))
    expect(await keptOf(all, [weld, reduce, names])).toEqual([true, true, true])
  })

  it('is handed from one run to the next, as a worklist grows', async () => {
    const store = memoryStore()
    const run = options(store, true)
    await runWorklist(start(), [weld], run)
    expect(await keptOf(store, [weld])).toEqual([true])
    const grown = await runWorklist(start(), [weld, reduce], run)
    expect(grown.outcomes.map((outcome) => outcome.state === 'done' && outcome.reused)).toEqual([true, false])
    expect(await keptOf(store, [weld, reduce])).toEqual([false, true])
    expect(await bytesOf(grown)).toBe(await bytesOf(await runWorklist(start(), [weld, reduce], options(memoryStore()))))
  })

  it('is not taken out of a store that others look into', async () => {
    const kept = memoryStore()
    const store = rememberingStore(kept)
    expect(store.take).toBeUndefined()
    await runWorklist(start(), [weld, reduce, names], options(store, true))
    expect(await keptOf(store, [weld, reduce, names])).toEqual([true, true, true])
  })

  it.each([
    ['a store that keeps nothing', () => options(noStore)],
    ['states that are handed on', () => options(memoryStore(), true)],
    ['states that are kept', () => options(memoryStore())],
  ])('is there again as it was after a step that fails, with %s', async (_what, run) => {
    const before = await bytesOf(await runWorklist(start(), [weld, reduce], options(memoryStore())))
    const result = await runWorklist(start(), [weld, reduce, failing, names], run())
    expect(result.failed).toBe(true)
    expect(result.outcomes.map(({ state }) => state)).toEqual(['done', 'done', 'failed', 'waiting'])
    expect(await bytesOf(result)).toBe(before)
  })
})

describe('a store in memory', () => {
  it('says whether it holds what it was given', async () => {
    const record = { key: 'a', headline: '', details: [], changed: true, milliseconds: 1, triangles: 1 }
    const state = start().document
    expect(await memoryStore().save(record, state)).toBe(true)
    expect(await memoryStore(0).save(record, state)).toBe(false)
    expect(await memoryStore().save(record, null)).toBe(false)
    expect(await noStore.save(record, state)).toBe(false)
  })

  it('gives a state away once', async () => {
    const store = memoryStore()
    const state = start().document
    await store.save({ key: 'a', headline: '', details: [], changed: true, milliseconds: 1, triangles: 1 }, state)
    expect(await store.take?.('a')).toBe(state)
    expect(await store.take?.('a')).toBeNull()
    expect((await store.record('a'))?.key).toBe('a')
  })
})
