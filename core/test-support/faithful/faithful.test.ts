import { describe, expect, it } from 'vitest'
import { judgeFile } from './judge.ts'
import { pillowIsPresent } from './other-pictures.ts'
import { traitFiles } from './traits.ts'
import { verdictOf } from './verdict.ts'

/** What a game shows of these differs from the source on purpose; the item's report says so. */
const told: Record<string, string[]> = {
  'glow-map': ['colour'],
  morphed: [],
  // It rests elsewhere than where its clips begin, where it is stood.
  'moving-parts': ['lost'],
}

describe.runIf(pillowIsPresent())('what comes out is what came in', () => {
  it.each(traitFiles().map((file) => [file.name, file] as const))('for a file with %s', async (name, file) => {
    const judgement = await judgeFile([...file.files.keys()][0], file.files, { metresPerUnit: 1 })
    const verdict = verdictOf(judgement)
    expect(verdict.silent, judgement.report.join('\n')).toEqual([])
    expect(verdict.told.map((each) => each.split(' ')[0])).toEqual(told[name] ?? [])
    expect(judgement.loads).toBe(true)
    expect(judgement.difference?.colour).not.toBeNull()
  })

  it('says of shapes to morph between that they are left out, and stands as the file’s weights have it', async () => {
    const file = traitFiles().find(({ name }) => name === 'morphed')
    const { report, difference } = await judgeFile('morphed.glb', file?.files ?? new Map(), { metresPerUnit: 1 })
    expect(report.join('\n')).toMatch(/cushion has 1 shape to morph to; it stays as the file’s own weights have it/)
    expect(difference?.lost).toBeLessThan(1e-4)
  })

  it('moves every part as the source does, curves and jumps included', async () => {
    const file = traitFiles().find(({ name }) => name === 'moving-parts')
    const { motion, steps } = await judgeFile('moving-parts.glb', file?.files ?? new Map(), { metresPerUnit: 1 })
    expect(steps).not.toContain('hold-still')
    expect(motion).toBeLessThan(0.002)
  })

  it('draws every instance and counts it', async () => {
    const file = traitFiles().find(({ name }) => name === 'instances')
    const { triangles } = await judgeFile('instances.glb', file?.files ?? new Map(), { metresPerUnit: 1 })
    expect(triangles).toEqual({ source: 768, packed: 768 })
  })
})
