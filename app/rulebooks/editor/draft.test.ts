import { describe, expect, it } from 'vitest'
import { rulebookText } from '../../../core/crate/game-file'
import { rulebookById } from '../../../core/game/load'
import { isBelow, readDraft, withMoreAt, withValueAt } from './draft'

const text = rulebookText(rulebookById('hollin-keep'))

describe('a draft of a rulebook', () => {
  it('is what its text says, form and text alike: a changed field changes its own place in the text alone', () => {
    const other = withValueAt(text, ['kinds', 0, 'mesh', 'triangles'], 2500)
    expect(readDraft(other).rulebook?.kinds[0].mesh?.triangles).toBe(2500)
    const changed = other.split('\n').filter((line, number) => line !== text.split('\n')[number])
    expect(changed).toEqual(['        "triangles": 2500,'])
  })
  it('keeps how a person wrote the rest', () => {
    const written = '{ "id":"mine",\n\n   "title" : "Mine" }'
    expect(withValueAt(written, ['title'], 'Ours')).toBe('{ "id":"mine",\n\n   "title" : "Ours" }')
    expect(withValueAt(written, ['title'], undefined)).not.toContain('title')
    expect(JSON.parse(withMoreAt('{"list":[1]}', ['list'], 1, 2))).toEqual({ list: [1, 2] })
  })
  it('says what is wrong at its place in the text', () => {
    const wrong = withValueAt(text, ['maps', 'largestPixels'], 2)
    const { rulebook, faults } = readDraft(wrong)
    expect(rulebook).toBeNull()
    expect(faults[0]).toMatchObject({ path: ['maps', 'largestPixels'], severity: 'blocks' })
    expect(wrong.slice(faults[0].from, faults[0].to)).toBe('2')
    expect(isBelow(faults[0], ['maps'])).toBe(true)
    expect(isBelow(faults[0], ['kinds'])).toBe(false)
  })
  it('shows what is missing at what should have it', () => {
    const missing = withValueAt(text, ['names', 'longest'], undefined)
    const [fault] = readDraft(missing).faults
    expect(fault.path).toEqual(['names', 'longest'])
    expect(missing.slice(fault.from, fault.from + 1)).toBe('{')
  })
  it('is no draft of anything while the text is no JSON, and says where', () => {
    const { value, faults } = readDraft('{ "id": "mine", }')
    expect(value).toBeUndefined()
    expect(faults).toHaveLength(1)
    expect(readDraft('').faults).toHaveLength(1)
  })
  it('tells doubts as notes', () => {
    const rulebook = structuredClone(rulebookById('tarn-and-tiller'))
    if (rulebook.kinds[0].mesh) rulebook.kinds[0].mesh.withSolids = 5
    const { faults, rulebook: read } = readDraft(rulebookText(rulebook))
    expect(read).not.toBeNull()
    expect(faults).toEqual([expect.objectContaining({ severity: 'note', path: ['kinds', 0, 'mesh', 'withSolids'] })])
  })
})
