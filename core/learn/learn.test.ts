import type { Document } from '@gltf-transform/core'
import { beforeAll, describe, expect, it } from 'vitest'
import { bringIn, startOf } from '../crate/bring-in.ts'
import { kindOf, rulebookById } from '../game/load.ts'
import { rulebookSchema, type Rulebook } from '../game/schema.ts'
import { firstSlot } from '../game/slots.ts'
import { packItems } from '../pack/pack-crate.ts'
import { readArchive } from '../support/archive.ts'
import { demoSources, type DemoFolder } from '../test-support/sources.ts'
import { mirroredGames } from '../test-support/mirrored-games.ts'
import { prepareWorklist } from '../worklist/prepare.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { runWorklist } from '../worklist/run.ts'
import { learnFrom, rulebookOf, type Learned } from './index.ts'
import { fieldSentence } from './learn-entry-fields.ts'

type Thing = [folder: DemoFolder, kind: string]

const ready = new Map<string, Promise<Document>>()

/** A thing of the landing, prepared for a game once. */
function prepared(rulebook: Rulebook, folder: DemoFolder, kindId: string): Promise<Document> {
  const key = `${rulebook.id} ${folder} ${kindId}`
  const known = ready.get(key) ?? prepare(rulebook, folder, kindId)
  ready.set(key, known)
  return known
}

async function prepare(rulebook: Rulebook, folder: DemoFolder, kindId: string): Promise<Document> {
  const kind = kindOf(rulebook, kindId)
  const reading = folder === 'channel_buoy' ? { metresPerUnit: 0.001, up: '+z' as const } : {}
  const [{ item, files }] = await bringIn(demoSources(folder), kindId, { ...reading, models: kind.models }, [])
  const start = await startOf(item, async (sha) => files.find((file) => file.sha256 === sha)?.file.bytes ?? null)
  const options = { rulebook, kind, store: memoryStore() }
  return (await runWorklist(start, await prepareWorklist(start, options), options)).document
}

/** A demo pack of a game: things of the landing, prepared and packed for it. */
async function demoPack(rulebook: Rulebook, things: readonly Thing[]): Promise<Uint8Array> {
  const slots = new Set<string | null>()
  const items = []
  for (const [folder, kindId] of things) {
    const free = rulebook.slots?.listed.find(({ slot, kinds }) => kinds.includes(kindId) && !slots.has(slot))
    const slot = free?.slot ?? firstSlot(rulebook, kindId)
    slots.add(slot)
    const document = await prepared(rulebook, folder, kindId)
    items.push({ name: folder, kind: kindOf(rulebook, kindId), document, slot })
  }
  return (await packItems(items, rulebook, 'x')).bytes
}

const of = (learned: Learned, path: string) => learned.lines.find((line) => line.path.join('.') === path)
const valueOf = (learned: Learned, path: string): unknown => of(learned, path)?.value

/** A field of a rulebook by its path. */
const fieldOf = (rulebook: Rulebook, path: string): unknown =>
  path.split('.').reduce<unknown>((at, step) => (at as Record<string, unknown>)[step], rulebook)

const exact = [
  'files.archive.writer',
  'files.manifest.writer',
  'files.manifest.path',
  'files.manifest.checksums',
  'files.entry.writer',
  'files.look.writer',
  'files.mesh.writer',
  'files.mesh.images',
  'files.paths.mesh',
  'files.paths.entry',
  'files.paths.look',
  'space.up',
]
const ofMaps = ['files.texture.writer', 'files.paths.map', 'maps.powersOfTwo', 'maps.mipmaps', 'materials.naming.form']

interface LearnedGame {
  rulebook: Rulebook
  things: readonly Thing[]
  fields: readonly string[]
}
const games: LearnedGame[] = [
  {
    rulebook: rulebookById('tarn-and-tiller'),
    things: [
      ['mooring_bell', 'mover'],
      ['channel_buoy', 'loose'],
    ],
    fields: [...exact, ...ofMaps, 'solids.name', 'materials.naming.surfaceMark', 'materials.naming.flagMark'],
  },
  {
    rulebook: rulebookById('hollin-keep'),
    things: [
      ['channel_buoy', 'furnishing'],
      ['galley_stove', 'furnishing'],
    ],
    fields: [
      ...exact,
      ...ofMaps,
      'files.archive.folders',
      'files.texture.topDown',
      'files.texture.packed',
      'materials.naming.ofRole',
      'files.paths.material',
      'files.materialTemplate',
    ],
  },
  {
    rulebook: rulebookById('pegboard-parish'),
    things: [
      ['channel_buoy', rulebookById('pegboard-parish').kinds[0].id],
      ['galley_stove', rulebookById('pegboard-parish').kinds[0].id],
    ],
    fields: [...exact, 'halfBlocks.words', 'materials.naming.form'],
  },
]

describe.each(games)('learned from its own packs: $rulebook.title', ({ rulebook, things, fields }) => {
  let learned: Learned
  beforeAll(async () => {
    learned = await learnFrom([{ path: 'demo.zip', bytes: await demoPack(rulebook, things) }])
  })

  it.each(fields)('%s is as the rulebook has it', (path) => {
    const wanted = fieldOf(rulebook, path)
    const line = of(learned, path) ?? of(learned, path.split('.').slice(0, -1).join('.'))
    const value =
      line?.path.join('.') === path
        ? line.value
        : (line?.value as Record<string, unknown>)?.[path.split('.').at(-1) ?? '']
    expect([path, value, line?.against]).toEqual([path, wanted, []])
  })

  it('limits are what was seen, never more than the game takes, and never said to be sure', () => {
    for (const { path, value, sureness } of learned.lines.filter((line) => line.path[0] === 'kinds')) {
      const kind = kindOf(rulebook, path[1])
      const seen = value as Rulebook['kinds'][number]
      expect(seen.category).toBe(kind.category)
      expect(seen.mesh?.triangles ?? 0).toBeLessThanOrEqual(kind.mesh?.triangles ?? 0)
      expect(sureness).toBe('guess')
    }
    const largest = valueOf(learned, 'maps.largestPixels')
    if (rulebook.maps.roles.length > 0) expect(largest).toBeLessThanOrEqual(rulebook.maps.largestPixels)
  })

  it('roles of maps have their endings, codecs and channels', () => {
    for (const { path, value } of learned.lines.filter(
      ({ path: [maps, roles] }) => maps === 'maps' && roles === 'roles',
    )) {
      const role = rulebook.maps.roles.find((each) => each.role === path[2])
      const seen = value as Rulebook['maps']['roles'][number]
      expect([seen.ending, seen.channels, seen.colourSpace]).toEqual([role?.ending, role?.channels, role?.colourSpace])
      expect(role?.codecs).toEqual(expect.arrayContaining(seen.codecs))
    }
  })

  it('makes a rulebook that holds together, and takes the pack that it was learned from', async () => {
    const { rulebook: made, faults } = rulebookOf(learned, learned.lines, { id: 'learned', title: 'Learned' })
    expect(faults).toEqual([])
    expect(rulebookSchema.safeParse(made).success).toBe(true)
  })
})

describe('what is learned', () => {
  const trade = mirroredGames.find(({ id }) => id === 'tarn-trade') ?? mirroredGames[0]
  let learned: Learned
  let measured: Learned
  beforeAll(async () => {
    const bytes = await demoPack(trade, [
      ['galley_stove', 'prop'],
      ['channel_buoy', 'loose'],
    ])
    learned = await learnFrom([{ path: 'demo.zip', bytes }])
    measured = await learnFrom([{ path: 'demo.zip', bytes }], [{ path: 'galley_stove.dae', metres: 1 }])
  })

  it('knows texts, what stands between, and the words of a game for its fields', () => {
    expect(valueOf(learned, 'files.entry.writer')).toBe('text')
    expect(valueOf(learned, 'files.text.between')).toBe(':')
    expect(valueOf(learned, 'files.words.entry.mesh')).toBe(trade.files.words.entry['mesh'])
    expect(valueOf(learned, 'files.words.entry.looks')).toBe('skins')
    expect(valueOf(learned, 'files.words.entry.item')).toBe('name')
    for (const field of ['look', 'materials', 'maps', 'shading'] as const)
      expect([field, valueOf(learned, `files.words.look.${field}`)]).toEqual([field, trade.files.words.look[field]])
    const shadings = valueOf(learned, 'materials.shadingModels') as Rulebook['materials']['shadingModels']
    const known = trade.materials.shadingModels.map(({ name }) => name)
    expect(shadings.length).toBeGreaterThan(0)
    expect(shadings.filter(({ name }) => !known.includes(name))).toEqual([])
  })
  it('takes what COLLADA declares of up and unit before what things look like', () => {
    expect(of(learned, 'space.up')).toMatchObject({ value: '+z', sureness: 'sure', why: 'what the meshes declare' })
    expect(of(learned, 'space.unit.metres')).toMatchObject({ value: 0.5, sureness: 'sure' })
  })
  it('calls what no file showed in a way that the learned names allow', () => {
    const lines = learned.lines.filter(({ path: [topic] }) => topic !== 'solids' && topic !== 'levels')
    const dashed = lines.map((line) =>
      line.path.join('.') === 'names.pattern' ? { ...line, value: '[a-z][a-z0-9-]*' } : line,
    )
    const endings = dashed.filter(({ path: [topic, roles] }) => topic !== 'maps' || roles !== 'roles')
    const { faults } = rulebookOf(learned, endings, { id: 'dashed', title: 'Dashed' })
    expect(faults.filter((fault) => !fault.startsWith('maps.'))).toEqual([])
  })
  it('takes the unit from the height of a thing that the modder knows', () => {
    const line = of(measured, 'space.unit.metres')
    expect(line).toMatchObject({ sureness: 'sure', files: 1 })
    expect(line?.value).toBeGreaterThan(0.1)
  })
  it('takes the words of materials’ texts apart, whatever the nearest game writes', async () => {
    const keep = rulebookById('hollin-keep')
    const own = structuredClone(keep)
    own.files.materialTemplate = ['// of the mill', 'skin = {colour}', 'stuff: {surface};', 'as {flags}', 'end']
    own.files.paths.material = 'stuff/{material}.mat'
    const seen = await learnFrom([{ path: 'demo.zip', bytes: await demoPack(own, [['galley_stove', 'furnishing']]) }])
    expect(valueOf(seen, 'files.paths.material')).toBe('stuff/{material}.mat')
    const template = valueOf(seen, 'files.materialTemplate') as string[]
    // A name that is the path of the map may be either.
    expect(template.map((line) => line.replace('{material}', '{colour}'))).toEqual(
      own.files.materialTemplate.filter((line) => !line.includes('{flags}') || template.includes(line)),
    )
    expect(template).toContain('stuff: {surface};')
  })
  it('tells what entries say besides, with the range of numbers and the words that come again', async () => {
    const pack = readArchive(
      await demoPack(trade, [
        ['galley_stove', 'prop'],
        ['channel_buoy', 'loose'],
      ]),
      'x',
    )
    const said = ['cost: 12\nmakes: smoke\nlit: yes\n', 'cost: 3.5\nmakes: smoke\nlit: no\nnote: floats\n']
    const entries = [...pack.keys()].filter((path) => path.endsWith('entry.txt'))
    const files = [...pack].map(([path, bytes]) => ({
      path,
      bytes: entries.includes(path)
        ? new TextEncoder().encode(new TextDecoder().decode(bytes) + said[entries.indexOf(path)])
        : bytes,
    }))
    const { entryFields, lines } = await learnFrom(files)
    const catalogue = lines.find(({ path }) => path.join('.') === 'catalogue.fields')?.value
    expect(catalogue).toEqual(
      expect.arrayContaining([
        expect.objectContaining({
          key: 'cost',
          value: { sort: 'number', unit: '', least: 0, most: 1e6, whole: false },
        }),
        expect.objectContaining({ key: 'lit', value: { sort: 'yes-no' } }),
        expect.objectContaining({ key: 'makes', title: 'Makes', needed: false }),
      ]),
    )
    expect(entryFields.filter(({ place }) => ['cost', 'makes', 'lit', 'note'].includes(place))).toEqual([
      { place: 'cost', entries: 2, of: 2, holds: { sort: 'number', least: 3.5, most: 12, whole: false } },
      { place: 'makes', entries: 2, of: 2, holds: { sort: 'word', words: ['smoke'] } },
      { place: 'lit', entries: 2, of: 2, holds: { sort: 'yes-no' } },
      { place: 'note', entries: 1, of: 2, holds: { sort: 'word', words: ['floats'] } },
    ])
    expect(entryFields.map(fieldSentence)).toContain('a number, 3.5 to 12, in all 2')
  })
  it('shows what contradicts itself, file by file', async () => {
    const [one, two] = await Promise.all([
      demoPack(rulebookById('tarn-and-tiller'), [['channel_buoy', 'loose']]),
      demoPack(
        {
          ...rulebookById('tarn-and-tiller'),
          files: {
            ...rulebookById('tarn-and-tiller').files,
            archive: { writer: 'zip-stored', folders: false, largestBytes: 1e8, base: null },
          },
        },
        [['mooring_bell', 'mover']],
      ),
    ])
    const both = await learnFrom([
      { path: 'one.zip', bytes: one },
      { path: 'two.zip', bytes: two },
    ])
    expect(of(both, 'files.archive.writer')).toMatchObject({
      sureness: 'guess',
      against: [{ file: 'two.zip', value: 'zip-stored' }],
    })
  })
  it('comes from loose meshes and pictures too, which no entry names', async () => {
    const pack = readArchive(
      await demoPack(trade, [
        ['galley_stove', 'prop'],
        ['channel_buoy', 'loose'],
      ]),
      'x',
    )
    const loose = [...pack]
      .filter(([path]) => /\.(dae|png)$/.test(path))
      .map(([path, bytes]) => ({ path: `mod/${path.split('/').pop() ?? ''}`, bytes }))
    const found = await learnFrom(loose)
    expect(valueOf(found, 'files.archive.writer')).toBe('folder')
    expect(valueOf(found, 'files.mesh.writer')).toBe('dae')
    expect(valueOf(found, 'space.up')).toBe('+z')
    expect(valueOf(found, 'files.texture.writer')).toBe('png')
    const role = valueOf(found, 'maps.roles.colour') as Rulebook['maps']['roles'][number]
    expect([role.ending, role.codecs]).toEqual(['_col', ['none']])
    expect(rulebookOf(found, found.lines, { id: 'loose', title: 'Loose' }).faults).toEqual([])
  })
  it('says so where there is nothing to learn from', async () => {
    await expect(learnFrom([{ path: 'a.txt', bytes: new TextEncoder().encode('a = b') }])).rejects.toThrow(
      /neither a mesh nor a picture/,
    )
  })
})
