import { describe, expect, it } from 'vitest'
import type { Severity } from '../rules/rule.ts'
import { findingKinds, tellKind } from './finding-kinds.ts'
import type { JudgedFinding } from './waivers.ts'

const finding = (
  rule: string,
  severity: Severity,
  where: string,
  more: Partial<JudgedFinding> = {},
): JudgedFinding => ({
  rule,
  severity,
  stage: 'mesh',
  title: rule,
  where,
  place: { parts: [where], bounds: null, spots: [], texture: null },
  value: '',
  limit: '',
  message: `${rule} at ${where}`,
  why: '',
  mend: null,
  waived: null,
  ...more,
})

describe('findings by kind', () => {
  it('are one line a rule, blocking first, waived last', () => {
    const kinds = findingKinds([
      finding('thin', 'note', 'mast'),
      finding('name', 'blocks', 'hull', { waived: 'on purpose' }),
      finding('inside out', 'risky', 'hull'),
      finding('name', 'blocks', 'mast'),
      finding('name', 'blocks', 'rudder'),
    ])
    expect(kinds.map(({ rule, findings, waived }) => [rule, findings.length, waived])).toEqual([
      ['name', 2, false],
      ['inside out', 1, false],
      ['thin', 1, false],
      ['name', 1, true],
    ])
  })

  it('keep a rule apart by what the game would do', () => {
    const kinds = findingKinds([finding('levels', 'risky', 'hull'), finding('levels', 'blocks', 'mast')])
    expect(kinds.map(({ severity }) => severity)).toEqual(['blocks', 'risky'])
  })

  it('tell one in its own sentence, many by how often and where', () => {
    expect(tellKind({ findings: [finding('name', 'blocks', 'hull')] })).toBe('name at hull')
    const many = ['a', 'b', 'b', 'c', 'd'].map((where) => finding('name', 'blocks', where))
    expect(tellKind({ findings: many })).toBe('5 times: a, b, c and 1 more')
  })

  it('have one mend where places ask for the same step, with their lists put together', () => {
    const mend = (part: string) => ({ step: 'flip', label: 'Turn outward', parameters: { parts: [part], whole: true } })
    const [kind] = findingKinds([
      finding('inside out', 'blocks', 'hull', { mend: mend('hull') }),
      finding('inside out', 'blocks', 'mast', { mend: mend('mast') }),
      finding('inside out', 'blocks', 'mast', { mend: mend('mast') }),
    ])
    expect(kind.mend).toEqual({
      step: 'flip',
      label: 'Turn outward',
      parameters: { parts: ['hull', 'mast'], whole: true },
    })
  })

  it('have no mend of all where each wants something else, or one wants none', () => {
    const size = (most: number) => ({ step: 'size', label: 'Make it smaller', parameters: { most } })
    const of = (...mends: JudgedFinding['mend'][]) =>
      findingKinds(mends.map((mend, index) => finding('large', 'risky', `map ${index}`, { mend })))[0].mend
    expect(of(size(512), size(256))).toBeNull()
    expect(of(size(512), null)).toBeNull()
    expect(of(size(512), { ...size(512), step: 'other' })).toBeNull()
    expect(of(size(512), size(512))?.parameters).toEqual({ most: 512 })
  })
})
