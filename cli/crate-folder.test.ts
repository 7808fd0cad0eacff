import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { call } from './test-support.ts'

let home: string
beforeAll(() => {
  home = mkdtempSync(join(tmpdir(), 'gentle-crate-folder-'))
})
afterAll(() => rmSync(home, { recursive: true, force: true }))
const at = (path: string): string => join(home, path)

describe('a crate as a folder on the command line', () => {
  it('is begun, filled, checked, packed and tried', async () => {
    expect((await call('init', at('landing'), '--rulebook', 'tarn-and-tiller', '--name', 'Otterby Landing')).code).toBe(
      0,
    )
    expect((await call('init', at('landing'), '--rulebook', 'tarn-and-tiller')).complained).toMatch(
      /there is a crate in it already/,
    )
    const gate = await call('prepare', 'demo/sources/mooring_bell', '--kind', 'mover', '--out', at('landing'), '--json')
    expect(gate.json().items.map(({ name }: { name: string }) => name)).toEqual(['Mooring bell'])
    expect(existsSync(at('landing/items/mooring-bell.json'))).toBe(true)
    const checked = (await call('check', at('landing'), '--json')).json()
    expect(checked).toMatchObject({ blocks: 0, items: [{ kind: 'mover' }] })
    expect((await call('pack', at('landing'), '--out', at('pack.zip'))).code).toBe(0)
    expect((await call('trial', at('pack.zip'), '--rulebook', 'tarn-and-tiller', '--json')).json().loads).toBe(true)
  })

  it('takes an item anew under its name, and leaves what else lies there alone', async () => {
    writeFileSync(at('landing/README.md'), '# Ours\n')
    const again = ['demo/sources/mooring_bell', '--kind', 'prop', '--out', at('landing'), '--steps', 'none']
    expect((await call('prepare', ...again)).code).toBe(0)
    expect(JSON.parse(readFileSync(at('landing/items/mooring-bell.json'), 'utf8'))).toMatchObject({ kind: 'prop' })
    expect(readFileSync(at('landing/README.md'), 'utf8')).toBe('# Ours\n')
    expect((await call('prepare', ...again, '--rulebook', 'hollin-keep')).complained).toMatch(
      /the crate there is for Tarn & Tiller/,
    )
  })

  const hasGit = spawnSync('git', ['--version']).status === 0
  it.skipIf(!hasGit)('is merged by git without a conflict where two people changed different items', async () => {
    const repo = at('shared')
    const git = (...words: string[]): string =>
      execFileSync('git', ['-C', repo, '-c', 'user.name=Ida', '-c', 'user.email=ida@otterby.invalid', ...words], {
        encoding: 'utf8',
      })
    await call('init', repo, '--rulebook', 'tarn-and-tiller')
    for (const source of ['mooring_bell', 'channel_buoy'])
      await call('prepare', `demo/sources/${source}`, '--kind', 'prop', '--steps', 'none', '--out', repo)
    git('init', '-q', '-b', 'main')
    git('add', '-A')
    git('commit', '-q', '-m', 'Both items')
    const change = (item: string, kind: string): void => {
      const path = join(repo, `items/${item}.json`)
      writeFileSync(path, readFileSync(path, 'utf8').replace('"kind": "prop"', `"kind": "${kind}"`))
      git('commit', '-q', '-a', '-m', item)
    }
    git('checkout', '-q', '-b', 'hers')
    change('mooring-bell', 'mover')
    git('checkout', '-q', 'main')
    change('channel-buoy', 'loose')
    // A third item, brought meanwhile, lies in files of its own as well.
    await call('prepare', 'demo/sources/timetable_board', '--kind', 'sign', '--steps', 'none', '--out', repo)
    git('add', '-A')
    git('commit', '-q', '-m', 'A board')
    git('merge', '-q', '--no-edit', 'hers')
    const { items } = (await call('check', repo, '--json')).json()
    expect(items.map(({ kind }: { kind: string }) => kind).sort()).toEqual(['loose', 'mover', 'sign'])
  })
})
