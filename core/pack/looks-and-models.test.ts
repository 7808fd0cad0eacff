import { describe, expect, it } from 'vitest'
import { bringIn, startOf } from '../crate/bring-in.ts'
import { listLooks } from '../item/looks.ts'
import { listAllParts } from '../item/parts.ts'
import { listMaterialMaps } from '../item/source-maps.ts'
import { readArchive } from '../support/archive.ts'
import { kindOf, rulebookById } from '../game/load.ts'
import { rulebookSchema } from '../game/schema.ts'
import { demoSources } from '../test-support/sources.ts'
import { loadPack } from '../trial/load-pack.ts'
import { prepareWorklist } from '../worklist/prepare.ts'
import { newEntryId } from '../worklist/entry.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { runWorklist } from '../worklist/run.ts'
import { openPack } from './open-pack.ts'
import { openItem } from './take-item.ts'
import { packItems } from './pack-crate.ts'

const rulebook = rulebookById('tarn-and-tiller')

/** A demo item through Prepare, further steps, and into a pack. */
async function packDemo(
  folder: 'rain_hat' | 'landing_planks',
  kindId: string,
  more: { step: string; parameters: Record<string, unknown> }[] = [],
  game = rulebook,
) {
  const kind = kindOf(game, kindId)
  const [{ item, files }] = await bringIn(demoSources(folder), kindId, { models: kind.models }, [])
  const start = await startOf(item, async (sha) => files.find((file) => file.sha256 === sha)?.file.bytes ?? null)
  const options = { rulebook: game, kind, store: memoryStore() }
  const worklist = await prepareWorklist(start, options)
  const before = worklist.findIndex((entry) => entry.step === 'compress-maps')
  for (const each of more) worklist.splice(before, 0, { id: newEntryId(worklist), on: true, reason: null, ...each })
  const { document, failed } = await runWorklist(start, worklist, options)
  expect(failed).toBe(false)
  const pack = await packItems([{ name: folder, kind, document }], game, 'x')
  return { item, worklist, pack, files: readArchive(pack.bytes, 'pack.zip'), log: loadPack(pack.bytes, game) }
}
const json = (bytes: Uint8Array | undefined): Record<string, unknown> =>
  JSON.parse(new TextDecoder().decode(bytes)) as Record<string, unknown>

describe('an item with two models', () => {
  it('comes from two files as one item, shows one material in both, and its looks change both', async () => {
    const parameters = {
      material: 'hat_oilskin',
      variants: [
        {
          name: 'Storm blue',
          hueDegrees: 0,
          saturation: 0,
          lightness: 0,
          colour: '#2f5f9e',
          mode: 'tint',
          strength: 1,
        },
      ],
      hues: [],
      greyChroma: 0.02,
      protect: '',
    }
    const { item, worklist, files, log, pack } = await packDemo('rain_hat', 'gear', [
      { step: 'recolour-looks', parameters },
    ])
    expect(item).toMatchObject({ name: 'Rain hat', models: { lying: 'rain_hat_lying.obj', worn: 'rain_hat_worn.obj' } })
    expect(worklist.map((entry) => entry.step)).toContain('share-material')
    expect(json(files.get('items/gear/rain_hat/entry.json'))).toMatchObject({
      models: { lying: 'items/gear/rain_hat/rain_hat_lying.glb', worn: 'items/gear/rain_hat/rain_hat_worn.glb' },
      looks: ['items/gear/rain_hat/looks/plain.json', 'items/gear/rain_hat/looks/storm_blue.json'],
    })
    const [plain, blue] = ['plain', 'storm_blue'].map(
      (look) =>
        json(files.get(`items/gear/rain_hat/looks/${look}.json`))['materials'] as Record<
          string,
          { maps: { colour: string } }
        >,
    )
    expect(Object.keys(blue)).toEqual(Object.keys(plain))
    const [name] = Object.keys(plain)
    expect(files.has(blue[name].maps.colour)).toBe(true)
    expect(blue[name].maps.colour).not.toBe(plain[name].maps.colour)
    expect(log.log.filter(({ level }) => level !== 'told')).toEqual([])
    expect(log.loads).toBe(true)
    const opened = openPack(pack.bytes, 'hat.zip', [rulebook])
    expect(opened.items).toMatchObject([
      {
        name: 'rain_hat',
        kind: 'gear',
        meshes: [
          { model: 'lying', path: expect.stringMatching(/lying\.glb$/) },
          { model: 'worn', path: expect.stringMatching(/worn\.glb$/) },
        ],
      },
    ])
    const taken = await openItem(opened, 'rain_hat')
    expect(listLooks(taken)).toEqual(['plain', 'storm_blue'])
    expect(new Set(listAllParts(taken).map(({ extras }) => extras.model))).toEqual(new Set(['lying', 'worn']))
  })
})

describe('a finish', () => {
  it('is a look and its maps without a mesh', async () => {
    const { files, log, worklist, pack } = await packDemo('landing_planks', 'finish')
    const opened = openPack(pack.bytes, 'planks.zip', [rulebook])
    expect(opened.items).toMatchObject([{ name: 'landing_planks', meshes: [] }])
    const [material] = (await openItem(opened, 'landing_planks')).getRoot().listMaterials()
    expect(listMaterialMaps(material).map(({ texture }) => texture.getName())).toEqual(
      expect.arrayContaining(['planks_col', 'planks_nrm', 'planks_mix']),
    )
    expect([...files.keys()].some((path) => path.endsWith('.glb'))).toBe(false)
    expect(worklist.every((entry) => !['scale-to-game', 'weld', 'two-sided'].includes(entry.step))).toBe(true)
    const materials = json(files.get('items/finishes/landing_planks/looks/plain.json'))['materials'] as Record<
      string,
      { shading: string; maps: object }
    >
    expect(Object.values(materials)).toMatchObject([
      {
        shading: 'mixed',
        maps: {
          colour: expect.stringMatching(/planks_col\.dds$/),
          normal: expect.stringMatching(/planks_nrm\.dds$/),
          mixed: expect.stringMatching(/planks_mix\.dds$/),
        },
      },
    ])
    expect(log.loads).toBe(true)
  })
  it('writes the text file of each material where the rulebook has a template, without lines that stay empty', async () => {
    const game = rulebookSchema.parse({
      ...rulebook,
      files: {
        ...rulebook.files,
        paths: { ...rulebook.files.paths, material: 'materials/{material}.txt' },
        materialTemplate: ['texture {colour}', 'bumps {normal}', 'flags {flags}', 'walks {surface}', 'end'],
      },
    })
    const { files } = await packDemo('landing_planks', 'finish', [], game)
    expect(
      new TextDecoder().decode(files.get('materials/planks_albedo.txt') ?? files.get('materials/planks.txt')),
    ).toBe(
      'texture items/finishes/landing_planks/maps/planks_col\nbumps ' +
        'items/finishes/landing_planks/maps/planks_nrm\nwalks timber\nend\n',
    )
  })
})
