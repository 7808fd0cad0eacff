import { readdirSync, readFileSync } from 'node:fs'
import type { SourceFile } from '../intake/source-file.ts'

/** The committed sources of one demo item. */
export function demoSources(folder: 'boathouse_gate' | 'mooring_bell'): SourceFile[] {
  const place = new URL(`../../demo/sources/${folder}/`, import.meta.url)
  return readdirSync(place).sort().map((path) => ({ path, bytes: new Uint8Array(readFileSync(new URL(path, place))) }))
}

export const textFile = (path: string, text: string): SourceFile => ({ path, bytes: new TextEncoder().encode(text) })
