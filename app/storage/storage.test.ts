import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { newCrate, type CrateItem } from '../../core/crate/schema'
import { rulebookById } from '../../core/game/load'
import type { StepRecord } from '../../core/worklist/result-store'
import { addCrate, commandCrate, getCrate, listCrates, redoCrate, removeCrate, undoCrate } from './crates'
import { database } from './database'
import { browserResults } from './results'
import { getSource, putSources } from './sources'

const item: CrateItem = {
  id: 'gate',
  name: 'Gate',
  kind: 'prop',
  main: 'gate.obj',
  sources: [],
  reading: { links: {} },
  worklist: [],
  waivers: [],
}
const crate = {
  ...newCrate('Otterby Landing', { rulebook: rulebookById('tarn-and-tiller'), stock: null }, []),
  items: [item],
}

beforeEach(async () => {
  const db = await database()
  await Promise.all(
    (['crates', 'sources', 'records', 'states', 'packs', 'settings'] as const).map((store) => db.clear(store)),
  )
  await addCrate(crate)
})

describe('kept crates', () => {
  it('are there again as they were', async () => {
    expect((await getCrate('otterby-landing')).crate).toEqual(crate)
    expect((await listCrates()).map((kept) => kept.crate.id)).toEqual(['otterby-landing'])
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
  it('are left out, not thrown at one, when they cannot be read', async () => {
    await (
      await database()
    ).put('crates', { id: 'broken', crate: { format: 'other' }, savedAt: 0, past: [], future: [] })
    expect(await listCrates()).toHaveLength(1)
    await expect(getCrate('broken')).rejects.toThrow(/cannot be read/)
  })
  it('are gone when removed', async () => {
    await removeCrate(crate.id)
    await expect(getCrate(crate.id)).rejects.toThrow(/no such crate/)
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
  it('are found by their key, with the state they lead to', async () => {
    await browserResults.save(record('a'), new Uint8Array([1, 2, 3]))
    expect(await browserResults.record('a')).toEqual(record('a'))
    expect(await browserResults.state('a')).toEqual(new Uint8Array([1, 2, 3]))
    expect(await browserResults.record('b')).toBeNull()
  })
  it('let the states go that were not used for longest, and keep the records', async () => {
    const large = 90 * 1024 * 1024
    for (const key of ['a', 'b', 'c', 'd', 'e']) {
      await browserResults.save(record(key), new Uint8Array(large))
      await new Promise((resolve) => setTimeout(resolve, 3))
      if (key === 'd') await browserResults.state('a')
      await new Promise((resolve) => setTimeout(resolve, 3))
    }
    expect(await browserResults.state('b')).toBeNull()
    expect(await browserResults.state('a')).not.toBeNull()
    expect(await browserResults.record('b')).toEqual(record('b'))
  })
})

describe('kept sources', () => {
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
