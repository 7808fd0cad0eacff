import { describe, expect, it } from 'vitest'
import type { FindingMessage } from '../workers/messages'
import { placeOfAll } from './place-of-all'

const at = (place: Partial<FindingMessage['place']>): FindingMessage => ({
  rule: 'r',
  severity: 'blocks',
  stage: 'mesh',
  title: '',
  where: '',
  place: { parts: [], bounds: null, spots: [], texture: null, ...place },
  value: '',
  limit: '',
  message: '',
  why: '',
  mend: null,
})

describe('showing several findings at once', () => {
  it('takes in all of their boxes, spots and parts, each part once', () => {
    const place = placeOfAll([
      at({ parts: ['hull'], bounds: { min: [0, 0, 0], max: [1, 1, 1] }, spots: [[0, 0, 1]] }),
      at({ parts: ['hull', 'mast'], bounds: { min: [-2, 0.5, 0], max: [0, 9, 0.5] }, spots: [[1, 2, 3]] }),
      at({}),
    ])
    expect(place.parts).toEqual(['hull', 'mast'])
    expect(place.spots).toEqual([
      [0, 0, 1],
      [1, 2, 3],
    ])
    expect(place.bounds).toEqual({ min: [-2, 0, 0], max: [1, 9, 1] })
  })

  it('has no box where none has one, and shows the first texture', () => {
    const place = placeOfAll([at({}), at({ texture: 'hull_col' }), at({ texture: 'mast_col' })])
    expect(place.bounds).toBeNull()
    expect(place.texture).toBe('hull_col')
  })
})
