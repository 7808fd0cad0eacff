import { cpSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { call } from './test-support.ts'

const page = readFileSync(new URL('../docs/rulebook-guide.md', import.meta.url), 'utf8')

/** A step of the page: what is replaced in the file, what is called, what is printed then. */
interface Step {
  title: string
  becomes: { field: string; text: string }[]
  calls: string[][]
  printed: string[]
}

/** The words of a call, those in quotation marks as one. */
const wordsOf = (line: string): string[] => (line.match(/'[^']*'|\S+/g) ?? []).map((word) => word.replace(/^'|'$/g, ''))

function stepOf(section: string): Step {
  const blocks = [...section.matchAll(/```(\w+)\n([\s\S]*?)```/g)].map(([whole, language, text]) => ({
    language,
    text,
    before: section.slice(0, section.indexOf(whole)),
  }))
  const of = (language: string) => blocks.filter((block) => block.language === language)
  return {
    title: section.split('\n')[0],
    becomes: of('json').map(({ text, before }) => ({
      field: /`([\w.]+)` becomes:\s*$/.exec(before)?.[1] ?? '',
      text,
    })),
    calls: of('sh').flatMap(({ text }) => text.trim().split('\n').map(wordsOf)),
    printed: of('text').flatMap(({ text }) => text.trim().split('\n')),
  }
}

const steps = page.split(/^## /m).slice(1).map(stepOf)

/** Replaces a field by its path, as one would in an editor. */
function replace(file: string, field: string, text: string): void {
  const whole = JSON.parse(readFileSync(file, 'utf8'))
  const names = field.split('.')
  const holder = names.slice(0, -1).reduce((at, name) => at[name], whole)
  expect(Object.keys(holder)).toContain(names.at(-1))
  holder[names.at(-1) ?? ''] = JSON.parse(text)
  writeFileSync(file, JSON.stringify(whole))
}

describe('docs/rulebook-guide.md, followed word for word', () => {
  const before = process.cwd()
  const folder = mkdtempSync(join(tmpdir(), 'rulebook-guide-'))
  beforeAll(() => {
    cpSync('demo/sources/galley_stove', join(folder, 'demo/sources/galley_stove'), { recursive: true })
    process.chdir(folder)
  })
  afterAll(() => process.chdir(before))

  it('has at most twelve steps, and each block belongs to one of them', () => {
    expect(steps.length).toBeLessThanOrEqual(12)
    const blocks = steps.reduce((sum, { becomes, calls }) => sum + becomes.length + Math.min(1, calls.length), 0)
    expect(blocks).toBeGreaterThan(10)
    expect(steps.flatMap(({ becomes }) => becomes.map(({ field }) => field))).not.toContain('')
  })

  it.each(steps)('$title', async ({ becomes, calls, printed }) => {
    for (const { field, text } of becomes) replace('mill-lane.json', field, text)
    let told = ''
    for (const [npx, program, ...words] of calls) {
      expect([npx, program]).toEqual(['npx', 'gentle-crate'])
      const { code, text, complained } = await call(...words)
      expect([words.join(' '), code, complained]).toEqual([words.join(' '), 0, ''])
      told += `${text}\n`
    }
    for (const line of printed) expect(told).toContain(line)
  })

  it('ends in files that are what the page promised: COLLADA, PNG, text in the game’s words, no list of files', () => {
    expect(readFileSync('mill-lane/street/galley-stove/galley-stove.txt', 'utf8')).toMatch(
      /^name = galley-stove\nclass = fixture\n/,
    )
    expect(readFileSync('mill-lane/street/galley-stove/galley-stove.dae', 'utf8')).toMatch(/<unit[^>]*meter="0.3048"/)
    expect(readFileSync('mill-lane/street/galley-stove/plain.skin.txt', 'utf8')).toMatch(/pictures\.paint = pictures\//)
  })

  it('is refused by another game, and a game of loose files notices what is missing', async () => {
    expect((await call('trial', 'mill-lane/', '--rulebook', 'hollin-keep')).code).toBe(1)
    const entry = 'mill-lane/street/galley-stove/galley-stove.txt'
    writeFileSync(entry, readFileSync(entry, 'utf8').replace('model = street', 'model = lane'))
    const { code, text } = await call('trial', 'mill-lane/', '--rulebook', 'mill-lane.json')
    expect([code, text]).toEqual([1, expect.stringMatching(/entry\.mesh/)])
    expect((await call('check', 'mill-lane/', '--rulebook', 'mill-lane.json')).code).toBe(1)
  })
})
