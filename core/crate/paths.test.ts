import { describe, expect, it } from 'vitest'
import { demoSources } from '../test-support/sources.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { kindOf } from '../game/load.ts'
import { packItem } from '../pack/pack-item.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { bringIn, startKey } from './bring-in.ts'
import { pathRows } from './path-rows.ts'
import { prepareItem } from './prepare-item.ts'
import { rebase, writtenFolders } from './rebase.ts'

const kind = kindOf(tarnAndTiller, 'prop')

async function gateRows() {
  const [{ item, document }] = await bringIn(
    demoSources('boathouse_gate'),
    'prop',
    { metresPerUnit: 0.01, up: '+z' },
    [],
  )
  const named = { item, itemName: 'boathouse_gate', slot: null }
  const { result } = await prepareItem(
    { key: startKey(item), document },
    { rulebook: tarnAndTiller, kind, store: memoryStore() },
    { itemName: 'boathouse_gate' },
  )
  const packed = await packItem({ name: 'boathouse_gate', kind, document: result.document }, tarnAndTiller)
  return { named, document, rows: pathRows(named, document, result.document, tarnAndTiller), packed }
}

describe('names and paths of an item', () => {
  it('are those that its pack has, each with what its source wrote', async () => {
    const { rows, packed } = await gateRows()
    expect(rows[0]).toMatchObject({ asks: 'mesh', packed: ['items/props/boathouse_gate/boathouse_gate.glb'] })
    const paths = new Set(packed.map(({ path }) => path))
    const said = rows.flatMap((row) => row.packed)
    expect(said.length).toBeGreaterThan(3)
    expect(said.filter((path) => !paths.has(path))).toEqual([])
    const maps = packed.filter(({ sort, written }) => sort === 'map' && written !== undefined)
    for (const row of rows.filter(({ asks }) => asks.endsWith('colour')))
      expect(maps.find(({ written }) => written === row.written)?.path).toBe(row.packed[0])
  })

  it('tell what is on a disk of someone’s, missing, or there twice', async () => {
    const { named, document, rows } = await gateRows()
    expect(rows.filter(({ trouble }) => trouble === 'own disk').length).toBeGreaterThan(0)
    const [, { written, found }] = rows
    const again = (item: typeof named.item) =>
      pathRows({ ...named, item }, document, document, tarnAndTiller)[1].trouble
    const other = { path: `elsewhere/${found?.split('/').pop()}`, sha256: 'f'.repeat(64), bytes: 1 }
    const twice = { ...named.item, sources: [...named.item.sources, other] }
    expect(again(twice)).toBe('doubled')
    expect(again({ ...twice, reading: { links: { [written]: other.path } } })).not.toBe('doubled')
    const [{ item, document: bare }] = await bringIn(
      demoSources('boathouse_gate').filter(({ path }) => /\.(obj|mtl)$/.test(path)),
      'prop',
      {},
      [],
    )
    const lost = pathRows({ ...named, item }, bare, bare, tarnAndTiller).slice(1)
    expect(new Set(lost.map(({ trouble }) => trouble))).toEqual(new Set(['missing']))
  })
})

describe('rebasing written paths', () => {
  const rows = [
    { asks: 'oak · colour', written: 'E:\\Edda\\Textures\\wood\\oak.png' },
    { asks: 'oak · normal', written: 'E:\\Edda\\Textures\\wood\\oak_n.png' },
    { asks: 'pine · colour', written: 'e:/edda/textures/pine/oak.png' },
    { asks: 'iron · colour', written: 'D:\\old\\iron.png' },
    { asks: 'mesh', written: 'E:\\Edda\\Textures\\gate.obj' },
  ]
  const files = ['tex/wood/oak.png', 'tex/pine/oak.png', 'tex/iron.png'].map((path) => ({ path }))

  it('leads those below a folder to the files that lie alike in another', () => {
    const led = rebase(rows, 'e:/edda/textures', files)
    expect(led.map(({ written, file }) => [written, file.path])).toEqual([
      ['E:\\Edda\\Textures\\wood\\oak.png', 'tex/wood/oak.png'],
      ['e:/edda/textures/pine/oak.png', 'tex/pine/oak.png'],
    ])
    expect(rebase(rows, 'E:\\Edda\\Text', files)).toEqual([])
    expect(rebase(rows, '', files)).toHaveLength(3)
  })

  it('knows which folders there are to lead from, the one with most first', () => {
    expect(writtenFolders(rows)).toEqual([
      { folder: 'E:/Edda/Textures/wood', count: 2 },
      { folder: 'e:/edda/textures/pine', count: 1 },
      { folder: 'D:/old', count: 1 },
    ])
  })
})
