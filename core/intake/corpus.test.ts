import { afterAll, describe, expect, it } from 'vitest'
import { corpusFiles, corpusIsPresent, isConfirmed, OtherReaders, readOurs } from '../test-support/corpus.ts'

/** Debian's general-purpose corpus, where it is installed; `docs/formats.md` tells what came of it. */
describe.runIf(corpusIsPresent())('a corpus of files that we did not make', () => {
  const others = new OtherReaders()
  afterAll(() => others.end())

  it(
    'comes in, with the triangle counts that another reader finds; what is broken is refused soon and in a ' +
      'sentence',
    async () => {
      const files = corpusFiles()
      const valid = files.filter((file) => file.notValid === null)
      const failed: string[] = []
      for (const file of files) {
        const { survey, refusal, milliseconds } = await readOurs(file.path)
        expect(milliseconds, file.path).toBeLessThan(10_000)
        if (file.notValid !== null) {
          if (refusal !== null) expect(refusal).toMatch(/^.+: .+\. .+\.$/s)
          continue
        }
        if (!survey || !isConfirmed(file.path, survey.triangles, await others.counts(file.path)))
          failed.push(`${file.path}: ${survey?.triangles ?? refusal}`)
      }
      expect(valid.length).toBeGreaterThan(90)
      expect(failed.length / valid.length, failed.join('\n')).toBeLessThanOrEqual(0.05)
    },
    240_000,
  )
})
