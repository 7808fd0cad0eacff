import { describe, expect, it } from 'vitest'
import type { CrateItem } from '../../core/crate/schema'
import { kindOf, rulebookById } from '../../core/game/load'
import type { Finding } from '../../core/rules/rule'
import type { ItemRun } from '../queries/runs'
import { findingsOf, stageStatus, worstStatus } from './stage-status'

const rulebook = rulebookById('tarn-and-tiller')
const prop = kindOf(rulebook, 'prop')
const item: CrateItem = {
  id: 'gate',
  name: 'Gate',
  kind: 'prop',
  main: 'gate.obj',
  sources: [{ path: 'gate.obj', sha256: 'a'.repeat(64), bytes: 3 }],
  reading: { links: {} },
  worklist: [],
  waivers: [],
}
const finding = (change: Partial<Finding>): Finding => ({
  rule: 'triangle-budget',
  severity: 'blocks',
  stage: 'mesh',
  title: '',
  where: 'item',
  place: { parts: [], bounds: null, spots: [], texture: null },
  value: '',
  limit: '',
  message: '',
  why: '',
  mend: null,
  ...change,
})
const runWith = (...findings: Finding[]): ItemRun => ({
  wanted: 'a',
  wantsScenes: false,
  shown: 'a',
  state: 'done',
  scenes: null,
  message: null,
  together: [],
  evaluation: {
    key: 'k',
    outcomes: [],
    gauges: [],
    questions: [],
    paths: [],
    facts: { name: 'item', kind: 'prop', unique: {}, things: [], events: [], names: [] },
    steps: [],
    milliseconds: 1,
    findings,
    source: {
      triangles: 0,
      parts: [],
      others: [],
      references: [],
      units: { metresPerUnit: 1, from: 'declared' },
      sizes: [],
      axes: { up: '+y', forward: '+z', from: 'declared' },
      clips: [],
      bones: 0,
      oddities: [],
    },
  },
})
const status = (stage: Parameters<typeof stageStatus>[0], run?: ItemRun, of: CrateItem = item) =>
  stageStatus(stage, of, prop, rulebook, run)

describe('what the route bar says', () => {
  it('is “not run” before an item has run', () => {
    expect(status('mesh')).toEqual({ status: 'idle', text: 'not run' })
    expect(status('check')).toEqual({ status: 'idle', text: 'not run' })
  })

  it('counts what is worst at a stage, and only there', () => {
    const run = runWith(finding({}), finding({ severity: 'risky' }), finding({ severity: 'risky', stage: 'fit' }))
    expect(status('mesh', run)).toEqual({ status: 'blocks', text: '1 block' })
    expect(status('fit', run)).toEqual({ status: 'risky', text: '1 risky' })
    expect(status('surface', run)).toEqual({ status: 'clear', text: 'clear' })
    expect(status('check', run)).toEqual({ status: 'blocks', text: '3 findings' })
  })

  it('is clear when there are only notes', () => {
    const run = runWith(finding({ severity: 'note', stage: 'intake' }))
    expect(status('intake', run)).toEqual({ status: 'clear', text: '1 file in' })
    expect(status('check', run)).toEqual({ status: 'clear', text: '1 finding' })
  })

  it('does not count what was waived', () => {
    const run = runWith(finding({}))
    const waived = { ...item, waivers: [{ rule: 'triangle-budget', where: 'item', reason: 'a monument' }] }
    expect(status('mesh', run, waived)).toEqual({ status: 'clear', text: 'clear' })
    expect(status('check', run, waived)).toEqual({ status: 'clear', text: 'nothing found' })
    expect(findingsOf(waived, run)[0].waived).toBe('a monument')
  })

  it('says when a stage is not needed', () => {
    expect(status('motion', runWith())).toEqual({ status: 'idle', text: 'not needed' })
    expect(stageStatus('solids', item, kindOf(rulebook, 'sign'), rulebook, runWith())).toEqual({
      status: 'idle',
      text: 'not needed',
    })
    expect(stageStatus('motion', item, kindOf(rulebook, 'mover'), rulebook, runWith()).text).toBe('clear')
  })

  it('says the unit at Fit', () => {
    expect(status('fit', runWith()).text).toBe('1 span = 0.5 m')
  })

  it('has a worst status for the lists', () => {
    const judged = findingsOf(item, runWith(finding({ severity: 'risky' }), finding({ severity: 'note' })))
    expect(worstStatus(judged, true)).toBe('risky')
    expect(worstStatus([], true)).toBe('clear')
    expect(worstStatus([], false)).toBe('idle')
  })
})
