import type * as crypto from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { provideAssets, type AssetFile } from '../core/support/asset-files.ts'
import { provideHash } from '../core/support/hashing.ts'

const require = createRequire(import.meta.url)

const decoders: Partial<Record<AssetFile, string>> = {
  draco: 'draco3dgltf/draco_decoder_gltf.wasm',
  jpeg: '@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm',
  webp: '@jsquash/webp/codec/dec/webp_dec.wasm',
}

/** Decoders lie in their packages, a game's stock beside its rulebook. */
const placeOf = (file: AssetFile): string =>
  decoders[file] ?? `../core/game/games/${file.slice('stock/'.length)}/stock.zip`

/** In Node, files are read from their packages and from beside the sources. Imported for its effect. */
provideAssets(async (file) => new Uint8Array(await readFile(require.resolve(placeOf(file)))))

// Loaded when something is hashed first: many a call hashes nothing.
provideHash((bytes) => (require('node:crypto') as typeof crypto).createHash('sha256').update(bytes).digest('hex'))
