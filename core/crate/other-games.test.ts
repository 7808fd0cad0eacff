import { unzipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { kindOf, rulebookById } from '../game/load.ts'
import type { Kind } from '../game/schema.ts'
import { inspectPack } from '../inspect/inspect-pack.ts'
import { packItems } from '../pack/pack-crate.ts'
import { checkItem } from '../rules/registry.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { dentedTube } from '../test-support/shapes.ts'
import { boxWith, grey } from '../test-support/mapped-boxes.ts'
import { demoSources, type DemoFolder } from '../test-support/sources.ts'
import { loadPack } from '../trial/load-pack.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { bringIn, startKey } from './bring-in.ts'
import { prepareItem } from './prepare-item.ts'

const keep = rulebookById('hollin-keep')
const furnishing = kindOf(keep, 'furnishing')

/** In millimetres, read from the binary STL itself: 50 bytes a triangle, three places after its normal. */
function heightOfBuoy(): number {
  const [{ bytes }] = demoSources('channel_buoy')
  const view = new DataView(bytes.buffer, bytes.byteOffset)
  const heights = Array.from({ length: view.getUint32(80, true) * 3 }, (_, corner) =>
    view.getFloat32(84 + Math.floor(corner / 3) * 50 + 12 + (corner % 3) * 12 + 8, true),
  )
  return Math.max(...heights) - Math.min(...heights)
}

async function keepPackOf(folder: DemoFolder, reading: Parameters<typeof bringIn>[2] = {}) {
  const [{ item, document }] = await bringIn(demoSources(folder), 'furnishing', reading, [])
  const options = { rulebook: keep, kind: furnishing, store: memoryStore() }
  const { result, findings } = await prepareItem({ key: startKey(item), document }, options, { itemName: folder })
  const pack = await packItems(
    [{ name: folder, kind: furnishing, document: result.document, slot: 'k-00a' }],
    keep,
    folder,
  )
  return { document: result.document, findings, pack }
}

describe('sources of the landing in Hollin Keep', () => {
  it.each(['galley_stove', 'channel_buoy'] as const)(
    '%s is prepared alone, packed at its slot, and loads',
    async (folder) => {
      const { findings, pack } = await keepPackOf(folder)
      expect(findings.filter(({ severity }) => severity !== 'note').map(({ message }) => message)).toEqual([])
      const trial = loadPack(pack.bytes, keep)
      expect(trial.log.filter(({ level }) => level !== 'told')).toEqual([])
      const own = pack.files.map(({ path }) => path).filter((path) => path !== keep.files.manifest.path)
      expect(own.every((path) => path.toLowerCase().includes('k-00a'))).toBe(true)
      expect(own.filter((path) => path.endsWith('.obj'))).toEqual(['things/K-00A.obj'])
      expect(
        (await inspectPack(pack.bytes, 'pack.zip', keep)).items[0].findings.every((each) => each.severity === 'note'),
      ).toBe(true)
    },
  )

  it('is written in inches with Z up, and materials named by the path of a picture that is there', async () => {
    const { pack } = await keepPackOf('channel_buoy', { metresPerUnit: 0.001, up: '+z' })
    const files = unzipSync(pack.bytes)
    const text = new TextDecoder().decode(files['things/K-00A.obj'])
    const places = [...text.matchAll(/^v (\S+) (\S+) (\S+)$/gm)].map((match) => match.slice(1).map(Number))
    const side = (axis: number): number =>
      Math.max(...places.map((place) => place[axis])) - Math.min(...places.map((place) => place[axis]))
    expect(side(2)).toBeGreaterThan(side(0))
    expect((side(2) * 25.4) / heightOfBuoy()).toBeCloseTo(1, 2)
    for (const [, name] of text.matchAll(/^usemtl (.*)$/gm)) expect(Object.keys(files)).toContain(`${name}.tga`)
  })
})

describe('sections', () => {
  it('are counted by check as packing cuts them', async () => {
    const document = documentOf({ ball: ball(12, 34) })
    const gauge = checkItem({ document, rulebook: keep, kind: furnishing }).gauges.find(({ id }) => id === 'sections')
    const { bytes } = await packItems([{ name: 'ball', kind: furnishing, document }], keep, 'ball')
    const text = new TextDecoder().decode(unzipSync(bytes)['things/K-000.obj'])
    expect(gauge?.limit).toBe(20)
    expect(gauge?.value).toBeGreaterThan(2)
    expect(text.match(/^usemtl /gm)).toHaveLength(gauge?.value ?? 0)
  })

  it.each([
    { up: '+z', forward: '-y', handedness: 'left' },
    { up: '-x', forward: '+y', handedness: 'right' },
  ] as const)('are as many in a game with $up up, $handedness-handed', async (axes) => {
    const turned = { ...keep, space: { ...keep.space, ...axes } }
    const document = documentOf({ ball: ball(12, 41), beam: dentedTube(60, 50, 0.1) })
    const gauge = checkItem({ document, rulebook: turned, kind: furnishing }).gauges.find(({ id }) => id === 'sections')
    const { bytes } = await packItems([{ name: 'ball', kind: furnishing, document }], turned, 'ball')
    const text = new TextDecoder().decode(unzipSync(bytes)['things/K-000.obj'])
    expect(text.match(/^usemtl /gm)).toHaveLength(gauge?.value ?? 0)
  })

  it('are too many where there are too many parts, which joining mends', () => {
    const document = documentOf(
      Object.fromEntries(Array.from({ length: 21 }, (_, at) => [`part_${at}`, ball(1, 3, [at * 3, 0, 0])])),
    )
    const found = checkItem({ document, rulebook: keep, kind: furnishing }).findings.find(
      ({ rule }) => rule === 'section-count',
    )
    expect(found).toMatchObject({ severity: 'blocks', value: '21', limit: '20', mend: { step: 'join-parts' } })
  })
})

describe('Prepare', () => {
  it.each([
    { most: 4, corners: 300 },
    { most: 1, corners: 200 },
  ])('brings an item of 12 parts and materials into $most sections of $corners corners', async ({ most, corners }) => {
    const kind: Kind = { ...furnishing, mesh: { ...furnishing.mesh!, triangles: 12_000, sections: { most, corners } } }
    const rulebook = { ...keep, kinds: keep.kinds.map((each) => (each.id === kind.id ? kind : each)) }
    const document = documentOf(
      Object.fromEntries(Array.from({ length: 12 }, (_, at) => [`part_${at}`, ball(12, 14, [at * 30, 0, 0])])),
    )
    const { findings, rounds, worklist } = await prepareItem(
      { key: 'balls', document },
      { rulebook, kind, store: memoryStore() },
    )
    expect(findings.filter(({ severity }) => severity === 'blocks')).toEqual([])
    expect(rounds.filter((round) => round.includes(' sections; ')).length).toBeGreaterThan(1)
    expect(worklist.map(({ step }) => step)).toEqual(expect.arrayContaining(['join-parts', 'reduce-triangles']))
  })
})

describe('items that share files', () => {
  const shared = structuredClone(keep)
  shared.files.paths.map = 'skins/{map}.tga'
  const pack = (...greys: number[]) =>
    packItems(
      greys.map((value, number) => ({
        name: `crate_${number}`,
        slot: `k-00${number}`,
        kind: furnishing,
        document: boxWith({ colour: grey(value) }).document,
      })),
      shared,
      'cellar',
    )

  it('pack the same file once, and refuse another under its name', async () => {
    const paths = (await pack(90, 90)).files.map(({ path }) => path)
    expect(paths.filter((path) => path.endsWith('.tga'))).toHaveLength(1)
    await expect(pack(90, 91)).rejects.toThrow('skins/planks_colour.tga is another file for an item before it')
  })
})
