import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { explain, explanations } from './log-explanations.ts'

/** Every code that stands in the loader's sources. */
function writtenCodes(): string[] {
  const folder = new URL('./', import.meta.url)
  const codes = readdirSync(folder, { recursive: true })
    .map(String)
    .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
    .flatMap((file) =>
      [...readFileSync(new URL(file, folder), 'utf8').matchAll(/\.(?:refuse|complain|tell)\(\s*'([a-z.-]+)'/g)].map(
        (match) => match[1],
      ),
    )
  return [...new Set(codes)].sort()
}

describe('the loader’s log', () => {
  it('explains every code that it writes, and none that it does not', () => {
    expect(Object.keys(explanations).sort()).toEqual(writtenCodes())
  })

  it('tells what may stay from what is a fault: a refusal never is harmless', () => {
    const line = { message: '', file: '', item: null }
    expect(explain({ ...line, level: 'told', code: 'item.loaded' }).harmless).toBe(true)
    expect(explain({ ...line, level: 'complaint', code: 'manifest.unlisted' }).harmless).toBe(true)
    expect(explain({ ...line, level: 'complaint', code: 'mesh.backs' }).harmless).toBe(false)
    expect(explain({ ...line, level: 'refused', code: 'manifest.version' }).harmless).toBe(false)
    expect(explain({ ...line, level: 'refused', code: 'strange.code' })).toMatchObject({
      harmless: false,
      stage: 'pack',
    })
  })
})
