declare module 'draco3dgltf/draco_decoder_gltf_nodejs.js' {
  /** Starts the decoder; with `wasmBinary` it looks for no file. */
  export default function createDraco(options: { wasmBinary: Uint8Array }): Promise<unknown>
}
