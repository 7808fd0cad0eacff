import dracoUrl from 'draco3dgltf/draco_decoder_gltf.wasm?url'
import webpUrl from '@jsquash/webp/codec/dec/webp_dec.wasm?url'
import jpegUrl from '@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm?url'
import tarnAndTillerUrl from '../../core/game/games/tarn-and-tiller/stock.zip?url'
import { provideAssets, type AssetFile } from '../../core/support/asset-files'

const places: Record<AssetFile, string> = {
  draco: dracoUrl,
  webp: webpUrl,
  jpeg: jpegUrl,
  'stock/tarn-and-tiller': tarnAndTillerUrl,
}

/** In the browser, files are fetched from the same server as the program. Imported by workers for its effect. */
provideAssets(async (file) => {
  const answer = await fetch(places[file])
  if (!answer.ok) throw new Error(`the program’s own file ${file} could not be fetched`)
  return new Uint8Array(await answer.arrayBuffer())
})
