/** The JSON of a file, or undefined when there is none or it is damaged: a schema says the rest. */
export function readJson(bytes: Uint8Array | undefined): unknown {
  if (!bytes) return undefined
  try {
    return JSON.parse(new TextDecoder().decode(bytes)) as unknown
  } catch {
    return undefined
  }
}
