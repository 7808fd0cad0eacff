import { beforeAll, describe, expect, it, vi } from 'vitest'
import { documentFromGlb, documentToGlb } from '../item/io.ts'
import { sha256Hex } from '../support/hashing.ts'
import { packItems } from '../pack/pack-crate.ts'
import { kindOf } from '../game/load.ts'
import { stepById } from '../steps/registry.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { prepareDemo, tarnAndTiller, type PreparedItem } from '../test-support/prepared-gate.ts'
import type { WorklistEntry } from './entry.ts'
import { proposeStep } from './propose-step.ts'
import { memoryStore, noStore } from './result-store.ts'
import { runWorklist, StoppedError, type RunOptions } from './run.ts'

const prop = kindOf(tarnAndTiller, 'prop')
const options = (change: Partial<RunOptions> = {}): RunOptions => ({
  rulebook: tarnAndTiller,
  kind: prop,
  store: memoryStore(),
  ...change,
})
const start = () => ({
  key: 'start',
  document: documentOf({ 'Big Ball': ball(2, 40), 'small ball': ball(0.5, 20, [4, 0, 0]) }),
})
const worklist: WorklistEntry[] = [
  { id: 'step-1', step: 'weld', on: true, parameters: { distance: 0.0001 }, reason: null },
  {
    id: 'step-2',
    step: 'reduce-triangles',
    on: true,
    parameters: { targetTriangles: 2000, holdSeams: true, holdBorders: true, leaveAlone: [] },
    reason: null,
  },
  { id: 'step-3', step: 'clean-names', on: true, parameters: {}, reason: null },
]
const states = (result: Awaited<ReturnType<typeof runWorklist>>) =>
  result.outcomes.map((outcome) => (outcome.state === 'done' ? (outcome.reused ? 'kept' : 'ran') : outcome.state))

describe('running a worklist', () => {
  it('runs from the first changed step only', async () => {
    const run = options()
    expect(states(await runWorklist(start(), worklist, run))).toEqual(['ran', 'ran', 'ran'])
    expect(states(await runWorklist(start(), worklist, run))).toEqual(['kept', 'kept', 'kept'])
    const changed = worklist.map((entry) =>
      entry.id === 'step-2' ? { ...entry, parameters: { ...entry.parameters, targetTriangles: 1000 } } : entry,
    )
    expect(states(await runWorklist(start(), changed, run))).toEqual(['kept', 'ran', 'ran'])
    expect(states(await runWorklist({ ...start(), key: 'another source' }, worklist, run))).toEqual([
      'ran',
      'ran',
      'ran',
    ])
  })

  it('passes over steps that are switched off, and takes their results up again', async () => {
    const run = options()
    await runWorklist(start(), worklist, run)
    const off = worklist.map((entry) => (entry.id === 'step-2' ? { ...entry, on: false } : entry))
    expect(states(await runWorklist(start(), off, run))).toEqual(['kept', 'off', 'ran'])
    expect(states(await runWorklist(start(), worklist, run))).toEqual(['kept', 'kept', 'kept'])
  })

  it('never changes the document it began with', async () => {
    const begun = start()
    const before = sha256Hex(await documentToGlb(begun.document))
    await runWorklist(begun, worklist, options())
    expect(sha256Hex(await documentToGlb(begun.document))).toBe(before)
  })

  it('stops at a step that fails, says why, and keeps the state before it', async () => {
    const broken: WorklistEntry[] = [
      worklist[0],
      {
        id: 'step-9',
        step: 'add-solid',
        on: true,
        parameters: {
          part: 'Big Ball',
          shape: 'cylinder',
          surface: 'stone',
          layers: [],
          massKilograms: 0,
          points: 8,
          triangles: 40,
        },
        reason: null,
      },
      worklist[2],
    ]
    const result = await runWorklist(start(), broken, options())
    expect(states(result)).toEqual(['ran', 'failed', 'waiting'])
    expect(result.outcomes[1]).toMatchObject({ message: expect.stringMatching(/cylinder/) })
    expect(
      result.document
        .getRoot()
        .listNodes()
        .map((node) => node.getName()),
    ).toContain('Big Ball')
  })

  it('passes over a step whose part is gone, says so, and goes on', async () => {
    const stale: WorklistEntry[] = [
      worklist[0],
      {
        id: 'step-9',
        step: 'add-solid',
        on: true,
        parameters: {
          part: 'no such part',
          shape: 'box',
          surface: 'stone',
          layers: [],
          massKilograms: 0,
          points: 8,
          triangles: 40,
        },
        reason: null,
      },
      worklist[2],
    ]
    const result = await runWorklist(start(), stale, options())
    expect(states(result)).toEqual(['ran', 'ran', 'ran'])
    expect(result.outcomes[1]).toMatchObject({
      record: { changed: false, doesNotApply: expect.stringMatching(/no part “no such part”.*Choose another part/) },
    })
  })

  it('names a setting that is wrong, and a step that this version does not know', async () => {
    const wrong = await runWorklist(start(), [{ ...worklist[1], parameters: { targetTriangles: -5 } }], options())
    expect(wrong.outcomes[0]).toMatchObject({
      state: 'failed',
      message: expect.stringMatching(/“targetTriangles” is wrong/),
    })
    const unknown = await runWorklist(start(), [{ ...worklist[1], step: 'polish' }], options())
    expect(unknown.outcomes[0]).toMatchObject({ state: 'failed', message: expect.stringMatching(/no such step/) })
  })

  it('says whose fault it is where a step breaks on one of ours, and how to go on', async () => {
    const broken = vi.spyOn(stepById('reduce-triangles'), 'run').mockRejectedValue(new Error('Assertion failed'))
    try {
      const result = await runWorklist(start(), worklist, options())
      expect(states(result)).toEqual(['ran', 'failed', 'waiting'])
      expect(result.outcomes[1]).toMatchObject({
        message: 'Reduce triangles: a fault of ours stopped it (Assertion failed). Switch it off; the rest goes on.',
      })
      const off = worklist.map((entry) => ({ ...entry, on: entry.step !== 'reduce-triangles' }))
      expect(states(await runWorklist(start(), off, options()))).toEqual(['ran', 'off', 'ran'])
    } finally {
      broken.mockRestore()
    }
  })

  it('refuses a step that would leave nothing, such as welding triangles without area', async () => {
    const point = { positions: new Float32Array(9), indices: Uint32Array.from([0, 1, 2]) }
    const result = await runWorklist({ key: 'point', document: documentOf({ point }) }, [worklist[0]], options())
    expect(result.outcomes[0]).toMatchObject({
      state: 'failed',
      message: expect.stringMatching(/nothing would be left/),
    })
  })

  it('ends when it is told to stop, and keeps what was finished', async () => {
    const run = options()
    let reached = ''
    const stopping = runWorklist(start(), worklist, {
      ...run,
      onProgress: ({ entry }) => {
        reached = entry
      },
      shouldStop: () => reached === 'step-2',
    })
    await expect(stopping).rejects.toBeInstanceOf(StoppedError)
    expect(states(await runWorklist(start(), worklist, run))[0]).toBe('kept')
  })

  it('tells how far it is, never going back', async () => {
    const fractions: number[] = []
    await runWorklist(start(), worklist, options({ onProgress: ({ fraction }) => fractions.push(fraction) }))
    expect(fractions.length).toBeGreaterThanOrEqual(3)
    expect([...fractions].sort((a, b) => a - b)).toEqual(fractions)
  })
})

describe('the gate, run in pieces', () => {
  let gate: PreparedItem
  beforeAll(async () => {
    gate = await prepareDemo('boathouse_gate', 'prop')
  })

  it('packs to the same bytes in one go and resumed from kept states', async () => {
    const pack = async (document: PreparedItem['result']['document']) =>
      (await packItems([{ name: 'gate', kind: prop, document }], tarnAndTiller, 'gate')).sha256
    const inOneGo = await runWorklist(gate.start, gate.item.worklist, options({ store: noStore }))
    expect(await pack(gate.result.document)).toBe(await pack(inOneGo.document))
    const again = await documentFromGlb(await documentToGlb(gate.result.document))
    expect(await pack(again)).toBe(await pack(inOneGo.document))
  })

  it('fills in a step for its place in the worklist', async () => {
    const without = gate.item.worklist.filter((entry) => entry.step !== 'reduce-triangles')
    const proposal = await proposeStep(
      gate.start,
      without,
      'reduce-triangles',
      { targetTriangles: 9000 },
      options({ store: gate.store }),
    )
    expect(proposal.at).toBe(without.findIndex((entry) => entry.step === 'even-normals'))
    expect(proposal.entries).toMatchObject([
      {
        step: 'reduce-triangles',
        on: true,
        parameters: { targetTriangles: 9000, holdSeams: true },
        reason: expect.stringMatching(/38,09\d triangles/),
      },
    ])
  })
})
