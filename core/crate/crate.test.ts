import { describe, expect, it } from 'vitest'
import { demoSources, textFile } from '../test-support/sources.ts'
import { writeArchive, type ArchiveFile } from '../support/archive.ts'
import { rulebookById } from '../game/load.ts'
import { noStore } from '../worklist/result-store.ts'
import { bringIn } from './bring-in.ts'
import { plainItem } from '../test-support/crate-items.ts'
import { applyCommand } from './commands.ts'
import { evaluateItem } from './evaluate.ts'
import { evaluateItems } from './evaluate-items.ts'
import { packCrate } from './pack-crate.ts'
import { gameNames } from './game-names.ts'
import { lossesOf, readCrateFile, writeCrateFile } from './file.ts'
import { identifierFor, newCrate, type Crate, type CrateItem } from './schema.ts'
import { countOpen, judge } from './waivers.ts'

const rulebook = rulebookById('tarn-and-tiller')
const entry = (id: string, step = 'weld') => ({ id, step, on: true, parameters: { distance: 0.1 }, reason: null })
const item = (change: Partial<CrateItem> = {}): CrateItem =>
  plainItem({ worklist: [entry('step-1'), entry('step-2', 'triangulate')], ...change })
const crateWith = (...items: CrateItem[]): Crate => ({
  ...newCrate('Otterby Landing', { rulebook, stock: null }, []),
  items,
})

describe('commands', () => {
  const crate = crateWith(item())
  const steps = (changed: Crate) => changed.items[0].worklist.map((each) => each.id)
  it('adds, moves, switches, edits and removes steps without touching the crate before', () => {
    const before = JSON.stringify(crate)
    const added = applyCommand(crate, {
      do: 'add-steps',
      item: 'gate',
      at: 1,
      entries: [
        { step: 'even-normals', on: true, parameters: {}, reason: 'why' },
        { step: 'add-solid', on: true, parameters: {}, reason: null },
      ],
    })
    expect(added.items[0].worklist.map((each) => each.step)).toEqual([
      'weld',
      'even-normals',
      'add-solid',
      'triangulate',
    ])
    expect(new Set(steps(added)).size).toBe(4)
    expect(steps(applyCommand(crate, { do: 'move-step', item: 'gate', entry: 'step-1', to: 1 }))).toEqual([
      'step-2',
      'step-1',
    ])
    expect(
      applyCommand(crate, { do: 'switch-step', item: 'gate', entry: 'step-1', on: false }).items[0].worklist[0].on,
    ).toBe(false)
    expect(
      applyCommand(crate, { do: 'edit-step', item: 'gate', entry: 'step-1', parameters: { distance: 2 } }).items[0]
        .worklist[0].parameters,
    ).toEqual({ distance: 2 })
    expect(steps(applyCommand(crate, { do: 'remove-step', item: 'gate', entry: 'step-1' }))).toEqual(['step-2'])
    expect(JSON.stringify(crate)).toBe(before)
  })
  it('remembers which steps a person put in, set or switched', () => {
    const decided = (changed: Crate) => changed.items[0].worklist.filter(({ byHand }) => byHand).map(({ id }) => id)
    expect(decided(crate)).toEqual([])
    const about = { item: 'gate', entry: 'step-1' }
    expect(decided(applyCommand(crate, { do: 'switch-step', ...about, on: false }))).toEqual(['step-1'])
    expect(decided(applyCommand(crate, { do: 'edit-step', ...about, parameters: {} }))).toEqual(['step-1'])
    const entries = [{ step: 'weld', on: true, parameters: {}, reason: null }]
    expect(decided(applyCommand(crate, { do: 'add-steps', item: 'gate', at: 0, entries }))).toHaveLength(1)
  })
  it('gives items ids that no other has, whatever the one who brings them thought to be free', () => {
    const more = applyCommand(crate, { do: 'add-items', items: [item(), { ...item(), name: 'Second' }] })
    expect(more.items.map(({ id }) => id)).toEqual(['gate', 'gate-2', 'gate-3'])
    expect(more.items[2].name).toBe('Second')
  })
  it('refuses what is about an item or step that is gone', () => {
    expect(() => applyCommand(crate, { do: 'rename-item', item: 'bell', name: 'Bell' })).toThrow(/no longer there/)
    expect(() => applyCommand(crate, { do: 'edit-step', item: 'gate', entry: 'step-9', parameters: {} })).toThrow(
      /no longer there/,
    )
  })
  it('links textures and takes links back', () => {
    const linked = applyCommand(crate, { do: 'link-texture', item: 'gate', written: 'a.png', path: 'b.png' })
    expect(linked.items[0].reading.links).toEqual({ 'a.png': 'b.png' })
    expect(
      applyCommand(linked, { do: 'link-texture', item: 'gate', written: 'a.png', path: null }).items[0].reading.links,
    ).toEqual({})
  })
})

describe('waivers', () => {
  it('meets a finding by its rule and place and is not counted, but stays to be seen', () => {
    const finding = {
      rule: 'too-thin',
      severity: 'risky' as const,
      stage: 'fit' as const,
      title: '',
      where: 'pins',
      place: { parts: [], bounds: null, spots: [], texture: null },
      value: '',
      limit: '',
      message: '',
      why: '',
      mend: null,
    }
    const judged = judge(
      [finding, { ...finding, where: 'nails' }],
      [{ rule: 'too-thin', where: 'pins', reason: 'only seen close by' }],
    )
    expect(judged.map((each) => each.waived)).toEqual(['only seen close by', null])
    expect(countOpen(judged)).toEqual({ blocks: 0, risky: 1, note: 0 })
  })
})

describe('crate files', () => {
  const made = async () => {
    const [{ item: brought, files }] = await bringIn(demoSources('mooring_bell'), 'mover', {}, [])
    return { crate: crateWith(brought), sources: new Map(files.map(({ sha256, file }) => [sha256, file.bytes])) }
  }
  it('opens again with everything in it, and has the same bytes for the same crate', async () => {
    const crate = await made()
    const bytes = writeCrateFile(crate)
    expect(writeCrateFile(crate)).toEqual(bytes)
    const opened = readCrateFile(bytes, 'a.zip')
    expect(opened.crate).toEqual(JSON.parse(JSON.stringify(crate.crate)))
    expect([...opened.sources.values()][0]).toEqual(demoSources('mooring_bell')[0].bytes)
  })
  it.each([
    ['no ZIP', () => new TextEncoder().encode('hello, I am no archive'), /not a whole ZIP/],
    [
      'a ZIP of something else',
      () => writeArchive([{ path: 'readme.txt', bytes: new Uint8Array(3) }], 'zip-stored'),
      /no crate\.json/,
    ],
    [
      'a crate that is no JSON',
      () => writeArchive([{ path: 'crate.json', bytes: new TextEncoder().encode('{') }], 'zip-stored'),
      /not readable/,
    ],
    [
      'a crate of a later version',
      () =>
        writeArchive(
          [{ path: 'crate.json', bytes: new TextEncoder().encode('{"format":"gentle-crate","formatVersion":3}') }],
          'zip-stored',
        ),
      /newer version/,
    ],
    [
      'a crate with a wrong field',
      () =>
        writeArchive(
          [
            {
              path: 'crate.json',
              bytes: new TextEncoder().encode('{"format":"gentle-crate","formatVersion":2,"id":"A b"}'),
            },
          ],
          'zip-stored',
        ),
      /wrong at id/,
    ],
    [
      'paths that climb out',
      () => writeArchive([{ path: '../crate.json', bytes: new Uint8Array(3) }], 'zip-stored'),
      /climbs out/,
    ],
  ])('refuses %s in a sentence', (_what, bytes, message) => {
    expect(() => readCrateFile(bytes(), 'a.zip')).toThrow(message)
  })
  it('notices a source that was damaged or is missing', async () => {
    const { crate } = await made()
    const json = { path: 'crate.json', bytes: new TextEncoder().encode(JSON.stringify(crate)) }
    const path = `sources/${crate.items[0].sources[0].sha256}`
    const opened = (...files: ArchiveFile[]) => readCrateFile(writeArchive([json, ...files], 'zip-stored'), 'a.zip')
    const damaged = opened({ path, bytes: new Uint8Array(9) })
    expect(damaged.crate).toEqual(crate)
    expect(damaged.sources.size).toBe(0)
    expect(lossesOf(damaged)).toContain('the source mooring_bell.glb is damaged: bring it again')
    expect(lossesOf(opened())).toContain('the source mooring_bell.glb is missing: bring it again')
  })
})

describe('bringing in', () => {
  it('takes several meshes at once, each with its own id', async () => {
    const files = [...demoSources('mooring_bell'), textFile('mooring_bell.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n')]
    const brought = await bringIn(files, 'prop', {}, ['mooring-bell'])
    expect(brought.map((each) => each.item.id)).toEqual(['mooring-bell-2', 'mooring-bell-3'])
  })
  it('takes none when one of them is broken, or when there is no mesh', async () => {
    await expect(
      bringIn([...demoSources('mooring_bell'), textFile('b.obj', 'v a b c')], 'prop', {}, []),
    ).rejects.toThrow(/^b\.obj/)
    await expect(bringIn([textFile('a.txt', 'x')], 'prop', {}, [])).rejects.toThrow(
      /neither a mesh nor a picture among them/,
    )
  })
  it('makes identifiers that fit anywhere', () => {
    expect(identifierFor('Größe & Co. / v2', [])).toBe('gr-e-co-v2')
    expect(identifierFor('…', ['item'])).toBe('item-2')
  })
})

describe('packing a crate', () => {
  it('gives items of equal names different names in the game', () => {
    expect([
      ...gameNames([item(), item({ id: 'b', name: 'GATE' }), item({ id: 'c', name: '3rd con' })], rulebook).values(),
    ]).toEqual(['gate', 'gate_2', 'item_3rd_con'])
  })
  it('packs what is blocked too, and counts what blocks', async () => {
    const [{ item: brought, files }] = await bringIn(demoSources('mooring_bell'), 'mover', {}, [])
    const sources = new Map(files.map(({ sha256, file }) => [sha256, file.bytes]))
    const { pack, blocks } = await packCrate(crateWith(brought), {
      store: noStore,
      bytesOf: async (sha256) => sources.get(sha256) ?? null,
    })
    expect(blocks).toBeGreaterThan(0)
    expect(pack.files.map((file) => file.path)).toContain('items/movers/mooring_bell/mooring_bell.glb')
  })
})

describe('one item of many that cannot be read', () => {
  it('holds up no other: it is told, left out of the pack, and blocks', async () => {
    const [{ item: brought, files }] = await bringIn(demoSources('mooring_bell'), 'mover', {}, [])
    const sources = new Map(files.map(({ sha256, file }) => [sha256, file.bytes]))
    const lost = {
      ...brought,
      id: 'lost',
      name: 'Lost thing',
      sources: [{ path: 'lost.glb', sha256: 'f'.repeat(64), bytes: 9 }],
    }
    const crate = { ...crateWith(lost), items: [lost, brought] }
    const options = { store: noStore, bytesOf: async (sha256: string) => sources.get(sha256) ?? null }
    const begun: string[] = []
    const evaluated = await evaluateItems(crate, options, ({ name }) => begun.push(name))
    expect(begun).toEqual(['Lost thing', brought.name])
    expect(evaluated[0].facts).toBeNull()
    expect(evaluated[0].findings).toMatchObject([
      {
        rule: 'item-unreadable',
        severity: 'blocks',
        message: expect.stringMatching(/lost\.glb: this source is missing/),
      },
    ])
    expect(evaluated[1].facts).not.toBeNull()
    const { pack, blocks } = await packCrate(crate, options)
    expect(pack.files.map(({ path }) => path).filter((path) => path.includes('lost'))).toEqual([])
    expect(pack.files.map(({ path }) => path)).toContain('items/movers/mooring_bell/mooring_bell.glb')
    expect(blocks).toBeGreaterThan(0)
  })
})

describe('a worklist that stops half-way', () => {
  it('is told among the findings, with the reason', async () => {
    const [{ item: brought, files }] = await bringIn(demoSources('mooring_bell'), 'mover', {}, [])
    const sources = new Map(files.map(({ sha256, file }) => [sha256, file.bytes]))
    const broken = { ...brought, worklist: [{ ...entry('step-1', 'polish') }] }
    const evaluated = await evaluateItem(
      broken,
      { rulebook, stock: null },
      {
        store: noStore,
        bytesOf: async (sha256) => sources.get(sha256) ?? null,
      },
    )
    const [told] = evaluated.findings.filter((finding) => finding.rule === 'step-failed')
    expect(told).toMatchObject({ severity: 'note', message: expect.stringMatching(/no such step/) })
    expect(evaluated.outcomes).toMatchObject([{ entry: 'step-1', state: 'failed' }])
  })
})
