import type { Document } from '@gltf-transform/core'
import { unzipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { kindOf, rulebookById } from '../game/load.ts'
import { cornersOfHalfBlock } from '../geometry/mesh/half-blocks.ts'
import { surfaceDifference } from '../geometry/surface/surface-distance.ts'
import { setMaterialTag } from '../game/material-tag.ts'
import { listViewParts } from '../item/parts.ts'
import { readPrimitive, writeAttribute } from '../item/primitive-arrays.ts'
import { gatherTriangles } from '../operations/meshes/trays.ts'
import { openPack } from '../pack/open-pack.ts'
import { packItems } from '../pack/pack-crate.ts'
import { openItem } from '../pack/take-item.ts'
import { readPartList } from '../pack/openers/part-list-file.ts'
import { checkItem } from '../rules/registry.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { boxWith, grey } from '../test-support/mapped-boxes.ts'
import { together } from '../test-support/shapes.ts'
import { demoSources, type DemoFolder } from '../test-support/sources.ts'
import { runStep } from '../test-support/step-runs.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { loadPack } from '../trial/load-pack.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { bringIn, startKey } from './bring-in.ts'
import { prepareItem } from './prepare-item.ts'

const parish = rulebookById('pegboard-parish')
const plot = kindOf(parish, 'plotpiece')
const rules = parish.halfBlocks
if (!rules) throw new Error('the game builds of half-blocks')

async function prepared(folder: DemoFolder, game = parish, kindId = 'plotpiece') {
  const kind = kindOf(game, kindId)
  const [{ item, document }] = await bringIn(demoSources(folder), kindId, {}, [])
  const made = await prepareItem(
    { key: startKey(item), document },
    { rulebook: game, kind, store: memoryStore() },
    { itemName: 'thing' },
  )
  return { ...made, document: made.result.document }
}

const packed = async (document: Document) =>
  (await packItems([{ name: 'thing', kind: plot, document }], parish, 'x')).bytes
const listOf = (bytes: Uint8Array) => readPartList(unzipSync(bytes)['plots/thing/parts.json'], rules)
const tagged = (document: Document): Document => {
  for (const material of document.getRoot().listMaterials())
    setMaterialTag(document, material, { base: 'plank', surface: 'beechwood', flags: [] }, parish)
  return document
}

describe('sources of the landing in Pegboard Parish', () => {
  it.each(['galley_stove', 'channel_buoy', 'ferry_hull', 'bow_pennants'] as const)(
    '%s is prepared alone, its half-blocks counted before they are made, and loads',
    async (folder) => {
      const { document, findings } = await prepared(folder)
      expect(findings.filter(({ severity }) => severity !== 'note').map(({ message }) => message)).toEqual([])
      const { gauges } = checkItem({ document, rulebook: parish, kind: plot })
      const bytes = await packed(document)
      const trial = loadPack(bytes, parish)
      expect(trial.log.filter(({ level }) => level !== 'told')).toEqual([])
      const count = listOf(bytes).reduce((sum, { blocks }) => sum + blocks.length, 0)
      expect(gauges.find(({ id }) => id === 'half-blocks')).toMatchObject({ value: count, limit: 24_000 })
      expect(trial.items[0].triangles).toBe(count)
      // The game's own half-blocks, put where its loader puts them, against what was prepared.
      const positions = Float32Array.from(trial.items[0].view.flatMap(({ primitives }) => [...primitives[0].positions]))
      const built = { positions, indices: Uint32Array.from({ length: positions.length / 3 }, (_, corner) => corner) }
      const difference = surfaceDifference(gatherTriangles(document), built, 4000)
      const size = Math.max(...[0, 1, 2].map((axis) => extent(positions, axis)))
      expect(difference.worst / size).toBeLessThan(rules.accuracyShare)
    },
  )
})

const extent = (positions: Float32Array, axis: number): number => {
  const along = positions.filter((_, at) => at % 3 === axis)
  return (
    along.reduce((most, value) => Math.max(most, value), -Infinity) -
    along.reduce((least, value) => Math.min(least, value), Infinity)
  )
}

/** An F of three bars, as one sees it who faces the item: its arms point to the reader's right. */
const letter = (): Document =>
  tagged(
    documentOf({
      letter: together(
        boxMesh({ min: [-10, 0, 0], max: [-4, 40, 6] }),
        boxMesh({ min: [-4, 34, 0], max: [12, 40, 6] }),
        boxMesh({ min: [-4, 18, 0], max: [6, 24, 6] }),
      ),
    }),
  )

describe('a left-handed game', () => {
  it('shows a letter as the source has it, and writes it mirrored in its own numbers', async () => {
    const document = letter()
    const bytes = await packed(document)
    const trial = loadPack(bytes, parish)
    expect(trial.log.filter(({ level }) => level !== 'told')).toEqual([])
    const [{ view }] = trial.items
    const seen = view[0].primitives[0].positions
    // The longest arm reaches to the reader's right, as in the source; the game counts from the other side.
    const reach = (places: readonly number[]): number[] => [Math.min(...places), Math.max(...places)].map(Math.round)
    expect(reach([...seen].filter((_, at) => at % 3 === 0))).toEqual([-10, 12])
    const written = listOf(bytes)[0].blocks.flatMap((block) => cornersOfHalfBlock(block).map(([x]) => x))
    expect(reach(written)).toEqual([-12, 10])
  })
})

describe('trays', () => {
  it('are put together again when an item is taken out of a pack, and packed again they are as many half-blocks', async () => {
    const document = tagged(documentOf({ ball: ball(20, 12), other: ball(8, 6, [40, 0, 0]) }))
    const bytes = await packed(document)
    const taken = await openItem(openPack(bytes, 'x.zip', [parish]), 'thing')
    expect(listViewParts(taken).map(({ name }) => name)).toEqual(['ball', 'other'])
    expect(gatherTriangles(taken).indices).toHaveLength(gatherTriangles(document).indices.length)
    expect(surfaceDifference(gatherTriangles(document), gatherTriangles(taken), 2000).worst).toBeLessThan(1e-3)
    const again = listOf(await packed(taken))
    expect(again.map(({ tray, blocks }) => [tray, blocks.length])).toEqual(
      listOf(bytes).map(({ tray, blocks }) => [tray, blocks.length]),
    )
  })

  it('have one finish: a part of two materials is refused until it is sorted', async () => {
    const document = tagged(documentOf({ box: ball(9, 6), lid: ball(5, 5, [0, 20, 0]) }))
    const parts = listViewParts(document)
    const second = document.createMaterial('iron')
    parts[1].mesh.listPrimitives()[0].setMaterial(second)
    for (const surface of parts[1].mesh.listPrimitives()) parts[0].mesh.addPrimitive(surface)
    parts[1].node.dispose()
    const found = checkItem({ document, rulebook: parish, kind: plot }).findings.find(
      ({ rule }) => rule === 'tray-finish',
    )
    expect(found).toMatchObject({ severity: 'blocks', where: 'box', mend: { step: 'sort-into-trays' } })
    const by = async (way: string) =>
      listViewParts(
        (await runStep('sort-into-trays', document, { by: way, most: 24 }, { rulebook: parish, kind: plot })).after,
      ).map(({ name }) => name)
    expect(await by('part-and-material')).toEqual(['box plank', 'box iron'])
    expect(await by('material')).toEqual(['plank', 'iron'])
    expect(await by('part')).toEqual(['box'])
  })

  it('are no more than asked for: the smallest joins the one of the nearest colour', async () => {
    const document = documentOf({ red: ball(9, 8), rust: ball(2, 5, [0, 20, 0]), blue: ball(6, 6, [0, 40, 0]) })
    const colours: Record<string, [number, number, number, number]> = {
      red: [0.8, 0, 0, 1],
      rust: [0.7, 0.1, 0, 1],
      blue: [0, 0, 0.9, 1],
    }
    for (const { name, mesh } of listViewParts(document))
      mesh.listPrimitives()[0].setMaterial(document.createMaterial(name).setBaseColorFactor(colours[name]))
    const { after, summary } = await runStep(
      'sort-into-trays',
      document,
      { by: 'material', most: 2 },
      { rulebook: parish, kind: plot },
    )
    expect(listViewParts(after).map(({ name }) => name)).toEqual(['red', 'blue'])
    expect(summary.headline).toBe('2 trays')
    expect(gatherTriangles(after).indices).toHaveLength(gatherTriangles(document).indices.length)
  })

  it('get another finish and tint at once, and others keep theirs', async () => {
    const document = tagged(documentOf({ seat: ball(9, 8), leg: ball(3, 5, [0, 20, 0]) }))
    const { after } = await runStep(
      'finish-trays',
      document,
      { trays: ['seat'], surface: 'tinplate', tint: '#3060c0' },
      { rulebook: parish, kind: plot },
    )
    const files = unzipSync(await packed(after))
    const { materials } = JSON.parse(new TextDecoder().decode(files['plots/thing/dye-plain.json']))
    const shown = Object.fromEntries(
      readPartList(files['plots/thing/parts.json'], rules).map(({ tray, finish }) => [tray, materials[finish ?? '']]),
    )
    expect(shown['seat']).toMatchObject({ surface: 'tinplate', tint: '#3060c0' })
    expect(shown['leg']).toMatchObject({ surface: 'beechwood' })
    expect(shown['leg'].tint).not.toBe('#3060c0')
  })
})

describe('what cannot be built', () => {
  it('is told with its places and the size at which it would pass', () => {
    const document = tagged(documentOf({ fine: ball(2, 20) }))
    const found = checkItem({ document, rulebook: parish, kind: plot }).findings.find(
      ({ rule }) => rule === 'half-block-size',
    )
    expect(found?.severity).toBe('blocks')
    expect(found?.place.spots.length).toBeGreaterThan(10)
    const scale = Number(/At ([\d.]+) times/.exec(found?.message ?? '')?.[1])
    const scaled = tagged(documentOf({ fine: ball(2 * scale, 20) }))
    expect(
      checkItem({ document: scaled, rulebook: parish, kind: plot }).findings.map(({ rule }) => rule),
    ).not.toContain('half-block-size')
    const less = tagged(documentOf({ fine: ball(2 * scale * 0.98, 20) }))
    expect(checkItem({ document: less, rulebook: parish, kind: plot }).findings.map(({ rule }) => rule)).toContain(
      'half-block-size',
    )
  })

  it('is taken away, and what is left is built', async () => {
    const document = tagged(documentOf({ fine: ball(8, 40) }))
    const { after } = await runStep(
      'clear-tiny-edges',
      document,
      { shortestEdge: 0.404 },
      { rulebook: parish, kind: plot },
    )
    expect(checkItem({ document: after, rulebook: parish, kind: plot }).findings.map(({ rule }) => rule)).not.toContain(
      'half-block-size',
    )
    expect(surfaceDifference(gatherTriangles(document), gatherTriangles(after), 2000).worst).toBeLessThan(0.8)
  })

  it('of a thing of a few millimetres is made large enough', async () => {
    const { worklist, findings } = await (async () => {
      const document = documentOf({ bead: ball(0.003, 12) })
      return prepareItem({ key: 'bead', document }, { rulebook: parish, kind: plot, store: memoryStore() })
    })()
    expect(worklist.find(({ step }) => step === 'set-size')?.reason).toContain('0.4')
    expect(findings.filter(({ severity }) => severity !== 'note').map(({ message }) => message)).toEqual([])
  })
})

describe('a picture', () => {
  it('becomes the tint that it shows taken together, where the game has none', async () => {
    const { document } = boxWith({ colour: grey(120) }, 'plank')
    for (const { mesh } of listViewParts(document))
      for (const surface of mesh.listPrimitives())
        writeAttribute(
          document,
          surface,
          'TEXCOORD_0',
          new Float32Array((readPrimitive(surface).positions.length / 3) * 2),
          2,
        )
    const { after } = await runStep('plain-tints', document, {}, { rulebook: parish, kind: plot })
    const [material] = after.getRoot().listMaterials()
    expect(after.getRoot().listTextures()).toEqual([])
    // 120 of 255 in sRGB is a fifth of the light.
    for (const value of material.getBaseColorFactor().slice(0, 3)) expect(value).toBeCloseTo(0.1878, 2)
  })
})

describe('the same thing in three games', () => {
  it('is as large in metres, to what each game asks for', async () => {
    const builds = await Promise.all(
      (
        [
          ['pegboard-parish', 'plotpiece'],
          ['hollin-keep', 'furnishing'],
          ['tarn-and-tiller', 'prop'],
        ] as const
      ).map(async ([id, kindId]) => {
        const game = rulebookById(id)
        const kind = kindOf(game, kindId)
        const { document } = await prepared('galley_stove', game, kindId)
        const { bytes } = await packItems([{ name: 'thing', kind, document }], game, id)
        const trial = loadPack(bytes, game)
        expect(trial.log.filter(({ level }) => level === 'refused')).toEqual([])
        const metres = game.space.unit.metres
        const positions: number[] = []
        const indices: number[] = []
        for (const { primitives, world } of trial.items[0].view)
          for (const primitive of primitives) {
            indices.push(...[...primitive.indices].map((corner) => corner + positions.length / 3))
            for (let at = 0; at < primitive.positions.length; at += 3)
              for (let axis = 0; axis < 3; axis++)
                positions.push(
                  metres *
                    (world[axis] * primitive.positions[at] +
                      world[axis + 4] * primitive.positions[at + 1] +
                      world[axis + 8] * primitive.positions[at + 2] +
                      world[axis + 12]),
                )
          }
        return {
          soup: { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) },
          least: (game.halfBlocks?.shortestEdge ?? game.space.smallestDrawn) * metres,
        }
      }),
    )
    for (const [number, one] of builds.entries())
      for (const other of builds.slice(number + 1))
        expect(surfaceDifference(one.soup, other.soup, 3000).worst).toBeLessThan(2 * Math.max(one.least, other.least))
  })
})
