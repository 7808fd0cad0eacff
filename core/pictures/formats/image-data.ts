/** Decoders made for pages hand their pixels over as ImageData, which Node does not have. */
class PlainImageData {
  constructor(
    readonly data: Uint8ClampedArray,
    readonly width: number,
    readonly height: number,
  ) {}
}

/**
 * Puts a plain one in its place where there is none.
 * @example ensureImageData()
 */
export function ensureImageData(): void {
  if (!('ImageData' in globalThis)) Object.assign(globalThis, { ImageData: PlainImageData })
}

/** Standard in workers and Node, but not in the type library of core, which has no DOM. */
declare const WebAssembly: { compile: (bytes: Uint8Array<ArrayBuffer>) => Promise<object> }

/**
 * Compiles a decoder once, from the file that ships with its package.
 * @example const decoder = await compileWasm(bytes)
 */
export const compileWasm = (bytes: Uint8Array): Promise<object> => WebAssembly.compile(bytes as Uint8Array<ArrayBuffer>)
