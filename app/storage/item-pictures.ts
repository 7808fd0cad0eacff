import { database } from './database'

/** Pictures beyond this many are made again when they are wanted; each has some ten thousand bytes. */
const MOST = 600

/** A small PNG of an item by the hash of what it shows; null where none was made, or what was kept is none. */
export async function getItemPicture(key: string): Promise<Uint8Array | null> {
  const kept: unknown = (await (await database()).get('itemPictures', key))?.png
  return kept instanceof Uint8Array && isPng(kept) ? kept : null
}

/** Keeps a picture; the oldest go beyond so many. A full store keeps none, and nothing is said: it is made again. */
export async function putItemPicture(key: string, png: Uint8Array): Promise<void> {
  try {
    const transaction = (await database()).transaction('itemPictures', 'readwrite')
    await transaction.store.put({ key, png, madeAt: Date.now() })
    let tooMany = (await transaction.store.count()) - MOST
    for (
      let cursor = tooMany > 0 ? await transaction.store.index('madeAt').openCursor() : null;
      cursor && tooMany > 0;
      cursor = await cursor.continue()
    ) {
      await cursor.delete()
      tooMany--
    }
    await transaction.done
  } catch {
    // It is only a picture.
  }
}

const isPng = (bytes: Uint8Array): boolean => bytes[0] === 0x89 && bytes[1] === 0x50 && bytes.byteLength > 24
