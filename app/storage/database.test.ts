import 'fake-indexeddb/auto'
import { openDB } from 'idb'
import { beforeEach, expect, it, vi } from 'vitest'
import { changeBetween } from '../../core/crate/change'
import { newCrate } from '../../core/crate/schema'
import { rulebookById } from '../../core/game/load'
import { plainItem } from '../../core/test-support/crate-items'

const game = { rulebook: rulebookById('tarn-and-tiller'), stock: null }
const named = (name: string) => ({ ...newCrate('Landing', game, []), items: [{ ...plainItem(), name }] })

/** The store as it is opened anew by the present version. */
async function present() {
  vi.resetModules()
  const [database, packs, states, sources, crates, pictures] = await Promise.all([
    import('./database'),
    import('./packs'),
    import('./kept-states'),
    import('./sources'),
    import('./crates'),
    import('./item-pictures'),
  ])
  return { ...database, ...packs, ...states, ...sources, ...crates, ...pictures }
}

beforeEach(() => {
  indexedDB = new IDBFactory()
})

/** A database as the first version of the application left it in a browser. */
async function firstVersion(): Promise<void> {
  const db = await openDB('gentle-crate', 1, {
    upgrade(made) {
      made.createObjectStore('crates', { keyPath: 'id' })
      made.createObjectStore('sources', { keyPath: 'sha256' })
      made.createObjectStore('records', { keyPath: 'key' })
      made.createObjectStore('states', { keyPath: 'key' }).createIndex('usedAt', 'usedAt')
      made.createObjectStore('packs', { keyPath: 'crateId' })
      made.createObjectStore('settings', { keyPath: 'key' })
    },
  })
  await db.put('crates', { id: 'landing', crate: named('Gate'), savedAt: 1, past: [], future: [] })
  await db.put('sources', { sha256: 'abc', bytes: new Uint8Array([7]) })
  await db.put('states', { key: 'a', bytes: new Uint8Array([1]), size: 1, usedAt: 1 })
  const pack = {
    crateId: 'landing',
    sha256: 'def',
    files: [{ path: 'a.glb', bytes: 3 }],
    blocks: 0,
    crateHash: '',
    packedAt: 2,
  }
  await db.put('packs', { ...pack, bytes: new Uint8Array([1, 2, 3]) })
  db.close()
}

/** A database as the second version left it: whole crates for each undo and redo. */
async function secondVersion(past: readonly unknown[], crate: unknown, future: readonly unknown[]): Promise<void> {
  const db = await openDB('gentle-crate', 2, {
    upgrade(made) {
      made.createObjectStore('crates', { keyPath: 'id' })
      for (const [name, keyPath] of Object.entries({
        sources: 'sha256',
        records: 'key',
        states: 'key',
        pictures: 'hash',
        pictureFacts: 'hash',
        packs: 'crateId',
        packBytes: 'crateId',
        settings: 'key',
      }))
        made.createObjectStore(name, { keyPath })
      made.createObjectStore('stateFacts', { keyPath: 'key' }).createIndex('usedAt', 'usedAt')
      made.createObjectStore('sourceTimes', { keyPath: 'sha256' }).createIndex('keptAt', 'keptAt')
    },
  })
  await db.put('crates', { id: 'landing', crate, savedAt: 1, past, future })
  db.close()
}

/** A database as the third version left it: changes and pieces set aside in stores of their own. */
async function thirdVersion(): Promise<void> {
  await secondVersion([], named('Gate'), [])
  const db = await openDB('gentle-crate', 3, {
    upgrade(made) {
      made.createObjectStore('changes', { keyPath: ['crate', 'number'] })
      made.createObjectStore('asides', { autoIncrement: true, keyPath: 'key' }).createIndex('crate', 'crate')
    },
  })
  const stored = { id: 'landing', crate: named('Gate'), savedAt: 1, at: 1, first: 0, last: 1, removedAt: null }
  await db.put('crates', stored)
  await db.put('changes', {
    crate: 'landing',
    number: 1,
    before: changeBetween(named('Gate'), named('Door')),
    after: changeBetween(named('Door'), named('Gate')),
  })
  db.close()
}

it('opens what the first version kept: crates, sources and packs stay, states are made anew', async () => {
  await firstVersion()
  const { getCrate, getSource, getPackFacts, getPackBytes, readState } = await present()
  expect(await getCrate('landing')).toMatchObject({ savedAt: 1, crate: named('Gate'), canUndo: false })
  expect(await getSource('abc')).toEqual(new Uint8Array([7]))
  expect(await getPackFacts('landing')).toEqual({
    crateId: 'landing',
    size: 3,
    sha256: 'def',
    files: [{ path: 'a.glb', bytes: 3 }],
    blocks: 0,
    crateHash: '',
    packedAt: 2,
  })
  expect(await getPackBytes('landing')).toEqual(new Uint8Array([1, 2, 3]))
  expect(await readState('a')).toBeNull()
})

it('keeps what could be undone and redone in the second version', async () => {
  await secondVersion([named('First'), named('Second')], named('Third'), [named('Fourth')])
  const { getCrate, undoCrate, redoCrate } = await present()
  expect(await getCrate('landing')).toMatchObject({ canUndo: true, canRedo: true, crate: named('Third') })
  expect((await redoCrate('landing')).crate).toEqual(named('Fourth'))
  for (const name of ['Third', 'Second', 'First']) expect((await undoCrate('landing')).crate).toEqual(named(name))
  expect((await getCrate('landing')).canUndo).toBe(false)
})

it('keeps as much of it as can be read', async () => {
  await secondVersion([named('First'), 'junk', named('Second')], named('Third'), [null, named('Fifth')])
  const { getCrate, undoCrate } = await present()
  expect(await getCrate('landing')).toMatchObject({ canUndo: true, canRedo: false })
  expect(await undoCrate('landing')).toMatchObject({ canUndo: false, crate: named('Second') })
})

it('keeps all of the third version, and makes room for pictures of items', async () => {
  await thirdVersion()
  const { getCrate, undoCrate, putItemPicture, getItemPicture } = await present()
  expect(await getCrate('landing')).toMatchObject({ canUndo: true, canRedo: false, crate: named('Gate') })
  expect((await undoCrate('landing')).crate).toEqual(named('Door'))
  const png = Uint8Array.from([0x89, 0x50, ...new Uint8Array(40)])
  await putItemPicture('gate', png)
  expect(await getItemPicture('gate')).toEqual(png)
})

it('is not opened by an earlier version than the one that kept it, which is said', async () => {
  ;(await openDB('gentle-crate', 1000)).close()
  const { listShelf } = await present()
  await expect(listShelf()).rejects.toThrow(/storage: a later version of Gentle Crate has kept it\. Reload/)
})
