import { describe, expect, it } from 'vitest'
import { rulebookById } from '../../core/game/load'
import { companionSize } from './companion'
import { shiftColour, shiftColours } from './shift-colours'
import { yardSpaceOf } from './yard-settings'

describe('colours of the shift look', () => {
  it('run from paper to madder and stop at the ends', () => {
    expect(shiftColour(0)).not.toBe(shiftColour(1))
    expect(shiftColour(-1)).toBe(shiftColour(0))
    expect(shiftColour(7)).toBe(shiftColour(1))
  })
  it('are the same where nothing moved, and darker the further a corner moved', () => {
    const still = shiftColours(new Float32Array(3), 0)
    expect([...still.subarray(0, 3)]).toEqual([...still.subarray(6, 9)])
    const colours = shiftColours(Float32Array.from([0, 0.5, 1]), 1)
    const light = [0, 1, 2].map((corner) => colours[corner * 3] + colours[corner * 3 + 1] + colours[corner * 3 + 2])
    expect(light[0]).toBeGreaterThan(light[1])
    expect(light[1]).toBeGreaterThan(light[2])
  })
})

describe('what is set beside an item', () => {
  const space = yardSpaceOf(rulebookById('tarn-and-tiller'))
  it('has the measures that the rulebook gives it', () => {
    expect(companionSize({ kind: 'cube' }, space)).toEqual([1, 1, 1])
    expect(companionSize({ kind: 'doorway' }, space).slice(0, 2)).toEqual([2.4, 4.2])
    expect(companionSize({ kind: 'figure' }, space)[1]).toBe(3.4)
    const scene = {
      materials: [],
      places: [],
      links: [],
      pictures: [],
      looks: [],
      motion: null,
      bend: null,
      lights: [],
      turns: null,
      fit: [],
      parts: [
        {
          name: 'a',
          role: 'part' as const,
          level: 0,
          triangles: 1,
          matrix: [],
          primitives: [],
          bounds: { min: [-1, 0, 2], max: [3, 5, 4] },
        },
      ],
    }
    expect(companionSize({ kind: 'scene', scene }, space)).toEqual([4, 5, 2])
    expect(companionSize({ kind: 'scene', scene: { ...scene, parts: [] } }, space)).toEqual([0, 0, 0])
  })
})
