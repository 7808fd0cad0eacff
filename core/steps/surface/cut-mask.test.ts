import { writtenNames } from '../../test-support/written-names.ts'
import { describe, expect, it } from 'vitest'
import { listUsedMaterials } from '../../item/parts.ts'
import { leaf, painted, pictureOf } from '../../test-support/pictures.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'
import { sign, boxWith } from '../../test-support/mapped-boxes.ts'

describe('Cut out', () => {
  const board = pictureOf(32, 32, (x, y) => (x > 4 && x < 27 && y > 6 && y < 25 ? [220, 210, 180] : [12, 200, 60]))
  it('finds the key of a sign by its rim, cuts it and sets the flag to match', async () => {
    const { document } = boxWith({ colour: board }, 'board')
    const [proposed] = proposals('cut-mask', document, { kind: sign })
    expect(proposed.parameters).toMatchObject({ key: '#0cc83c', drawn: 'cut' })
    const { after, summary } = await runStep('cut-mask', document, proposed.parameters, { kind: sign })
    const [material] = listUsedMaterials(after)
    expect(material.getAlphaMode()).toBe('MASK')
    expect(summary.headline).toBe('61 % clear')
    const tagged = await runStep('tag-materials', after, proposals('tag-materials', after)[0].parameters)
    expect(writtenNames(tagged.after)).toEqual(['board@timber.cut'])
  })
  it('cuts at the threshold that is asked for, moved to where the game cuts', async () => {
    const slope = pictureOf(100, 4, (x) => [x * 2.55, x * 2.55, x * 2.55])
    for (const [threshold, clear] of [
      [0.5, 50],
      [0.2, 20],
      [0.8, 80],
    ]) {
      const { document } = boxWith({ colour: slope }, 'slope')
      const { summary } = await runStep('cut-mask', document, { material: 'slope', from: 'brightness', threshold })
      expect(Math.abs(Number(summary.headline.split(' ')[0]) - clear)).toBeLessThanOrEqual(2)
    }
  })
  it('is not proposed for other kinds, nor where the rim has many colours', () => {
    expect(proposals('cut-mask', boxWith({ colour: board }).document)).toEqual([])
    expect(proposals('cut-mask', boxWith({ colour: painted(64, 64) }).document, { kind: sign })).toEqual([])
  })
  it('keeps the coverage of what is cut through compression, in one bit', async () => {
    const { document, material } = boxWith({ colour: leaf(64) })
    material.setAlphaMode('MASK')
    const { summary } = await runStep('compress-maps', document, { colour: 'bc1' })
    expect(summary.details[0]).toMatch(/BC1, cut with its coverage kept, 7 levels/)
  })
})
