import { builtInGame } from '../core/crate/game-file.ts'
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { bringIn, startKey } from '../core/crate/bring-in.ts'
import { withSlots } from '../core/crate/slots.ts'
import { writeCrateFile } from '../core/crate/file.ts'
import { newCrate } from '../core/crate/schema.ts'
import { kindOf } from '../core/game/load.ts'
import type { ReadOptions } from '../core/intake/reader.ts'
import { newEntryId } from '../core/worklist/entry.ts'
import { prepareWorklist } from '../core/worklist/prepare.ts'
import { memoryStore } from '../core/worklist/result-store.ts'
import '../cli/node-assets.ts'

/**
 * Packs the committed sources into the demo crates that the application puts on the shelf: Otterby Landing, which can
 * be packed; Otterby outfit, six items whose work is their surface; Otterby arrivals, whose items lie there as they
 * came; and Hollin yard and Parish green, some of the same things for two other games.
 */
interface DemoItem {
  folder: string
  kind: string
  /** Given where the folder is one item. */
  name?: string
  reading?: ReadOptions
  /** In a game of numbered places: which it stands in for. */
  slot?: string
  prepared?: boolean
  /** What the modder has said in its entry. */
  entry?: Record<string, string | number | string[]>
}

const crates: Record<string, { title: string; game: string; items: DemoItem[] }> = {
  'otterby-landing.zip': {
    title: 'Otterby Landing',
    game: 'tarn-and-tiller',
    items: [
      { folder: 'boathouse_gate', kind: 'prop', name: 'Boathouse gate', reading: { metresPerUnit: 0.01, up: '+z' } },
      {
        folder: 'mooring_bell',
        kind: 'mover',
        name: 'Mooring bell',
        prepared: true,
        entry: {
          about: 'Calls the ferry across in fog.',
          price: 95,
          idle: 'sway',
          lakes: ['otterby_water', 'tarn_head'],
        },
      },
    ],
  },
  'otterby-outfit.zip': {
    title: 'Otterby outfit',
    game: 'tarn-and-tiller',
    items: [
      { folder: 'landing_planks', kind: 'finish', name: 'Landing planks' },
      { folder: 'timetable_board', kind: 'sign', name: 'Timetable board' },
      { folder: 'channel_buoy', kind: 'loose', name: 'Channel buoy' },
      { folder: 'rain_hat', kind: 'gear', name: 'Rain hat' },
      { folder: 'galley_stove', kind: 'fitting', name: 'Galley stove' },
      { folder: 'ferry_hull', kind: 'prop', name: 'Ferry hull' },
    ],
  },
  'otterby-arrivals.zip': {
    title: 'Otterby arrivals',
    game: 'tarn-and-tiller',
    items: [
      { folder: 'galley_stove', kind: 'fitting', name: 'Galley stove' },
      { folder: 'canvas_awning', kind: 'bender', name: 'Canvas awning' },
      { folder: 'ferry_hull', kind: 'prop', name: 'Ferry hull' },
      { folder: 'channel_buoy', kind: 'loose', name: 'Channel buoy' },
      { folder: 'timetable_board', kind: 'sign', name: 'Timetable board' },
      { folder: 'sluice_walk', kind: 'course', name: 'Sluice walk' },
      { folder: 'landing_planks', kind: 'finish', name: 'Landing planks' },
      { folder: 'rain_hat', kind: 'gear' },
      { folder: 'bow_pennants', kind: 'addition', name: 'Bow pennants' },
      { folder: 'ferry_quay', kind: 'ground', name: 'Ferry quay' },
    ],
  },
  'hollin-yard.zip': {
    title: 'Hollin yard',
    game: 'hollin-keep',
    items: [
      {
        folder: 'boathouse_gate',
        kind: 'furnishing',
        name: 'Boathouse gate',
        reading: { metresPerUnit: 0.01, up: '+z' },
        slot: 'k-00e',
      },
      { folder: 'galley_stove', kind: 'furnishing', name: 'Galley stove', slot: 'k-015' },
      { folder: 'mooring_bell', kind: 'hanging', name: 'Mooring bell', slot: 'k-105' },
    ],
  },
  'parish-green.zip': {
    title: 'Parish green',
    game: 'pegboard-parish',
    items: [
      {
        folder: 'boathouse_gate',
        kind: 'plotpiece',
        name: 'Boathouse gate',
        reading: { metresPerUnit: 0.01, up: '+z' },
        prepared: true,
      },
      { folder: 'ferry_hull', kind: 'plotpiece', name: 'Ferry hull' },
      { folder: 'channel_buoy', kind: 'kerbpiece', name: 'Channel buoy' },
    ],
  },
}

const target = new URL('../public/demo/', import.meta.url)
mkdirSync(target, { recursive: true })

for (const [file, { title, game: id, items }] of Object.entries(crates)) {
  const { game, stock } = await builtInGame(id)
  const { rulebook } = game
  const crate = newCrate(title, game, [])
  const sources = new Map<string, Uint8Array>()
  if (game.stock && stock) sources.set(game.stock.sha256, stock)
  for (const { folder, kind, name, reading, slot, prepared, entry } of items) {
    const place = new URL(`./sources/${folder}/`, import.meta.url)
    const files = readdirSync(place)
      .sort()
      .map((path) => ({ path, bytes: new Uint8Array(readFileSync(new URL(encodeURIComponent(path), place))) }))
    for (const { item, document, files: used } of await bringIn(
      files,
      kind,
      { ...reading, models: kindOf(rulebook, kind).models },
      crate.items.map((each) => each.id),
      name,
    )) {
      for (const { sha256, file: source } of used) sources.set(sha256, source.bytes)
      const worklist = prepared
        ? await prepareWorklist(
            { key: startKey(item), document },
            { rulebook, kind: kindOf(rulebook, kind), store: memoryStore() },
          )
        : []
      if (entry)
        worklist.push({
          id: newEntryId(worklist),
          step: 'write-entry',
          on: true,
          parameters: { from: '', fields: entry, rows: {} },
          reason: 'What its entry says besides what is usual.',
          byHand: true,
        })
      crate.items.push({ ...item, worklist, answers: { kind }, ...(slot === undefined ? {} : { slot }) })
    }
  }
  writeFileSync(new URL(file, target), writeCrateFile({ crate: withSlots(crate), sources }))
}
// The page asks for this list: where the demo was not made there is none.
writeFileSync(new URL('index.json', target), JSON.stringify(Object.keys(crates)))
