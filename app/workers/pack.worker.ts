import { packCrate } from '../../core/crate/evaluate'
import { crateSchema } from '../../core/crate/schema'
import { hashValue } from '../../core/support/hashing'
import { browserResults } from '../storage/results'
import { putPack } from '../storage/packs'
import { getSource } from '../storage/sources'
import type { Progress } from './messages'
import './browser-assets'
import { serve } from './serve'

let stopAsked = false

/** Packs a crate; the archive is kept in the database. */
const endpoint = {
  async pack(rawCrate: unknown, onProgress: (progress: Progress) => void): Promise<{ blocks: number }> {
    const crate = crateSchema.parse(rawCrate)
    stopAsked = false
    const { pack, blocks } = await packCrate(crate, {
      store: browserResults,
      bytesOf: getSource,
      shouldStop: () => stopAsked,
      onProgress: (progress) => onProgress({ ...progress, fraction: progress.fraction * 0.8 }),
      onPacking: async (fraction, doing) =>
        onProgress({ entry: '', title: 'Packing', fraction: 0.8 + fraction * 0.2, doing }),
    })
    const { bytes, sha256, files } = pack
    await putPack(
      { crateId: crate.id, sha256, files, blocks, crateHash: hashValue(crate), packedAt: Date.now() },
      bytes,
    )
    return { blocks }
  },

  stop(): void {
    stopAsked = true
  },
}

export type PackEndpoint = typeof endpoint
serve(endpoint)
