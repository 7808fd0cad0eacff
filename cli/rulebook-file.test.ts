import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { rulebookById } from '../core/game/load.ts'
import { readGameFile } from '../core/crate/game-file.ts'
import { call } from './test-support.ts'

const folder = mkdtempSync(join(tmpdir(), 'rulebook-file-'))
const at = (name: string): string => join(folder, name)
const bytesOf = (name: string): Uint8Array => new Uint8Array(readFileSync(at(name)))

describe('gentle-crate rulebook --out', () => {
  it('writes a game with its stock as one file, which is taken as it is', async () => {
    expect((await call('rulebook', 'tarn-and-tiller', '--out', at('tarn.zip'))).code).toBe(0)
    const { game, stock } = readGameFile(bytesOf('tarn.zip'), 'tarn.zip')
    expect(game.rulebook).toEqual(rulebookById('tarn-and-tiller'))
    expect(stock?.length).toBeGreaterThan(1000)
    const { text } = await call('rulebook', at('tarn.zip'), '--against', 'tarn-and-tiller')
    expect(text).toContain('0 demands otherwise')
  })

  it('says what is not in a JSON', async () => {
    const { text } = await call('rulebook', 'tarn-and-tiller', '--out', at('tarn.json'))
    expect(text).toContain('What the game has in stock is not in it')
    expect(readGameFile(bytesOf('tarn.json'), 'tarn.json').game.rulebook.id).toBe('tarn-and-tiller')
  })

  it('begins a game of one’s own from another, which prepares and packs as it stands', async () => {
    const made = await call(
      'rulebook',
      'pegboard-parish',
      '--as',
      'reed-cove',
      '--title',
      'Reed Cove',
      '--out',
      at('reed.json'),
    )
    expect(made.text).toContain('Reed Cove 0.1')
    const { rulebook } = readGameFile(bytesOf('reed.json'), 'reed.json').game
    expect(rulebook).toMatchObject({ id: 'reed-cove', title: 'Reed Cove', version: '0.1' })
    expect(rulebook.kinds).toEqual(rulebookById('pegboard-parish').kinds)
    const cube = 'o cube\nv 0 0 0\nv 9 0 0\nv 0 9 0\nv 0 0 9\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n'
    writeFileSync(at('cube.obj'), cube)
    expect(
      (await call('prepare', at('cube.obj'), '--unit', 'cm', '--rulebook', at('reed.json'), '--out', at('cube.zip')))
        .code,
    ).toBe(0)
    expect((await call('pack', at('cube.zip'), '--out', at('pack.zip'))).code).toBe(0)
    expect((await call('trial', at('pack.zip'), '--rulebook', at('reed.json'))).text).toContain('It loads')
    // A pack names its game, and another refuses it.
    expect((await call('trial', at('pack.zip'), '--rulebook', 'pegboard-parish')).code).toBe(1)
  })

  it('refuses an id that is none, and writes nothing', async () => {
    const { code, complained } = await call('rulebook', 'hollin-keep', '--as', 'My Game', '--out', at('none.json'))
    expect(code).toBe(2)
    expect(complained).toMatch(/id/)
    expect(existsSync(at('none.json'))).toBe(false)
  })

  it('tells which findings come and go in a crate with another rulebook', async () => {
    const cube = 'o cube\nv 0 0 0\nv 90 0 0\nv 0 90 0\nv 0 0 90\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n'
    writeFileSync(at('cube.obj'), cube)
    const made = await call(
      'prepare',
      at('cube.obj'),
      '--unit',
      'cm',
      '--rulebook',
      'pegboard-parish',
      '--out',
      at('cube.zip'),
    )
    expect(made.code).toBe(0)
    const stricter = structuredClone(rulebookById('pegboard-parish'))
    if (stricter.halfBlocks) stricter.halfBlocks.shortestEdge = 500
    writeFileSync(at('strict.json'), JSON.stringify(stricter))
    const tried = await call('rulebook', at('strict.json'), '--try', at('cube.zip'), '--json')
    const [item] = tried.json().items
    expect(tried.code).toBe(1)
    expect(item.more.map(({ rule }: { rule: string }) => rule)).toContain('half-block-size')
    expect((await call('rulebook', 'pegboard-parish', '--try', at('cube.zip'))).text).toContain(
      '0 findings more, 0 less',
    )
  })
})
