import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it } from 'vitest'
import { rulebookById } from '../../core/game/load'
import { newCrate } from '../../core/crate/schema'
import { plainItem } from '../../core/test-support/crate-items'
import { asText, dropAsides, listAsides, rawRecord } from './asides'
import { addCrate, commandCrate, getCrate, giveGame, listShelf, undoCrate } from './crates'
import { database } from './database'
import { getPackBytes, getPackFacts, putPack } from './packs'
import { browserResults } from './results'

const game = { rulebook: rulebookById('tarn-and-tiller'), stock: null }
const item = plainItem()
const crate = { ...newCrate('Otterby Landing', game, []), items: [item, { ...item, id: 'bell', name: 'Bell' }] }

/** What a disk may have made of a crate's record. */
async function damage(change: (kept: Record<string, unknown>) => unknown): Promise<void> {
  const db = await database()
  const stored = await db.get('crates', crate.id)
  await db.put('crates', { ...(stored as NonNullable<typeof stored>), crate: change({ ...crate }) })
}

beforeEach(async () => {
  const db = await database()
  await Promise.all([...db.objectStoreNames].map((store) => db.clear(store)))
  await addCrate(crate)
})

describe('a damaged crate', () => {
  it('opens with the items that are whole; the others are set aside with their reason, and can be saved', async () => {
    await damage((kept) => ({ ...kept, items: [{ ...item, sources: 'gone' }, crate.items[1]] }))
    expect((await listShelf()).crates[0]).toMatchObject({ damaged: 1 })
    expect((await getCrate(crate.id)).crate.items.map(({ name }) => name)).toEqual(['Bell'])
    const [aside] = await listAsides(crate.id)
    expect(aside).toMatchObject({ what: 'Gate', value: { sources: 'gone' } })
    expect(aside.reason).toMatch(/wrong at sources/)
    expect(asText([aside])).toContain('"sources": "gone"')
    expect((await listShelf()).crates[0]).toMatchObject({ damaged: 0 })
    await dropAsides(crate.id)
    expect(await listAsides(crate.id)).toEqual([])
  })
  it('keeps an item when only a step or a waiver of it is bad', async () => {
    const entry = { id: 'step-1', step: 'set-size', on: true, parameters: {}, reason: null }
    const worklist = [entry, { id: 'step-2', step: 7 }, { ...entry, id: 'step-3', parameters: { size: Number.NaN } }]
    await damage((kept) => ({ ...kept, items: [{ ...item, worklist, waivers: [null] }] }))
    const [opened] = (await getCrate(crate.id)).crate.items
    expect(opened).toMatchObject({ worklist: [entry], waivers: [] })
    expect((await listAsides(crate.id)).map(({ what }) => what)).toEqual([
      'a step of Gate',
      'a step of Gate',
      'a waiver of Gate',
    ])
  })
  it('is set aside before it is changed, so that a change loses nothing', async () => {
    await damage((kept) => ({ ...kept, items: [item, 17] }))
    await commandCrate(crate.id, { do: 'rename-item', item: 'gate', name: 'Mine' })
    expect((await listAsides(crate.id)).map(({ value }) => value)).toEqual([17])
    expect((await undoCrate(crate.id)).crate.items).toEqual([item])
  })
  it('gives two items of one id each its own', async () => {
    await damage((kept) => ({ ...kept, items: [item, { ...item, name: 'Other' }] }))
    expect((await getCrate(crate.id)).crate.items.map(({ id, name }) => [id, name])).toEqual([
      ['gate', 'Gate'],
      ['gate-2', 'Other'],
    ])
  })
  it('whose rulebook cannot be read opens once it is given one', async () => {
    await damage((kept) => ({ ...kept, rulebook: { id: 'a-game-of-nobody' } }))
    const { crates, damaged } = await listShelf()
    expect([crates, damaged]).toMatchObject([[], [{ id: crate.id, name: 'Otterby Landing', wantsGame: true }]])
    await expect(getCrate(crate.id)).rejects.toThrow(/rulebook is wrong at/)
    expect((await giveGame(crate.id, game)).crate).toEqual(crate)
    expect((await getCrate(crate.id)).crate).toEqual(crate)
    expect(await listAsides(crate.id)).toMatchObject([{ value: { id: 'a-game-of-nobody' } }])
  })
  it('of a game that ships takes the rulebook that ships when its own is bad', async () => {
    await damage((kept) => ({ ...kept, rulebook: { id: game.rulebook.id, limits: 'none' } }))
    expect((await getCrate(crate.id)).crate.rulebook).toEqual(game.rulebook)
  })
  it.each([
    ['nothing', null],
    ['a number', 4],
    ['a record of another format', { format: 'other' }],
    ['many bytes', new Uint8Array(1_000_000)],
  ])('that holds %s is shown with its reason and can be saved, and holds up no other', async (_what, value) => {
    await addCrate({ ...crate, id: 'other' })
    await damage(() => value)
    const { crates, damaged } = await listShelf()
    expect(crates.map((kept) => kept.crate.id)).toEqual(['other'])
    expect(damaged).toMatchObject([{ id: crate.id, wantsGame: false }])
    expect(asText(await rawRecord(crate.id))).toContain('otterby-landing')
    await expect(getCrate(crate.id)).rejects.toThrow(/cannot be read/)
  })
  it('that holds itself neither hangs nor overflows', async () => {
    const parameters: Record<string, unknown> = {}
    parameters['self'] = parameters
    const worklist = [{ id: 'step-1', step: 'set-size', on: true, parameters, reason: null }]
    await damage((kept) => ({ ...kept, items: [{ ...item, worklist }] }))
    expect((await getCrate(crate.id)).crate.items[0].worklist).toEqual([])
    expect(asText(await listAsides(crate.id))).toContain('deeper than can be saved')
  })
  it('goes no further back than what was kept of its changes can be read, and stands', async () => {
    await commandCrate(crate.id, { do: 'rename-item', item: 'gate', name: 'Mine' })
    await (await database()).put('changes', { crate: crate.id, number: 1, before: { items: [5] }, after: null })
    await expect(undoCrate(crate.id)).rejects.toThrow(/this change cannot be read/)
    expect((await getCrate(crate.id)).crate.items[0].name).toBe('Mine')
  })
})

describe('junk in other stores', () => {
  it('is a pack that is not there', async () => {
    const facts = { crateId: crate.id, sha256: 'a', files: [], blocks: 0, crateHash: '', packedAt: 1 }
    await putPack(facts, new Uint8Array(9))
    const db = await database()
    await db.put('packBytes', { crateId: crate.id, bytes: new Uint8Array(3) })
    expect(await getPackBytes(crate.id)).toBeNull()
    await db.put('packs', { crateId: crate.id, files: null } as never)
    expect([await getPackFacts(crate.id), await getPackBytes(crate.id)]).toEqual([null, null])
  })
  it('is a result that is made anew, also where its bytes could still be read', async () => {
    const { documentOf, unitBox } = await import('../../core/test-support/meshes')
    await browserResults.save(
      { key: 'a', headline: '', details: [], changed: true, milliseconds: 1, triangles: 12 },
      documentOf({ box: unitBox() }),
    )
    const db = await database()
    const kept = await db.get('states', 'a')
    const glb = Uint8Array.from(kept?.glb ?? [])
    glb[glb.length - 1] ^= 1
    await db.put('states', { key: 'a', glb })
    expect(await browserResults.state('a')).toBeNull()
    await db.put('records', { key: 'a', headline: 4 } as never)
    expect(await browserResults.record('a')).toBeNull()
  })
})
