import { beforeAll, describe, expect, it } from 'vitest'
import { assetBytes } from '../support/asset-files.ts'
import { listViewParts } from '../item/parts.ts'
import { listSolids } from '../item/annotations/solid/list.ts'
import { runWorklist } from '../worklist/run.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { prepareDemo, tarnAndTiller } from '../test-support/prepared-gate.ts'
import { demoSources } from '../test-support/sources.ts'
import { packItems } from '../pack/pack-crate.ts'
import { kindOf } from '../game/load.ts'
import { bringIn, startOf } from './bring-in.ts'
import { writeCrateFile } from './file.ts'
import { newCrate } from './schema.ts'
import { contentsOf, takeOutOfArchive, textureOf, type TakenItem } from './take.ts'
import { takeOutParts } from './take-parts.ts'

const bytesOf = (taken: TakenItem) => async (sha256: string) =>
  taken.files.find((each) => each.sha256 === sha256)?.file.bytes ?? null

describe('taking things out', () => {
  let pack: Uint8Array
  beforeAll(async () => {
    const { result } = await prepareDemo('boathouse_gate', 'prop')
    pack = (
      await packItems(
        [{ name: 'boathouse_gate', kind: kindOf(tarnAndTiller, 'prop'), document: result.document }],
        tarnAndTiller,
        'Otterby Landing',
      )
    ).bytes
  })

  it('lists what a pack holds', () => {
    const contents = contentsOf(pack, 'otterby.zip')
    expect(contents).toMatchObject({
      kind: 'pack',
      title: 'Otterby Landing',
      items: [{ name: 'boathouse_gate', kind: 'prop' }],
    })
    expect(contents?.textures).toHaveLength(4)
  })

  it('takes an item out of a pack with its maps, solids and levels, in the game’s unit', async () => {
    const taken = await takeOutOfArchive(pack, 'otterby.zip', 'boathouse_gate', [])
    const { document } = await startOf(taken.item, bytesOf(taken))
    expect(taken.item.reading.metresPerUnit).toBe(0.5)
    expect(listViewParts(document)).toHaveLength(4)
    expect(listSolids(document).length).toBeGreaterThan(2)
    expect(listSolids(document)[0].extras.solid).toMatchObject({
      surface: expect.any(String),
      layers: expect.arrayContaining(['walls']),
    })
    expect(document.getRoot().listTextures()).toHaveLength(4)
    expect(
      document
        .getRoot()
        .listMaterials()
        .every((material) => material.getBaseColorTexture() !== null),
    ).toBe(true)
  })

  it('takes a texture out of a pack, and says what is there when asked for another', () => {
    const [path] = contentsOf(pack, 'otterby.zip')?.textures ?? []
    expect(textureOf(pack, 'otterby.zip', path).bytes.length).toBeGreaterThan(1000)
    expect(() => textureOf(pack, 'otterby.zip', 'nowhere.dds')).toThrow(/has no texture “nowhere\.dds”/)
  })

  it('takes an item out of a crate file with its sources and worklist', async () => {
    const [{ item, files }] = await bringIn(demoSources('mooring_bell'), 'mover', {}, [])
    const crate = {
      ...newCrate('Two', { rulebook: tarnAndTiller, stock: null }, []),
      items: [{ ...item, worklist: [{ id: 'step-1', step: 'weld', on: true, parameters: {}, reason: null }] }],
    }
    const file = writeCrateFile({ crate, sources: new Map(files.map((each) => [each.sha256, each.file.bytes])) })
    const taken = await takeOutOfArchive(file, 'two.zip', item.name, [item.id])
    expect(taken.item).toMatchObject({ id: `${item.id}-2`, worklist: [{ step: 'weld' }] })
    expect(taken.files).toHaveLength(1)
    await expect(takeOutOfArchive(file, 'two.zip', 'No such', [])).rejects.toThrow(
      /has no item “No such”.*Mooring bell/,
    )
  })

  it('opens the game’s stock like any pack', async () => {
    const stock = await assetBytes('stock/tarn-and-tiller')
    expect(contentsOf(stock, 'stock')?.items.map((item) => item.name)).toEqual(['ferry', 'davit'])
    for (const object of tarnAndTiller.stock.objects)
      expect((await takeOutOfArchive(stock, 'stock', object.id, [])).item.name.toLowerCase()).toContain(object.id)
    for (const texture of tarnAndTiller.stock.textures)
      expect(contentsOf(stock, 'stock')?.textures).toContain(texture.path)
  })

  it('makes an item of some parts, with the motion that moves them and nothing else', async () => {
    const [brought] = await bringIn(demoSources('bow_pennants'), 'addition', {}, [])
    const made = takeOutParts(brought.item, ['Pennant pole', 'Pennant 1'], 'Pennants', 'addition', [brought.item.id])
    const result = await runWorklist({ key: 'a', document: brought.document }, made.worklist, {
      rulebook: tarnAndTiller,
      kind: kindOf(tarnAndTiller, 'addition'),
      store: memoryStore(),
    })
    expect(listViewParts(result.document).map((part) => part.name)).toEqual(['Pennant pole', 'Pennant 1'])
    expect(
      result.document
        .getRoot()
        .listAnimations()
        .map((animation) => animation.getName()),
    ).toEqual(['pole sways'])
    expect(result.document.getRoot().listTextures()).toHaveLength(1)
  })
})
