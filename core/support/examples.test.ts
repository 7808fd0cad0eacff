import { readFileSync, readdirSync } from 'node:fs'
import { describe, expect, it } from 'vitest'

const core = new URL('..', import.meta.url)

/** What a docstring says that a call gives: `name(…) // value` or `name(…) === …`. */
interface Example {
  file: string
  line: string
}

const files = readdirSync(core, { recursive: true, encoding: 'utf8' }).filter(
  (path) => path.endsWith('.ts') && !path.includes('.test.') && !path.includes('test-support'),
)

const examples: Example[] = files.flatMap((file) =>
  [...readFileSync(new URL(file, core), 'utf8').matchAll(/@example (\w+\(.*(?: \/\/ | === ).*)$/gm)].map(
    ([, line]) => ({ file, line }),
  ),
)

/** A value as a comment writes it; undefined where it is a sentence. */
function written(text: string): unknown {
  try {
    return new Function(`return (${text})`)() as unknown
  } catch {
    return undefined
  }
}

const near = (value: unknown): unknown =>
  typeof value === 'number'
    ? Number(value.toFixed(6)) + 0
    : ArrayBuffer.isView(value)
      ? Array.from(value as unknown as number[], near)
      : Array.isArray(value)
        ? value.map(near)
        : value

/** Whether the example could be tried: it asks for nothing but what the file has and gives. */
async function tried({ file, line }: Example): Promise<boolean> {
  const [call, comment] = line.split(' // ')
  const wanted = comment === undefined ? true : written(comment)
  if (wanted === undefined) return false
  const module = (await import(/* @vite-ignore */ new URL(file, core).href)) as Record<string, unknown>
  const names = Object.keys(module).filter((name) => /^\w+$/.test(name) && name !== 'default')
  let given: unknown
  try {
    given = new Function(...names, `return (${call})`)(...names.map((name) => module[name])) as unknown
  } catch (error) {
    // It speaks of something that a reader has and this test has not.
    if (error instanceof ReferenceError || error instanceof SyntaxError) return false
    throw error
  }
  expect(near(given), `${file}: ${line}`).toEqual(near(wanted))
  return true
}

describe('what docstrings say that a call gives', () => {
  it('is what it gives', async () => {
    const outcomes = []
    for (const example of examples) outcomes.push(await tried(example))
    // Nothing is proved by examples that none of this could try.
    expect(outcomes.filter(Boolean).length).toBeGreaterThan(40)
  }, 60_000)
})
