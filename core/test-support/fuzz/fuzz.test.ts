import { describe, expect, it } from 'vitest'
import { fuzzedReaders, seedsOf } from './readers.ts'
import { mutantOf, tryMutant } from './try-mutant.ts'

/** A share of the long run that `bin/fuzz` makes; each mutant has to end within the test's own limit. */
const MUTANTS = 40

describe('a damaged or hostile file', () => {
  it.each(fuzzedReaders)('is read or refused in a sentence: $name', async (reader) => {
    const seeds = await seedsOf(reader, false)
    const bad: string[] = []
    let read = 0
    for (let number = 0; number < MUTANTS; number++) {
      const { outcome, message } = await tryMutant(reader, mutantOf(seeds, number))
      if (outcome === 'read') read++
      if (outcome === 'no sentence') bad.push(`${number}: ${message}`)
    }
    expect(bad).toEqual([])
    // Mutants that all stop at the first bytes would try nothing.
    expect(read).toBeGreaterThan(0)
    if (reader.neverRefuses) expect(read).toBe(MUTANTS)
    else expect(read).toBeLessThan(MUTANTS)
  })

  it('is told apart from one that is whole: every seed is read', async () => {
    for (const reader of fuzzedReaders)
      for (const seed of await seedsOf(reader, false))
        expect(await tryMutant(reader, seed), `${reader.name} ${seed[0].path}`).toMatchObject({ outcome: 'read' })
  })
})
