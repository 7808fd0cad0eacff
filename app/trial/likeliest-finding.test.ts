import { describe, expect, it } from 'vitest'
import type { JudgedFinding } from '../../core/crate/waivers'
import { explain } from '../../core/trial/log-explanations'
import { likeliestFinding } from './likeliest-finding'

const finding = (change: Partial<JudgedFinding>): JudgedFinding => ({
  rule: 'solid-surface',
  severity: 'risky',
  stage: 'solids',
  title: '',
  where: 'solid_box_01',
  place: { parts: [], bounds: null, spots: [], texture: null },
  value: '',
  limit: '',
  message: 'solid_box_01 has no surface',
  why: '',
  mend: null,
  waived: null,
  ...change,
})
const line = (code: string, message: string, level: 'complaint' | 'refused' = 'complaint') =>
  explain({ level, code, message, file: 'gate.glb', item: 'gate' })

describe('the finding that a line of the log is about', () => {
  const skipped = finding({})
  const other = finding({ where: 'solid_box_02', message: 'solid_box_02 has no surface' })
  it('is the one that names the same thing', () => {
    expect(
      likeliestFinding([other, skipped], line('solid.skipped', 'solid_box_01 has no surface and is skipped.')),
    ).toBe(skipped)
  })
  it('is none of another stage or weight', () => {
    const said = line('solid.skipped', 'solid_box_01 has no surface and is skipped.')
    expect(likeliestFinding([finding({ stage: 'mesh' }), finding({ severity: 'note' })], said)).toBeNull()
    expect(
      likeliestFinding([skipped], line('solid.surface', 'solid_box_01: there is no surface x.', 'refused')),
    ).toBeNull()
  })
  it('of an entry stands with what is packed', () => {
    const entry = finding({
      rule: 'entry-lost',
      severity: 'blocks',
      stage: 'pack',
      where: 'idle',
      message: '“idle” names “swai”, and there is no such clip',
    })
    expect(likeliestFinding([entry], line('entry.lost', 'idle names swai, which is no clip.', 'refused'))).toBe(entry)
  })
})
