/** See `compiled.mjs`. */
export function compiledCommandLine(root: string): Promise<string>
