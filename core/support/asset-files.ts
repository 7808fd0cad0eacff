/**
 * Files that ship with the program and are read when they are needed: decoders in WebAssembly, and what each game has
 * in stock. Where their bytes lie differs between browser and Node, so the program that is built on core says it.
 */
export type AssetFile = 'draco' | 'webp' | 'jpeg' | `stock/${string}`

type AssetSource = (file: AssetFile) => Promise<Uint8Array>

let source: AssetSource | null = null

/**
 * Says where the bytes come from; called once by each program.
 * @example provideAssets((name) => readFile(new URL(name, assets)))
 */
export function provideAssets(from: AssetSource): void {
  source = from
}

/**
 * @throws Error when the program did not say where its files lie
 *
 * @example const wasm = await assetBytes('draco')
 */
export async function assetBytes(file: AssetFile): Promise<Uint8Array> {
  if (!source) throw new Error(`the file ${file} was not provided`)
  return source(file)
}
