import { PlainError } from '../../support/plain-error.ts'
import type { SourceFile } from '../../intake/source-file.ts'
import { drawer } from './draw.ts'
import { mutateByKind } from './mutate-containers.ts'
import type { FuzzedReader } from './readers.ts'
import type { Seed } from './seeds.ts'

/** What became of a mutant: it was read, refused in a sentence, or neither. */
export interface Verdict {
  outcome: 'read' | 'refused' | 'no sentence'
  milliseconds: number
  message: string
}

/** The mutant of a number: always the same. */
export function mutantOf(seeds: readonly Seed[], number: number): readonly SourceFile[] {
  const draw = drawer(number * 2654435761 + 12345)
  for (let warm = 0; warm < 3; warm++) draw.below(2)
  const [first, ...beside] = draw.one(seeds)
  return [{ path: first.path, bytes: mutateByKind(first.path, first.bytes, draw) }, ...beside]
}

/** What, where and what mends it. */
const SENTENCE = /^.+: .+\. .+\.$/s

/** Reads a mutant: anything that is thrown and is not a sentence is a defect of the reader. */
export async function tryMutant({ read }: FuzzedReader, files: readonly SourceFile[]): Promise<Verdict> {
  const began = performance.now()
  const spent = (): number => performance.now() - began
  try {
    await read(files)
    return { outcome: 'read', milliseconds: spent(), message: '' }
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error)
    const said = error instanceof PlainError && SENTENCE.test(message) && message.length < 1000
    const where = said || !(error instanceof Error) ? '' : ` ${(error.stack ?? '').split('\n').slice(1, 4).join(' | ')}`
    return {
      outcome: said ? 'refused' : 'no sentence',
      milliseconds: spent(),
      message: `${message.slice(0, 300)}${where}`,
    }
  }
}
