import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { unzipSync, zipSync, type Unzipped } from 'fflate'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { tarnAndTiller } from '../core/test-support/prepared-gate.ts'
import { main } from './main.ts'

const folder = mkdtempSync(join(tmpdir(), 'damaged-'))
const at = (name: string): string => join(folder, name)
const whole = new URL('../core/test-support/crate-files/format-2.crate.zip', import.meta.url)

/** Runs a call and gives its exit code and what it printed on standard output and standard error. */
async function call(...words: string[]) {
  const [printed, told]: [string[], string[]] = [[], []]
  vi.spyOn(console, 'log').mockImplementation((text: string) => void printed.push(text))
  vi.spyOn(console, 'error').mockImplementation((text: string) => void told.push(text))
  vi.spyOn(process.stderr, 'write').mockImplementation((text) => told.push(String(text)) > 0)
  const code = await main(words)
  vi.restoreAllMocks()
  return { code, text: printed.join('\n'), told: told.join('\n') }
}
afterEach(() => vi.restoreAllMocks())

type Json = Record<string, unknown> & { items: Record<string, unknown>[] }

/** The crate file with its description or its sources changed. */
function damaged(name: string, change: (crate: Json, files: Unzipped) => void): string {
  const files = unzipSync(readFileSync(whole))
  const crate = JSON.parse(new TextDecoder().decode(files['crate.json'])) as Json
  change(crate, files)
  files['crate.json'] = new TextEncoder().encode(JSON.stringify(crate))
  writeFileSync(at(name), zipSync(files))
  return at(name)
}

describe('a crate file that something has damaged', () => {
  it('is checked and packed as far as it is whole, and what is not is told on standard error', async () => {
    const file = damaged('step.zip', ({ items: [item] }) => {
      item['worklist'] = [...(item['worklist'] as unknown[]).slice(0, 2), { step: 9 }]
    })
    const { code, told } = await call('pack', file, '--out', at('pack.zip'), '--json')
    expect(told).toMatch(/step\.zip: a step of Rain hat worn cannot be read and is left out: wrong at id/)
    expect([0, 1]).toContain(code)
    expect(unzipSync(readFileSync(at('pack.zip')))).toHaveProperty('manifest.json')
  })

  it('says which source is lost, and blocks the item that needs it', async () => {
    const file = damaged('source.zip', ({ items: [item] }, files) => {
      const [{ sha256 }] = item['sources'] as { sha256: string }[]
      files[`sources/${sha256}`] = new Uint8Array(4)
    })
    const { code, text, told } = await call('check', file)
    expect(told).toMatch(/source\.zip: the source .* is damaged: bring it again\./)
    expect(text).toContain('Rain hat worn')
    expect(code).toBe(1)
  })

  it('whose rulebook cannot be read is refused in a sentence, and opens with one that is named', async () => {
    const file = damaged('rulebook.zip', (crate) => {
      crate['rulebook'] = { id: 'a-game-of-nobody' }
    })
    const refused = await call('check', file)
    expect([refused.code, refused.told]).toEqual([
      2,
      expect.stringMatching(
        /rulebook\.zip: its rulebook is wrong at .* Open it with a rulebook of its game: --rulebook/,
      ),
    ])
    writeFileSync(at('game.json'), JSON.stringify({ ...tarnAndTiller, id: 'my-game', title: 'My game' }))
    const opened = await call('check', file, '--rulebook', at('game.json'), '--json')
    expect(JSON.parse(opened.text)).toMatchObject({ rulebook: 'my-game 1.6', items: [{ name: 'Rain hat worn' }] })
    expect(opened.told).toMatch(/its rulebook cannot be read and is left out/)
  })

  it('with an item of a kind that the game does not have blocks that item, and no other', async () => {
    const file = damaged('kind.zip', (crate) => {
      crate.items.push({ ...crate.items[0], id: 'other', name: 'Other', kind: 'weathercock' })
    })
    const { code, text } = await call('check', file)
    expect(code).toBe(1)
    expect(text).toMatch(/Other \(weathercock\)\n {2}blocks item-unreadable: .*has no kind “weathercock”/)
    expect(text).toContain('Rain hat worn (prop)')
  })
})
