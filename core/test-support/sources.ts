import { readdirSync, readFileSync } from 'node:fs'
import type { SourceFile } from '../intake/source-file.ts'

/** Folders of the demo's sources. */
export const demoFolders = [
  'boathouse_gate',
  'mooring_bell',
  'canvas_awning',
  'ferry_hull',
  'galley_stove',
  'channel_buoy',
  'timetable_board',
  'sluice_walk',
  'landing_planks',
  'rain_hat',
  'bow_pennants',
] as const
export type DemoFolder = (typeof demoFolders)[number]

/** The committed sources of one demo item. */
export function demoSources(folder: DemoFolder): SourceFile[] {
  const place = new URL(`../../demo/sources/${folder}/`, import.meta.url)
  return readdirSync(place)
    .sort()
    .map((path) => ({ path, bytes: new Uint8Array(readFileSync(new URL(encodeURIComponent(path), place))) }))
}

export const textFile = (path: string, text: string): SourceFile => ({ path, bytes: new TextEncoder().encode(text) })
