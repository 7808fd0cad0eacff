import 'fake-indexeddb/auto'
import type { Document } from '@gltf-transform/core'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { newCrate } from '../../core/crate/schema'
import { plainItem } from '../../core/test-support/crate-items'
import { rulebookById } from '../../core/game/load'
import { countTriangles, listViewParts } from '../../core/item/parts'
import { addTexture } from '../../core/operations/maps/map-pixels'
import { texturePixels } from '../../core/operations/maps/texture-pixels'
import { documentOf, unitBox } from '../../core/test-support/meshes'
import { rememberingStore, type StepRecord } from '../../core/worklist/result-store'
import {
  addCrate,
  bringBack,
  commandCrate,
  eraseCrate,
  getCrate,
  listShelf,
  redoCrate,
  removeCrate,
  replaceCrate,
  undoCrate,
} from './crates'
import { database } from './database'
import { dropOldStates } from './kept-states'
import { getPackBytes, getPackFacts, putPack } from './packs'
import { browserResults } from './results'
import { getSource, putSources } from './sources'
import { dropForgottenSources } from './unused-sources'

const item = plainItem()
const crate = {
  ...newCrate('Otterby Landing', { rulebook: rulebookById('tarn-and-tiller'), stock: null }, []),
  items: [item],
}

beforeEach(async () => {
  const db = await database()
  await Promise.all([...db.objectStoreNames].map((store) => db.clear(store)))
  await addCrate(crate)
})

describe('kept crates', () => {
  it('are there again as they were', async () => {
    expect((await getCrate('otterby-landing')).crate).toEqual(crate)
    expect((await listShelf()).crates.map((kept) => kept.crate.id)).toEqual(['otterby-landing'])
  })
  it('go back and forth through everything that was done', async () => {
    await commandCrate(crate.id, { do: 'rename-item', item: 'gate', name: 'First' })
    await commandCrate(crate.id, { do: 'rename-item', item: 'gate', name: 'Second' })
    expect((await undoCrate(crate.id)).crate.items[0].name).toBe('First')
    const back = await undoCrate(crate.id)
    expect(back).toMatchObject({ canUndo: false, canRedo: true })
    expect(back.crate.items[0].name).toBe('Gate')
    expect((await undoCrate(crate.id)).crate.items[0].name).toBe('Gate')
    expect((await redoCrate(crate.id)).crate.items[0].name).toBe('First')
    const changed = await commandCrate(crate.id, { do: 'rename-item', item: 'gate', name: 'Other' })
    expect(changed.canRedo).toBe(false)
  })
  it('are never replaced by another that claims their id', async () => {
    await commandCrate(crate.id, { do: 'rename-item', item: 'gate', name: 'Mine' })
    const ids = await Promise.all([addCrate({ ...crate, name: 'Of a stranger' }), addCrate(crate)])
    expect(new Set(['otterby-landing', ...ids]).size).toBe(3)
    expect((await getCrate('otterby-landing')).crate.items[0].name).toBe('Mine')
    expect((await getCrate(ids[0])).crate).toMatchObject({ id: ids[0], name: 'Of a stranger' })
  })
  it('are replaced when that is asked for, and come back by undo', async () => {
    await commandCrate(crate.id, { do: 'rename-item', item: 'gate', name: 'Mine' })
    const replaced = await replaceCrate({ ...crate, name: 'From the file', items: [] })
    expect(replaced).toMatchObject({ canUndo: true, crate: { name: 'From the file', items: [] } })
    expect((await undoCrate(crate.id)).crate.items[0].name).toBe('Mine')
    expect((await undoCrate(crate.id)).crate.items[0].name).toBe('Gate')
  })
  it('stay as they were when the browser has no room, which is said in a sentence', async () => {
    const put = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('no room', 'QuotaExceededError')
    })
    const add = vi.spyOn(IDBObjectStore.prototype, 'add').mockImplementation(() => {
      throw new DOMException('no room', 'QuotaExceededError')
    })
    const renamed = commandCrate(crate.id, { do: 'rename-item', item: 'gate', name: 'Lost' })
    await expect(renamed).rejects.toThrow(/did not keep the change \(QuotaExceededError\)\. Remove crates/)
    await expect(addCrate(crate)).rejects.toThrow(/did not keep the crate/)
    await expect(
      putPack({ crateId: crate.id, sha256: 'a', key: 'b', packedAt: 1 } as never, new Uint8Array(9)),
    ).rejects.toThrow(/did not keep the pack/)
    put.mockRestore()
    add.mockRestore()
    expect(await getCrate(crate.id)).toMatchObject({ crate, canUndo: false })
    expect((await listShelf()).crates).toHaveLength(1)
    expect(await getPackFacts(crate.id)).toBeNull()
  })
  it('stay as they were when a command cannot be done', async () => {
    await expect(commandCrate(crate.id, { do: 'rename-item', item: 'gone', name: 'x' })).rejects.toThrow(
      /no longer there/,
    )
    expect(await getCrate(crate.id)).toMatchObject({ crate, canUndo: false })
  })
  it('take commands that come at once, one after the other', async () => {
    await Promise.all(
      [1, 2, 3, 4, 5].map((number) =>
        commandCrate(crate.id, {
          do: 'waive',
          item: 'gate',
          waiver: { rule: `rule-${number}`, where: 'item', reason: 'seen' },
        }),
      ),
    )
    expect((await getCrate(crate.id)).crate.items[0].waivers).toHaveLength(5)
  })
  it('come back after they were removed, with what can be undone', async () => {
    await commandCrate(crate.id, { do: 'rename-item', item: 'gate', name: 'Mine' })
    await removeCrate(crate.id)
    await expect(getCrate(crate.id)).rejects.toThrow(/no such crate/)
    expect(await listShelf()).toMatchObject({ crates: [], removed: [{ id: crate.id, name: crate.name }] })
    expect(await addCrate(crate)).not.toBe(crate.id)
    await bringBack(crate.id)
    expect((await getCrate(crate.id)).crate.items[0].name).toBe('Mine')
    expect((await undoCrate(crate.id)).crate.items[0].name).toBe('Gate')
  })
  it('that were removed make room when there is none, and nothing else of the modder’s does', async () => {
    await addCrate({ ...crate, id: 'long-gone' })
    await addCrate({ ...crate, id: 'just-gone' })
    await removeCrate('long-gone')
    await new Promise((resolve) => setTimeout(resolve, 3))
    await removeCrate('just-gone')
    const put = IDBObjectStore.prototype.put
    const full = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(function (
      this: IDBObjectStore,
      ...given
    ) {
      if (this.name === 'sources' && erased < 1) throw new DOMException('no room', 'QuotaExceededError')
      return put.apply(this, given)
    })
    const remove = IDBObjectStore.prototype.delete
    let erased = 0
    const counted = vi.spyOn(IDBObjectStore.prototype, 'delete').mockImplementation(function (
      this: IDBObjectStore,
      ...given
    ) {
      if (this.name === 'crates') erased++
      return remove.apply(this, given)
    })
    await putSources([{ sha256: 'big', bytes: new Uint8Array(9) }])
    full.mockRestore()
    counted.mockRestore()
    expect(await getSource('big')).not.toBeNull()
    const { crates, removed } = await listShelf()
    expect([crates.map(({ crate: { id } }) => id), removed.map(({ id }) => id)]).toEqual([
      ['otterby-landing'],
      ['just-gone'],
    ])
  })
  it('that were removed stay when something else than room is amiss', async () => {
    await removeCrate(crate.id)
    const put = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('ended', 'AbortError')
    })
    await expect(putSources([{ sha256: 'big', bytes: new Uint8Array(9) }])).rejects.toThrow(/did not keep/)
    put.mockRestore()
    expect((await listShelf()).removed).toHaveLength(1)
  })
  it('are gone when erased, with their pack and the sources that no other crate names', async () => {
    const [own, shared, undone] = ['a', 'b', 'c'].map((letter) => letter.repeat(64))
    await putSources([own, shared, undone].map((sha256) => ({ sha256, bytes: new Uint8Array([1]) })))
    const withSources = (id: string, ...named: string[]) => ({
      ...crate,
      id,
      items: [{ ...item, sources: named.map((sha256) => ({ path: 'gate.obj', sha256, bytes: 1 })) }],
    })
    await addCrate(withSources('first', own, shared))
    await addCrate(withSources('second', shared, undone))
    await commandCrate('second', { do: 'remove-item', item: 'gate' })
    await putPack(
      { crateId: 'first', sha256: own, files: [], blocks: 0, crateHash: '', packedAt: 1 },
      new Uint8Array(5),
    )
    expect(await getPackFacts('first')).toMatchObject({ size: 5 })
    await removeCrate('first')
    expect(await getSource(own)).not.toBeNull()
    await eraseCrate('first')
    await expect(getCrate('first')).rejects.toThrow(/no such crate/)
    expect([await getPackFacts('first'), await getPackBytes('first')]).toEqual([null, null])
    expect(await getSource(own)).toBeNull()
    expect(await getSource(shared)).not.toBeNull()
    expect((await undoCrate('second')).crate.items).toHaveLength(1)
    expect(await getSource(undone)).not.toBeNull()
  })
})

describe('kept results', () => {
  const record = (key: string): StepRecord => ({
    key,
    headline: '−1',
    details: [],
    changed: true,
    milliseconds: 3,
    triangles: 12,
  })
  const withPicture = (shade: number): Document => {
    const document = documentOf({ box: unitBox() })
    const pixels = { width: 8, height: 8, data: new Uint8Array(256).fill(shade) }
    addTexture(document, 'oak', 'colour', pixels, 'a test')
    return document
  }
  const shadeOf = async (document: Document | null): Promise<number | null> =>
    document && (await texturePixels(document.getRoot().listTextures()[0])).data[0]

  it('are found by their key, with the state they lead to', async () => {
    await browserResults.save(record('a'), withPicture(7))
    expect(await browserResults.record('a')).toEqual(record('a'))
    const state = await browserResults.state('a')
    expect(await shadeOf(state)).toBe(7)
    expect(countTriangles(listViewParts(state as Document))).toBe(12)
    expect([await browserResults.record('b'), await browserResults.state('b')]).toEqual([null, null])
  })
  it('keep a picture once, however many states show it', async () => {
    for (const key of ['a', 'b', 'c']) await browserResults.save(record(key), withPicture(7))
    expect(await (await database()).count('pictures')).toBe(1)
    expect(await shadeOf(await browserResults.state('c'))).toBe(7)
  })
  it('let the states go that were not used for longest with what only they show, and keep the records', async () => {
    const later = () => new Promise((resolve) => setTimeout(resolve, 3))
    for (const [number, key] of ['a', 'b', 'c'].entries()) {
      await browserResults.save(record(key), withPicture(number))
      await later()
    }
    await browserResults.state('a')
    const facts = await (await database()).getAll('stateFacts')
    await dropOldStates(2 * (facts[0].bytes + 300))
    expect(await browserResults.state('b')).toBeNull()
    expect(await browserResults.record('b')).toEqual(record('b'))
    expect(await shadeOf(await browserResults.state('a'))).toBe(0)
    expect(await shadeOf(await browserResults.state('c'))).toBe(2)
    expect(await (await database()).count('pictures')).toBe(2)
  })
  it('are made anew, not thrown at one, when a picture or the state itself is damaged', async () => {
    await browserResults.save(record('a'), withPicture(7))
    await browserResults.save(record('b'), withPicture(8))
    const db = await database()
    await db.put('states', { key: 'a', glb: new Uint8Array([1, 2, 3]) })
    await db.clear('pictures')
    expect([await browserResults.state('a'), await browserResults.state('b')]).toEqual([null, null])
  })
  it('do not fail a step when the disk is full: older states make room, or it goes on without', async () => {
    await browserResults.save(record('a'), withPicture(1))
    const put = IDBObjectStore.prototype.put
    const full = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(function (
      this: IDBObjectStore,
      ...given
    ) {
      if (this.name === 'states') throw new DOMException('no room', 'QuotaExceededError')
      return put.apply(this, given)
    })
    await expect(browserResults.save(record('b'), withPicture(2))).resolves.toBe(false)
    full.mockRestore()
    expect([await browserResults.state('a'), await browserResults.state('b')]).toEqual([null, null])
    expect(await browserResults.record('b')).toEqual(record('b'))
    await browserResults.save(record('b'), withPicture(2))
    expect(await shadeOf(await browserResults.state('b'))).toBe(2)
  })
  it('are read once by a worker that goes back and forth', async () => {
    const near = rememberingStore(browserResults)
    await near.save(record('a'), withPicture(3))
    await (await database()).clear('states')
    expect(await shadeOf(await near.state('a'))).toBe(3)
    expect(await near.record('a')).toEqual(record('a'))
  })
})

describe('kept sources', () => {
  it('that no crate has named for a day are let go, and no others', async () => {
    const [forgotten, named] = ['d', 'e'].map((letter) => letter.repeat(64))
    await putSources([forgotten, named].map((sha256) => ({ sha256, bytes: new Uint8Array([1]) })))
    await addCrate({ ...crate, id: 'other', items: [{ ...item, sources: [{ path: 'a', sha256: named, bytes: 1 }] }] })
    await dropForgottenSources()
    expect(await getSource(forgotten)).not.toBeNull()
    await dropForgottenSources(Date.now() + 25 * 60 * 60 * 1000)
    expect(await getSource(forgotten)).toBeNull()
    expect(await getSource(named)).not.toBeNull()
  })

  it('are found by their checksum', async () => {
    await putSources([{ sha256: 'abc', bytes: new Uint8Array([7]) }])
    expect(await getSource('abc')).toEqual(new Uint8Array([7]))
    expect(await getSource('def')).toBeNull()
  })

  it('are refused in a sentence when the browser has no room, and what was kept stays', async () => {
    await putSources([{ sha256: 'abc', bytes: new Uint8Array([7]) }])
    const put = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('no room', 'QuotaExceededError')
    })
    await expect(putSources([{ sha256: 'big', bytes: new Uint8Array(3 * 1024 * 1024) }])).rejects.toThrow(
      /this browser’s storage: it did not keep 3 MB \(QuotaExceededError\)\. Remove crates/,
    )
    put.mockRestore()
    expect(await getSource('abc')).toEqual(new Uint8Array([7]))
    expect(await getSource('big')).toBeNull()
  })
})
