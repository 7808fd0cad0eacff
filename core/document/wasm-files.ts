/** Decoders that come as WebAssembly beside their package; where the bytes lie differs between browser and Node. */
export const wasmFiles = {
  draco: 'draco3dgltf/draco_decoder_gltf.wasm',
  webp: '@jsquash/webp/codec/dec/webp_dec.wasm',
} as const
export type WasmFile = keyof typeof wasmFiles

type WasmSource = (file: WasmFile) => Promise<Uint8Array>

let source: WasmSource | null = null

/** Says where the bytes come from; called once by each program that is built on core. */
export function provideWasm(from: WasmSource): void {
  source = from
}

/** @throws Error when the program did not say where decoders lie */
export async function wasmBytes(file: WasmFile): Promise<Uint8Array> {
  if (!source) throw new Error(`the decoder for ${file} was not provided`)
  return source(file)
}
