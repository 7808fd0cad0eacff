import { describe, expect, it } from 'vitest'
import { demoSources } from '../test-support/sources.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { itemPaths } from '../game/item-paths.ts'
import { createIO } from '../item/io.ts'
import { listUsedMaterials, listViewParts } from '../item/parts.ts'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { runStep } from '../test-support/step-runs.ts'
import { nameRows } from './name-rows.ts'
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
    const files = rows.filter(({ sort }) => sort === 'mesh' || sort === 'picture')
    const said = files.flatMap((row) => row.packed)
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
    const lost = pathRows({ ...named, item }, bare, bare, tarnAndTiller).filter(({ sort }) => sort === 'picture')
    expect(new Set(lost.map(({ trouble }) => trouble))).toEqual(new Set(['missing']))
  })
})

describe('names of parts and materials', () => {
  it('are those of the packed mesh, each with what its source wrote', async () => {
    const { rows, document, packed } = await gateRows()
    const mesh = packed.find(({ path }) => path.endsWith('.glb'))
    const inPack = await createIO().readBinary(mesh?.bytes ?? new Uint8Array())
    const written = new Set(listViewParts(document).map(({ name }) => name))
    const parts = rows.filter(({ sort, asks }) => sort === 'part' && asks === 'part')
    const packedNames = inPack
      .getRoot()
      .listNodes()
      .map((node) => node.getName())
    expect(parts.length).toBeGreaterThan(2)
    expect(parts.filter((row) => !packedNames.includes(row.packed[0]))).toEqual([])
    // What steps have made new, such as levels, has no name in the source.
    expect(parts.some((row) => row.written !== row.packed[0] && written.has(row.written))).toBe(true)
    const materials = rows.filter(({ sort }) => sort === 'material')
    const packedMaterials = inPack
      .getRoot()
      .listMaterials()
      .map((material) => material.getName())
    expect(materials.map((row) => row.packed[0]).toSorted()).toEqual(packedMaterials.toSorted())
    const own = listUsedMaterials(document).map((material) => material.getName())
    expect(materials.filter((row) => own.includes(row.written)).length).toBeGreaterThan(1)
  })

  it('tell those that the game does not read, and those that stand twice', async () => {
    const named = { id: 'a', item: 'A' }
    const paths = itemPaths(tarnAndTiller, kind, 'a', null)
    const document = documentOf({ 'Not so': unitBox(), bell: unitBox(), other: unitBox() })
    listViewParts(document)[2].node.setName('bell')
    const rows = nameRows(named, document, tarnAndTiller, paths)
    expect(rows.filter(({ sort }) => sort === 'part').map(({ trouble }) => trouble)).toEqual([
      'not a name',
      'doubled',
      'doubled',
    ])
    const { after } = await runStep('clean-names', document)
    const cleaned = nameRows(named, after, tarnAndTiller, paths).filter(({ sort }) => sort === 'part')
    expect(cleaned.map(({ written, packed, trouble }) => [written, packed[0], trouble])).toEqual([
      ['Not so', 'not_so', null],
      ['bell', 'bell', null],
      ['bell', 'bell_2', null],
    ])
  })
})

describe('rebasing written paths', () => {
  const rows = [
    { sort: 'picture' as const, written: 'E:\\Edda\\Textures\\wood\\oak.png' },
    { sort: 'picture' as const, written: 'E:\\Edda\\Textures\\wood\\oak_n.png' },
    { sort: 'picture' as const, written: 'e:/edda/textures/pine/oak.png' },
    { sort: 'picture' as const, written: 'D:\\old\\iron.png' },
    { sort: 'mesh' as const, written: 'E:\\Edda\\Textures\\gate.obj' },
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
