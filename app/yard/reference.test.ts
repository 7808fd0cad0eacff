import { describe, expect, it } from 'vitest'
import { cellFor, groundUnder, measureGap, referenceFor, referencePlace } from './reference'
import type { YardSpace } from './yard-settings'

const space: YardSpace = {
  figureHeight: 3.4,
  figureWidth: 0.9,
  gridCell: 2,
  doorwayWidth: 2.4,
  doorwayHeight: 4.2,
  unitPlural: 'spans',
}
const boxOf = (size: number, at: readonly [number, number, number] = [0, 0, 0]) => ({
  min: [...at],
  max: at.map((value) => value + size),
})

describe('what of known size stands beside an item', () => {
  it('is the figure, a hand or a fingertip, so that neither makes a dot of the other', () => {
    for (const size of [0.001, 0.01, 0.05, 0.3, 0.7, 3, 60]) {
      const { height } = referenceFor(size, space)
      expect(Math.max(height / size, size / height), String(size)).toBeLessThan(size === 0.001 ? 100 : 20)
    }
    expect(referenceFor(7, space).what).toBe('figure')
    expect(referenceFor(0.2, space).what).toBe('hand')
    expect(referenceFor(0.02, space).what).toBe('fingertip')
  })

  it('stands clear of the item and of its measures, behind its front', () => {
    for (const size of [0.01, 0.3, 7, 200]) {
      const box = boxOf(size)
      const [x, y, z] = referencePlace(box, space)
      const half = referenceFor(size, space).width / 2
      expect(x - half).toBeGreaterThan(box.max[0] + measureGap(size, space))
      expect(y).toBe(0)
      expect(z).toBe(box.min[2])
    }
  })

  it('keeps measures as near as suits the size', () => {
    expect(measureGap(0.05, space)).toBeLessThan(0.05)
    expect(measureGap(7, space)).toBeGreaterThan(0.3)
  })
})

describe('the ground', () => {
  it('lies at zero, or under what is nowhere near it', () => {
    expect(groundUnder(boxOf(2, [0, -1, 0]), space)).toBe(0)
    expect(groundUnder(boxOf(2, [0, 4, 0]), space)).toBe(0)
    expect(groundUnder(boxOf(2, [0, 5000, 0]), space)).toBe(5000)
  })

  it('has the game’s cells, in tenths for what is smaller than one', () => {
    expect(cellFor(7, space)).toBe(2)
    expect(cellFor(2, space)).toBe(2)
    for (const longest of [0.9, 0.1, 0.03, 0.002]) {
      const across = longest / cellFor(longest, space)
      expect(across, String(longest)).toBeGreaterThan(0.4)
      expect(across, String(longest)).toBeLessThan(15)
      expect(Math.log10(2 / cellFor(longest, space)) % 1).toBeCloseTo(0)
    }
    expect(cellFor(0, space)).toBeGreaterThan(0)
  })
})
