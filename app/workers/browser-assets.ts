import dracoUrl from 'draco3dgltf/draco_decoder_gltf.wasm?url'
import webpUrl from '@jsquash/webp/codec/dec/webp_dec.wasm?url'
import jpegUrl from '@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm?url'
import { provideAssets, type AssetFile } from '../../core/support/asset-files'

const decoders: Partial<Record<AssetFile, string>> = { draco: dracoUrl, webp: webpUrl, jpeg: jpegUrl }

/** Where each built-in game's stock lies, by the path of its file. */
const stocks = import.meta.glob<string>('../../core/game/games/*/stock.zip', {
  query: '?url',
  import: 'default',
  eager: true,
})

const placeOf = (file: AssetFile): string | undefined =>
  decoders[file] ?? stocks[`../../core/game/games/${file.slice('stock/'.length)}/stock.zip`]

/** In the browser, files are fetched from the same server as the program. Imported by workers for its effect. */
provideAssets(async (file) => {
  const answer = await fetch(placeOf(file) ?? file)
  if (!answer.ok) throw new Error(`the program’s own file ${file} could not be fetched`)
  return new Uint8Array(await answer.arrayBuffer())
})
