import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it } from 'vitest'
import { database } from './database'
import { getItemPicture, putItemPicture } from './item-pictures'

const png = (mark: number): Uint8Array => {
  const bytes = new Uint8Array(40)
  bytes.set([0x89, 0x50, 0x4e, 0x47, mark])
  return bytes
}

beforeEach(async () => (await database()).clear('itemPictures'))

describe('pictures of items', () => {
  it('come back under the key of what they show, and not under another', async () => {
    await putItemPicture('gate', png(1))
    expect(await getItemPicture('gate')).toEqual(png(1))
    expect(await getItemPicture('bell')).toBeNull()
  })

  it('that are none any more count as not there', async () => {
    const db = await database()
    await db.put('itemPictures', { key: 'junk', png: 'no bytes' as unknown as Uint8Array, madeAt: 1 })
    await db.put('itemPictures', { key: 'text', png: new TextEncoder().encode('not a picture at all'), madeAt: 1 })
    expect(await getItemPicture('junk')).toBeNull()
    expect(await getItemPicture('text')).toBeNull()
  })

  it('do not grow without end: the oldest go', async () => {
    const db = await database()
    for (let index = 0; index < 605; index++)
      await db.put('itemPictures', { key: `old ${index}`, png: png(2), madeAt: index })
    await putItemPicture('new', png(3))
    expect(await db.count('itemPictures')).toBe(600)
    expect(await getItemPicture('new')).toEqual(png(3))
    expect(await getItemPicture('old 0')).toBeNull()
    expect(await getItemPicture('old 604')).not.toBeNull()
  })
})
