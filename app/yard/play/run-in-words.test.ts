import { describe, expect, it } from 'vitest'
import { runInWords } from './run-in-words'

const place = (taken: boolean) => ({ name: 'stamp', place: [0, 0, 0] as [number, number, number], taken })

describe('a run in words', () => {
  it('counts what was taken and how often one fell', () => {
    expect(runInWords({ places: [place(true), place(false)], goals: [], falls: 0, arrivedAfter: null })).toBe(
      '1 of 2 taken',
    )
    expect(runInWords({ places: [place(false)], goals: [], falls: 1, arrivedAfter: null })).toBe(
      '0 of 1 taken, fell once, began again',
    )
    expect(runInWords({ places: [], goals: [], falls: 3, arrivedAfter: null })).toBe('fell 3 times, began again')
  })
  it('says when one has arrived, and something where nothing has happened', () => {
    expect(runInWords({ places: [place(true)], goals: [], falls: 0, arrivedAfter: 12.34 })).toBe(
      'arrived after 12.3 s, 1 of 1 taken',
    )
    expect(runInWords({ places: [], goals: [], falls: 0, arrivedAfter: null })).toBe('not there yet')
  })
})
