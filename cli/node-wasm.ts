import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { provideWasm, wasmFiles } from '../core/document/wasm-files.ts'

const require = createRequire(import.meta.url)

/** In Node, decoders are read from their packages. Imported for its effect. */
provideWasm(async (file) => new Uint8Array(await readFile(require.resolve(wasmFiles[file]))))
