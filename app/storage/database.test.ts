import 'fake-indexeddb/auto'
import { openDB } from 'idb'
import { expect, it } from 'vitest'
import { database } from './database'
import { getPackBytes, getPackFacts } from './packs'
import { readState } from './kept-states'
import { getSource } from './sources'

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
  await db.put('crates', { id: 'landing', crate: {}, savedAt: 1, past: [], future: [] })
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

it('opens what an earlier version kept: crates, sources and packs stay, states are made anew', async () => {
  await firstVersion()
  const db = await database()
  expect(await db.get('crates', 'landing')).toMatchObject({ savedAt: 1 })
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
