import { describe, expect, it } from 'vitest'
import { kindOf } from '../game/load.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import type { WorklistEntry } from './entry.ts'
import { prepareWorklist } from './prepare.ts'
import { memoryStore, type ResultStore } from './result-store.ts'

const options = { rulebook: tarnAndTiller, kind: kindOf(tarnAndTiller, 'prop'), store: memoryStore() }
const start = () => ({
  key: 'box',
  document: documentOf({ 'Old Box': boxMesh({ min: [0, 0, 0], max: [2, 2, 2] }) }),
})
const entry = (step: string, change: Partial<WorklistEntry> = {}): WorklistEntry => ({
  id: `by-hand-${step}`,
  step,
  on: true,
  parameters: {},
  reason: null,
  byHand: true,
  ...change,
})

describe('preparing anew', () => {
  it('leaves what a person switched off as it is, and proposes nothing beside it', async () => {
    const proposed = await prepareWorklist(start(), options)
    expect(proposed.map(({ step }) => step)).toContain('clean-names')
    const off = entry('clean-names', { on: false })
    const anew = await prepareWorklist(start(), options, [off])
    expect(anew.filter(({ step }) => step === 'clean-names')).toEqual([off])
    expect(anew.map(({ step }) => step)).toEqual(proposed.map(({ step }) => step))
  })

  it('keeps settings and steps that nobody would propose, each where its step belongs', async () => {
    const mirrored = entry('mirror', { parameters: { across: 'z' } })
    const anew = await prepareWorklist(start(), options, [mirrored])
    const at = anew.indexOf(mirrored)
    expect(at).toBeGreaterThanOrEqual(0)
    expect(anew.findIndex(({ step }) => step === 'clean-names')).toBeGreaterThan(at)
    expect(new Set(anew.map(({ id }) => id)).size).toBe(anew.length)
  })

  it('runs what stays as it is in one go, from the last state that was kept', async () => {
    const kept = memoryStore()
    let ran = 0
    const store: ResultStore = {
      ...kept,
      save(record, state) {
        ran++
        return kept.save(record, state)
      },
    }
    const run = { ...options, store }
    const round = () => ({ key: 'round', document: documentOf({ 'Old Ball': ball(2, 80) }) })
    const first = await prepareWorklist(round(), run)
    const at = first.findIndex(({ step }) => step === 'add-solid')
    expect(at).toBeGreaterThan(5)
    const settled = first.map((each, index) => (index === at ? { ...each, reason: 'set' } : each))
    ran = 0
    const anew = await prepareWorklist(round(), run, [], { worklist: settled, step: 'add-solid' })
    expect(anew.map(({ step }) => step)).toEqual(first.map(({ step }) => step))
    expect(anew[at].reason).toBe('set')
    expect(ran).toBeLessThanOrEqual(1)
  })

  it('loses none where a step fails, or is not known to this version', async () => {
    const decided = [
      entry('of-another-version'),
      entry('place-origin', { parameters: { at: 'point', point: [], part: '', snap: 'none', grid: 1 } }),
      entry('weld', { on: false }),
    ]
    const anew = await prepareWorklist(start(), options, decided)
    for (const each of decided) expect(anew).toContain(each)
  })
})
