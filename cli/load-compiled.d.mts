/** See `load-compiled.mjs`. */
export function loadCompiled<Entry>(folder: string, call: string): { entry: Entry; end: () => void }
