import { describe, expect, it } from 'vitest'
import type { CrateItem } from '../../core/crate/schema'
import type { Severity } from '../../core/rules/rule'
import type { WorklistEntry } from '../../core/worklist/entry'
import { stepThatSaysSo } from '../crate/mend-commands'
import { presetOf } from '../crate/preset-of'
import { copyTo, linesOf } from './copied'
import { troublesEverywhere } from './everywhere'
import { nextSort, noFilter, rowOf, shownRows, sortedRows, type FleetRow, type RowRun } from './fleet-rows'

const step = (id: string, name: string, parameters: WorklistEntry['parameters'] = {}): WorklistEntry => ({
  id,
  step: name,
  on: true,
  parameters,
  reason: null,
})
const item = (name: string, more: Partial<CrateItem> = {}): CrateItem => ({
  id: name.toLowerCase().replaceAll(' ', '-'),
  name,
  kind: 'prop',
  main: `${name}.glb`,
  sources: [],
  reading: { links: {} },
  worklist: [step('step-1', 'weld')],
  waivers: [],
  ...more,
})
const finding = (rule: string, severity: Severity, where: string, mend: string | null) => ({
  rule,
  severity,
  stage: 'mesh' as const,
  title: rule,
  where,
  place: { parts: [], bounds: null, spots: [], texture: null },
  value: '',
  limit: '',
  message: `${rule} of ${where}`,
  why: '',
  mend: mend === null ? null : { step: mend, label: mend, parameters: {} },
})
const gauge = (value: number) => ({ id: 'triangles', label: 'Triangles', value, limit: 100, unit: 'count' })
const ran = (findings: ReturnType<typeof finding>[], triangles = 10): RowRun =>
  ({
    state: 'done',
    message: null,
    together: [],
    evaluation: { findings, gauges: [gauge(triangles)] },
  }) as unknown as RowRun
const names = (rows: readonly FleetRow[]): string[] => rows.map((row) => row.item.name)

const rows = [
  rowOf(item('Post 10'), ran([finding('name', 'blocks', 'a', 'clean-names')], 90), false),
  rowOf(item('Post 2'), ran([finding('name', 'risky', 'b', null), finding('dark', 'note', 'b', null)], 40), false),
  rowOf(item('Bell', { kind: 'mover' }), ran([], 99), false),
  rowOf(item('Gate', { worklist: [] }), undefined, false),
  rowOf(item('Hull'), { ...ran([]), state: 'failed', message: 'gone' }, false),
  rowOf(item('Buoy', { kind: 'loose' }), ran([]), true),
]

describe('rows of many items', () => {
  it('tell how far each is', () => {
    expect(rows.map(({ state }) => state)).toEqual(['blocks', 'risky', 'clear', 'unprepared', 'halted', 'running'])
    const waived = item('Stove', { waivers: [{ rule: 'name', where: 'a', reason: 'wanted' }] })
    expect(rowOf(waived, ran([finding('name', 'blocks', 'a', null)]), false).state).toBe('clear')
  })

  it('are shown by name, state and kind', () => {
    expect(names(shownRows(rows, { ...noFilter, name: 'post' }))).toEqual(['Post 10', 'Post 2'])
    expect(names(shownRows(rows, { ...noFilter, name: 'post ?' }))).toEqual(['Post 2'])
    expect(names(shownRows(rows, { ...noFilter, state: 'halted' }))).toEqual(['Hull'])
    expect(names(shownRows(rows, { name: 'b', state: 'clear', kind: 'mover' }))).toEqual(['Bell'])
  })

  it('stand by name as people count, by how near a limit they are, by what was found', () => {
    expect(names(sortedRows(rows, { by: 'item', descending: false })).slice(-2)).toEqual(['Post 2', 'Post 10'])
    const byGauge = names(sortedRows(rows, { by: 'gauge triangles', descending: true }))
    expect([byGauge[0], byGauge.at(-1)]).toEqual(['Bell', 'Gate'])
    expect(names(sortedRows(rows, { by: 'findings', descending: true })).slice(0, 3)).toEqual([
      'Hull',
      'Post 10',
      'Post 2',
    ])
    expect(names(sortedRows(rows, { by: null, descending: true }))).toEqual(names(rows))
  })

  it('come back to the order of the crate at the third press', () => {
    const first = nextSort({ by: null, descending: false }, 'findings')
    expect(first).toEqual({ by: 'findings', descending: true })
    const second = nextSort(first, 'findings')
    expect(second).toEqual({ by: 'findings', descending: false })
    expect(nextSort(second, 'findings').by).toBeNull()
    expect(nextSort(second, 'item')).toEqual({ by: 'item', descending: false })
  })
})

describe('findings of all items', () => {
  it('stand a line a trouble, the gravest first, with what mends each item', () => {
    const more = rowOf(
      item('Rail'),
      ran([finding('dark', 'note', 'c', 'lighten'), finding('name', 'blocks', 'c', 'clean-names')]),
      false,
    )
    const troubles = troublesEverywhere([...rows, more])
    expect(troubles.map(({ rule, severity, items, mends }) => [rule, severity, items.length, mends.length])).toEqual([
      ['name', 'blocks', 2, 2],
      ['name', 'risky', 1, 0],
      ['dark', 'note', 2, 1],
    ])
    expect(troubles[0].mends.map(({ item: { name }, mend }) => [name, mend.step])).toEqual([
      ['Post 10', 'clean-names'],
      ['Rail', 'clean-names'],
    ])
  })
})

describe('a mend', () => {
  const mend = { step: 'weld', label: 'Weld', parameters: { distance: 2 } }

  it('is offered where it would change something, and not where a step says so already', () => {
    expect(stepThatSaysSo(item('Gate', { worklist: [] }), mend)).toBeNull()
    expect(stepThatSaysSo(item('Gate', { worklist: [step('step-1', 'weld', { distance: 1 })] }), mend)).toBeNull()
    const same = step('step-1', 'weld', { keep: true, distance: 2 })
    expect(stepThatSaysSo(item('Gate', { worklist: [same] }), mend)).toBe(same)
    expect(stepThatSaysSo(item('Gate', { worklist: [{ ...same, on: false }] }), mend)).toBeNull()
    const row = rowOf(
      item('Oar', { worklist: [step('step-1', 'clean-names')] }),
      ran([finding('name', 'blocks', 'a', 'clean-names')]),
      false,
    )
    expect(troublesEverywhere([row])[0]).toMatchObject({ items: [{ name: 'Oar' }], mends: [] })
  })
})

describe('copying to other items', () => {
  const order = ['scale', 'weld', 'solids', 'entry']
  const from = item('Gate', {
    worklist: [
      step('step-1', 'scale', { size: 2 }),
      step('step-2', 'solids', { shape: 'box' }),
      step('step-3', 'entry', { from: '', fields: { price: 12, weight: 3 } }),
    ],
  })

  it('replaces a worklist as a whole', () => {
    expect(copyTo(from, { what: 'worklist' }, item('Bell'), order)).toEqual([
      { do: 'set-worklist', item: 'bell', worklist: from.worklist },
    ])
  })

  it('puts a step where it belongs, or takes its settings over where it is', () => {
    const to = item('Bell', { worklist: [step('step-1', 'weld'), step('step-2', 'entry')] })
    expect(copyTo(from, { what: 'step', entry: 'step-2' }, to, order)).toMatchObject([
      {
        do: 'add-steps',
        at: 1,
        entries: [{ step: 'solids', parameters: { shape: 'box' }, reason: 'Copied from Gate.' }],
      },
    ])
    const has = item('Bell', { worklist: [step('step-9', 'solids', { shape: 'hull', margin: 1 })] })
    expect(copyTo(from, { what: 'step', entry: 'step-2' }, has, order)).toEqual([
      { do: 'edit-step', item: 'bell', entry: 'step-9', parameters: { shape: 'box' } },
    ])
  })

  it('lays chosen lines over those that are there', () => {
    expect(linesOf(from, 'step-3')).toEqual({ price: 12, weight: 3 })
    expect(linesOf(from, 'step-2')).toBeNull()
    const to = item('Bell', {
      worklist: [step('step-4', 'entry', { from: 'bell', fields: { price: 1, name: 'Bell' } })],
    })
    expect(copyTo(from, { what: 'lines', entry: 'step-3', lines: ['price'] }, to, order)).toEqual([
      {
        do: 'edit-step',
        item: 'bell',
        entry: 'step-4',
        parameters: { from: 'bell', fields: { price: 12, name: 'Bell' } },
      },
    ])
  })
})

describe('a preset of an item', () => {
  it('is for files that are called like its own', () => {
    const post = item('Post 03', { main: 'art/post_03.glb', reading: { metresPerUnit: 0.01, up: '+z', links: {} } })
    expect(presetOf(post)).toMatchObject({
      title: 'Post 03',
      files: ['post_*.glb'],
      kind: 'prop',
      unit: 'cm',
      up: '+z',
    })
    expect(presetOf(item('Gate', { main: 'gate.obj', worklist: [] }))).toMatchObject({
      files: ['gate.obj'],
      worklist: null,
    })
  })
})
