import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { provideAssets, type AssetFile } from '../core/support/asset-files.ts'

const require = createRequire(import.meta.url)

const places: Record<AssetFile, string> = {
  draco: 'draco3dgltf/draco_decoder_gltf.wasm',
  jpeg: '@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm',
  webp: '@jsquash/webp/codec/dec/webp_dec.wasm',
  'stock/tarn-and-tiller': '../core/game/games/tarn-and-tiller/stock.zip',
}

/** In Node, files are read from their packages and from beside the sources. Imported for its effect. */
provideAssets(async (file) => new Uint8Array(await readFile(require.resolve(places[file]))))
