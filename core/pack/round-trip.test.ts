import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { bringIn, startOf } from '../crate/bring-in.ts'
import { takeOutOfArchive } from '../crate/take.ts'
import { prepareItem } from '../crate/prepare-item.ts'
import { builtInRulebooks, kindOf } from '../game/load.ts'
import { rulebookSchema, type Kind, type Rulebook } from '../game/schema.ts'
import { documentToGlb } from '../item/io.ts'
import { listViewParts } from '../item/parts.ts'
import { readArchive } from '../support/archive.ts'
import { mirroredGames } from '../test-support/mirrored-games.ts'
import { oddItems } from '../test-support/odd-items.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { demoSources, type DemoFolder } from '../test-support/sources.ts'
import { newEntryId } from '../worklist/entry.ts'
import { prepareWorklist } from '../worklist/prepare.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { runWorklist } from '../worklist/run.ts'
import { packItems } from './pack-crate.ts'

/** The built-in game with other files: GLTF beside a BIN, blocks in KTX2. */
const otherFiles = rulebookSchema.parse({
  ...structuredClone(tarnAndTiller),
  id: 'tarn-other',
  files: {
    ...structuredClone(tarnAndTiller.files),
    mesh: { ...tarnAndTiller.files.mesh, writer: 'gltf', ending: '.gltf' },
    texture: { ...tarnAndTiller.files.texture, writer: 'ktx2', ending: '.ktx2' },
    archive: { ...tarnAndTiller.files.archive, writer: 'zip-stored', folders: true },
  },
})
/** Packing tight takes longest; one game that does is enough. */
const stored = (rulebook: Rulebook): Rulebook =>
  rulebookSchema.parse({
    ...structuredClone(rulebook),
    files: { ...structuredClone(rulebook.files), archive: { ...rulebook.files.archive, writer: 'zip-stored' } },
  })
const games: readonly Rulebook[] = [tarnAndTiller, ...mirroredGames.map(stored), otherFiles]
const gamesOfOthers = [...games, ...builtInRulebooks().filter(({ id }) => id !== tarnAndTiller.id)]

/** Odd items that have faces. */
const withFaces = oddItems.filter(([, make]) => listViewParts(make()).length > 0)

const duskyHat = {
  step: 'recolour-looks',
  parameters: {
    material: 'hat_oilskin',
    variants: [
      { name: 'Dusk', hueDegrees: 90, saturation: 0, lightness: 0, colour: '#2f5f9e', mode: 'tint', strength: 0.5 },
    ],
    hues: [],
    greyChroma: 0.02,
    protect: '',
  },
}

async function packed(folder: DemoFolder, kindId: string, rulebook: Rulebook): Promise<Uint8Array> {
  const kind = kindOf(rulebook, kindId)
  const [{ item, files }] = await bringIn(demoSources(folder), kindId, { models: kind.models }, [])
  const start = await startOf(item, async (sha) => files.find((file) => file.sha256 === sha)?.file.bytes ?? null)
  const options = { rulebook, kind, store: memoryStore() }
  const worklist = await prepareWorklist(start, options)
  const before = worklist.findIndex(({ step }) => step === 'clean-names')
  if (folder === 'rain_hat')
    worklist.splice(before, 0, { id: newEntryId(worklist), on: true, reason: null, ...duskyHat })
  const { document } = await runWorklist(start, worklist, options)
  return (await packItems([{ name: folder, kind, document }], rulebook, folder)).bytes
}

/** An item of whatever shape, prepared with nobody helping and packed. */
async function packedAlone(document: Document, kind: Kind, rulebook: Rulebook): Promise<Uint8Array> {
  const source = { path: 'thing.glb', bytes: await documentToGlb(document) }
  const [{ item, files }] = await bringIn([source], kind.id, {}, [])
  const start = await startOf(item, async (sha) => files.find((file) => file.sha256 === sha)?.file.bytes ?? null)
  const { result } = await prepareItem(start, { rulebook, kind, store: memoryStore() })
  return (await packItems([{ name: 'thing', kind, document: result.document }], rulebook, 'thing')).bytes
}

async function packedAgain(pack: Uint8Array, folder: string, kindId: string, rulebook: Rulebook): Promise<Uint8Array> {
  const { item, files } = await takeOutOfArchive(pack, `${folder}.zip`, folder, [], [rulebook])
  const { document } = await startOf(item, async (sha) => files.find((file) => file.sha256 === sha)?.file.bytes ?? null)
  return (await packItems([{ name: item.name, kind: kindOf(rulebook, kindId), document }], rulebook, folder)).bytes
}

describe.each(games)('what is packed for $id, taken out and packed again', (rulebook) => {
  it.each([
    ['a thing that moves', 'mooring_bell', 'mover'],
    ['two models with two looks', 'rain_hat', 'gear'],
    ['a finish', 'landing_planks', 'finish'],
    ['a thing with solids and weight', 'channel_buoy', 'loose'],
    ['a board', 'timetable_board', 'sign'],
  ] as const)(
    'is the same, byte for byte: %s',
    async (_what, folder, kindId) => {
      const first = await packed(folder, kindId, rulebook)
      const again = await packedAgain(first, folder, kindId, rulebook)
      const [before, after] = [first, again].map((bytes) => readArchive(bytes, 'pack.zip'))
      expect([...after.keys()]).toEqual([...before.keys()])
      const changed = [...before].filter(([path, bytes]) => Buffer.compare(bytes, after.get(path) ?? bytes) !== 0)
      expect(changed.map(([path]) => path)).toEqual([])
      expect(Buffer.compare(first, again)).toBe(0)
    },
    60_000,
  )
})

describe.each(gamesOfOthers)('what a stranger brought, packed for $id, taken out and packed again', (rulebook) => {
  it.each(withFaces)('is the same, byte for byte: an item that is %s', async (_what, make) => {
    const document = make()
    const moves = document.getRoot().listAnimations().length > 0
    const kinds = rulebook.kinds.filter(({ mesh }) => mesh !== null)
    const kind = (moves && kinds.find(({ motionAsked }) => motionAsked)) || kinds[0]
    const first = await packedAlone(document, kind, rulebook)
    const again = await packedAgain(first, 'thing', kind.id, rulebook)
    const [before, after] = [first, again].map((bytes) => readArchive(bytes, 'pack.zip'))
    const changed = [...before].filter(([path, bytes]) => Buffer.compare(bytes, after.get(path) ?? bytes) !== 0)
    expect(changed.map(([path]) => path)).toEqual([])
    expect(Buffer.compare(first, again)).toBe(0)
  })
})
