import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { call } from './test-support.ts'

const folder = mkdtempSync(join(tmpdir(), 'slots-'))
const at = (name: string): string => join(folder, name)

const box = [
  'o box',
  ...[0, 1].flatMap((x) => [0, 1].flatMap((y) => [0, 1].map((z) => `v ${x} ${y} ${z}`))),
  'f 1 2 4 3',
  'f 5 7 8 6',
  'f 1 5 6 2',
  'f 3 4 8 7',
  'f 1 3 7 5',
  'f 2 6 8 4',
].join('\n')

describe('gentle-crate slots', () => {
  it('tells who stands where, gives an item another slot, and packs it there', async () => {
    writeFileSync(at('chest.obj'), box)
    const prepared = await call(
      'prepare',
      at('chest.obj'),
      '--rulebook',
      'hollin-keep',
      '--kind',
      'furnishing',
      '--out',
      at('a.zip'),
    )
    expect(prepared.code).toBe(0)
    const listed = await call('slots', at('a.zip'))
    expect(listed.text).toContain('k-000   Chest (furnishing) instead of Long table')
    expect(listed.text).toMatch(/free for a furnishing: k-001, /)
    const moved = await call('slots', at('a.zip'), '--item', 'chest', '--slot', 'k-00a', '--out', at('b.zip'))
    expect(moved.text).toContain('k-00a   Chest (furnishing) instead of Iron-bound chest')
    expect((await call('pack', at('b.zip'), '--out', at('p.zip'))).text).toContain('things/K-00A.obj')
    expect(await call('trial', at('p.zip'), '--rulebook', 'hollin-keep')).toMatchObject({ code: 0 })
    // Taken out of the pack it stands where it stood.
    await call('take', at('p.zip'), '--item', 'chest', '--out', at('c.zip'))
    expect((await call('slots', at('c.zip'))).text).toContain('k-00a   chest')
  })

  it('packs beside another: which wins is told, and the game’s own name is refused', async () => {
    await call('pack', at('b.zip'), '--out', at('z.zip'))
    const same = await call('overlay', at('p.zip'), at('z.zip'))
    expect(same).toMatchObject({ code: 0 })
    expect(same.text).toContain('0 paths contested')
    await call('slots', at('a.zip'), '--item', 'chest', '--slot', 'k-001', '--out', at('f.zip'))
    await call('pack', at('f.zip'), '--out', at('y.zip'))
    expect((await call('overlay', at('p.zip'), at('y.zip'))).text).toContain('0 paths contested')
    const own = await call('pack', at('b.zip'), '--out', at('a-keep.zip'))
    expect(own).toMatchObject({ code: 2 })
    expect(own.complained).toContain('a-keep.zip is the game’s own pack, which is never written')
    expect((await call('pack', at('b.zip'), '--out', at('1.zip'))).text).toContain(
      '1.zip is read before the game’s own a-keep.zip',
    )
    expect((await call('overlay', at('p.zip'))).complained).toContain('it takes two packs or more')
  })

  it('says in a sentence what cannot be given', async () => {
    expect(
      (await call('slots', at('a.zip'), '--item', 'chest', '--slot', 'k-100', '--out', at('d.zip'))).complained,
    ).toMatch(/Chest: a furnishing cannot stand at “k-100”\. Its slots: k-000, /)
    expect(
      (await call('slots', at('a.zip'), '--item', 'lid', '--slot', 'k-001', '--out', at('d.zip'))).complained,
    ).toContain('it has no item “lid”')
    expect((await call('slots', at('a.zip'), '--item', 'chest')).complained).toContain('go together')
    await call('prepare', at('chest.obj'), '--rulebook', 'tarn-and-tiller', '--kind', 'prop', '--out', at('e.zip'))
    expect((await call('slots', at('e.zip'))).complained).toContain('Tarn & Tiller has no slots')
  })
})
