import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { bringIn, startKey } from '../core/crate/bring-in.ts'
import { writeCrateFile } from '../core/crate/file.ts'
import { newCrate } from '../core/crate/schema.ts'
import { kindOf, rulebookById } from '../core/rulebook/load.ts'
import type { ReadOptions } from '../core/intake/reader.ts'
import { prepareWorklist } from '../core/worklist/prepare.ts'
import { memoryStore } from '../core/worklist/result-store.ts'

/** Packs the committed sources into the demo crate that the application puts on the shelf. */
const rulebook = rulebookById('tarn-and-tiller')
const crate = newCrate('Otterby Landing', rulebook, [])
const sources = new Map<string, Uint8Array>()

const items: { folder: string; kind: string; name: string; reading: ReadOptions; prepared: boolean }[] = [
  { folder: 'boathouse_gate', kind: 'prop', name: 'Boathouse gate', reading: { metresPerUnit: 0.01, up: '+z' }, prepared: false },
  { folder: 'mooring_bell', kind: 'mover', name: 'Mooring bell', reading: {}, prepared: true },
]

for (const { folder, kind, name, reading, prepared } of items) {
  const place = new URL(`./sources/${folder}/`, import.meta.url)
  const files = readdirSync(place).sort().map((path) => ({ path, bytes: new Uint8Array(readFileSync(new URL(path, place))) }))
  const [{ item, document, files: used }] = await bringIn(files, kind, reading, crate.items.map((each) => each.id), name)
  for (const { sha256, file } of used) sources.set(sha256, file.bytes)
  const worklist = prepared ? await prepareWorklist({ key: startKey(item), document }, { rulebook, kind: kindOf(rulebook, kind), store: memoryStore() }) : []
  crate.items.push({ ...item, worklist })
}

const target = new URL('../public/demo/', import.meta.url)
mkdirSync(target, { recursive: true })
writeFileSync(new URL('otterby-landing.zip', target), writeCrateFile({ crate, sources }))
