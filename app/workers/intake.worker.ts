import * as Comlink from 'comlink'
import { bringIn } from '../../core/crate/bring-in'
import { readCrateFile, writeCrateFile } from '../../core/crate/file'
import { crateSchema, type Crate, type CrateItem, type SourceReference } from '../../core/crate/schema'
import { PlainError } from '../../core/document/plain-error'
import { sha256Hex } from '../../core/document/hashing'
import { provenImage } from '../../core/intake/images'
import type { ReadOptions } from '../../core/intake/reader'
import { fileName } from '../../core/intake/source-file'
import { getSource, putSources } from '../storage/sources'
import { filesSchema } from './messages'

/** Reads what is brought. A source is kept only after all of it could be read. */
const endpoint = {
  /** New items from files; the bytes go to the database, the items back to the page. */
  async bringIn(rawFiles: unknown, kind: string, options: ReadOptions, taken: string[]): Promise<CrateItem[]> {
    const brought = await bringIn(filesSchema.parse(rawFiles), kind, options, taken)
    await putSources(brought.flatMap((each) => each.files.map(({ sha256, file }) => ({ sha256, bytes: file.bytes }))))
    return brought.map((each) => each.item)
  },

  /** Further images for an item, proved to be images. */
  async bringImages(rawFiles: unknown): Promise<SourceReference[]> {
    const files = filesSchema.parse(rawFiles)
    for (const file of files) await provenImage(file.bytes, fileName(file.path))
    const sources = files.map((file) => ({ path: file.path, sha256: sha256Hex(file.bytes), bytes: file.bytes }))
    await putSources(sources)
    return sources.map(({ path, sha256, bytes }) => ({ path, sha256, bytes: bytes.length }))
  },

  /** Opens a crate file: its sources are kept, the crate goes back to the page. */
  async openCrateFile(bytes: Uint8Array, name: string): Promise<Crate> {
    const { crate, sources } = readCrateFile(bytes, name)
    await putSources([...sources].map(([sha256, source]) => ({ sha256, bytes: source })))
    return crate
  },

  /** A crate file with all its sources. */
  async saveCrateFile(rawCrate: unknown): Promise<Uint8Array> {
    const crate = crateSchema.parse(rawCrate)
    const sources = new Map<string, Uint8Array>()
    for (const source of crate.items.flatMap((item) => item.sources)) {
      const bytes = await getSource(source.sha256)
      if (!bytes) throw new PlainError('this source is gone from the browser', source.path, 'Bring the file again.')
      sources.set(source.sha256, bytes)
    }
    const file = writeCrateFile({ crate, sources })
    return Comlink.transfer(file, [file.buffer as ArrayBuffer])
  },
}

export type IntakeEndpoint = typeof endpoint
Comlink.expose(endpoint)
