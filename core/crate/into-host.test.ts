import type { Document, Node } from '@gltf-transform/core'
import { beforeAll, describe, expect, it } from 'vitest'
import { kindOf } from '../game/load.ts'
import type { Rulebook } from '../game/schema.ts'
import { materialTag, setMaterialTag } from '../game/material-tag.ts'
import { getNodeExtras, getRootExtras } from '../item/extras.ts'
import { createIO } from '../item/io.ts'
import { listSceneNodes, listViewParts } from '../item/parts.ts'
import type { Host } from '../operations/context.ts'
import { findClipping } from '../operations/motion/clipping.ts'
import { graftInto, hostNodes, type Graft } from '../operations/motion/graft.ts'
import { posesOf } from '../operations/motion/pose.ts'
import { putCurve } from '../operations/motion/put-curve.ts'
import { openPack } from '../pack/open-pack.ts'
import { packItems } from '../pack/pack-crate.ts'
import { openItem } from '../pack/take-item.ts'
import { checkItem } from '../rules/registry.ts'
import { readArchive, writeArchive } from '../support/archive.ts'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { demoSources } from '../test-support/sources.ts'
import { runStep } from '../test-support/step-runs.ts'
import { loadPack } from '../trial/load-pack.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { bringIn, startOf } from './bring-in.ts'
import { prepareItem } from './prepare-item.ts'
import { stockHosts, stockOf } from './stock.ts'

const game = { rulebook: tarnAndTiller, stock: null }
const nobody = (): Promise<null> => Promise.resolve(null)
const patch = kindOf(tarnAndTiller, 'patch')
const nodeOf = (document: Document, name: string): Node => {
  const found = listSceneNodes(document).find((node) => node.getName() === name)
  if (!found) throw new Error(`no ${name}`)
  return found
}

let davit: Host
beforeAll(async () => {
  const hosts = await stockHosts(game, nobody)
  davit = hosts.find(({ id }) => id === 'davit') as Host
})

const graft = (changes: Partial<Graft> = {}): Graft => ({
  part: 'davit_arm',
  mode: 'replaces',
  by: [],
  others: 'stay',
  anchor: 'origin',
  at: null,
  takes: new Set(['place-x', 'place-y', 'place-z', 'turn', 'motion']),
  ...changes,
})

describe('what is put into a stock object', () => {
  it('stands where the host’s part stands at every time, place and turn', () => {
    const document = documentOf({ beam: unitBox() })
    expect(graftInto(document, davit, graft(), tarnAndTiller)).not.toBe(null)
    const [ours, hosts] = [posesOf(document), posesOf(davit.document)]
    for (let seconds = 0; seconds <= 4; seconds += 0.17) {
      const [own, theirs] = [
        ours(seconds)(nodeOf(document, 'beam')),
        hosts(seconds)(nodeOf(davit.document, 'davit_arm')),
      ]
      own.forEach((value, at) => expect(value).toBeCloseTo(theirs[at], 5))
    }
    // The arm does swing, or nothing would be shown.
    expect(Math.abs(ours(1)(nodeOf(document, 'beam'))[0] - ours(0)(nodeOf(document, 'beam'))[0])).toBeGreaterThan(0.05)
  })

  it('takes over its place axis by axis, and its motion only where that is asked', () => {
    const [x, y, z] = nodeOf(davit.document, 'davit_arm').getWorldTranslation()
    const placed = (...takes: Graft['takes'] extends ReadonlySet<infer T> ? T[] : never): number[] => {
      const document = documentOf({ beam: unitBox() })
      nodeOf(document, 'beam').setTranslation([7, 8, 9])
      graftInto(document, davit, graft({ takes: new Set(takes) }), tarnAndTiller)
      return nodeOf(document, 'beam').getWorldTranslation()
    }
    expect(placed().map(Math.round)).toEqual([7, 8, 9])
    placed('place-y', 'motion').forEach((value, axis) => expect(value).toBeCloseTo([7, 8 + y, 9][axis], 5))
    placed('place-x', 'place-z').forEach((value, axis) => expect(value).toBeCloseTo([7 + x, 8, 9 + z][axis], 5))
  })

  it('keeps moving as it did on what moves it now', () => {
    const document = documentOf({ bell: unitBox() })
    putCurve(document, document.createAnimation('rings'), nodeOf(document, 'bell'), {
      path: 'translation',
      times: Float32Array.from([0, 2, 4]),
      values: Float32Array.from([0, 0, 0, 0, 1, 0, 0, 0, 0]),
      interpolation: 'LINEAR',
    })
    graftInto(document, davit, graft(), tarnAndTiller)
    const [ours, hosts] = [posesOf(document), posesOf(davit.document)]
    for (const seconds of [0, 1, 2, 3]) {
      const [own, arm] = [ours(seconds)(nodeOf(document, 'bell')), hosts(seconds)(nodeOf(davit.document, 'davit_arm'))]
      expect(own[13] - arm[13]).toBeCloseTo(seconds <= 2 ? seconds / 2 : 2 - seconds / 2, 5)
    }
  })

  it('takes over name, flags and solids, and shows flags side by side', () => {
    const document = documentOf({ beam: unitBox() })
    const material = document.createMaterial('beam')
    for (const primitive of nodeOf(document, 'beam').getMesh()?.listPrimitives() ?? []) primitive.setMaterial(material)
    setMaterialTag(document, material, { base: 'beam', surface: 'timber', flags: ['both'] }, tarnAndTiller)
    const made = graftInto(document, davit, graft({ takes: new Set(['name', 'flags', 'motion']) }), tarnAndTiller)
    expect(made?.flags).toEqual({ ours: 'both', hosts: 'none', differ: true })
    expect(materialTag(material, tarnAndTiller)).toEqual({ base: 'beam', surface: 'timber', flags: [] })
    expect(
      listViewParts(document)
        .map(({ name }) => name)
        .sort(),
    ).toEqual(['davit_arm', 'davit_post'])
    expect(getNodeExtras(nodeOf(document, 'davit_arm')).ofHost).toBe(undefined)
    expect(nodeOf(document, 'davit_arm_place').getMesh()).toBe(null)
  })

  it('gives its own parts other names where the host has them, and is told where there is no such part', () => {
    const document = documentOf({ davit_post: unitBox() })
    graftInto(document, davit, graft({ mode: 'hangs-on' }), tarnAndTiller)
    expect(
      listViewParts(document)
        .map(({ name }) => name)
        .sort(),
    ).toEqual(['davit_arm', 'davit_post', 'davit_post_2'])
    expect(graftInto(documentOf({ a: unitBox() }), davit, graft({ part: 'mast' }), tarnAndTiller)).toBe(null)
  })

  it('is found to run into the rest of it at the moments at which it does', () => {
    const document = documentOf({ weight: unitBox() })
    // A span wide, it begins four spans beside the post, goes to it and back.
    nodeOf(document, 'weight').setTranslation([5, 3, 0])
    putCurve(document, document.createAnimation('slides'), nodeOf(document, 'weight'), {
      path: 'translation',
      times: Float32Array.from([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4]),
      values: Float32Array.from([5, 4, 3, 2, 0, 2, 3, 4, 5].flatMap((x) => [x, 3, 0])),
      interpolation: 'LINEAR',
    })
    graftInto(document, davit, graft({ mode: 'hangs-on', takes: new Set() }), tarnAndTiller)
    const met = findClipping(document).filter(({ hosts }) => hosts === 'davit_post')
    expect(met).toHaveLength(1)
    expect(met[0].always).toBe(false)
    expect(met[0].seconds.every((seconds) => seconds > 1 && seconds < 3)).toBe(true)
    expect(met[0].seconds.some((seconds) => seconds === 2)).toBe(true)
    expect(checkItem({ document, rulebook: tarnAndTiller, kind: patch }).findings.map(({ rule }) => rule)).toContain(
      'runs-into-host',
    )
  })
})

/** Arrays of a part of a mesh file, by what they are. */
async function arraysOf(bytes: Uint8Array, name: string): Promise<Record<string, number[]>> {
  const document = await createIO().readBinary(bytes)
  const [primitive] = nodeOf(document, name).getMesh()?.listPrimitives() ?? []
  const found: Record<string, number[]> = { indices: [...(primitive?.getIndices()?.getArray() ?? [])] }
  for (const semantic of primitive?.listSemantics() ?? [])
    found[semantic] = [...(primitive?.getAttribute(semantic)?.getArray() ?? [])]
  return found
}
const motionOf = async (bytes: Uint8Array, name: string): Promise<number[][]> =>
  (await createIO().readBinary(bytes))
    .getRoot()
    .listAnimations()
    .flatMap((clip) => clip.listChannels())
    .filter((channel) => channel.getTargetNode()?.getName() === name)
    .map((channel) => [
      ...(channel.getSampler()?.getInput()?.getArray() ?? []),
      ...(channel.getSampler()?.getOutput()?.getArray() ?? []),
    ])

describe('the mooring bell on the davit', () => {
  let packed: Uint8Array
  let document: Document
  beforeAll(async () => {
    const [{ item, files }] = await bringIn(demoSources('mooring_bell'), 'patch', {}, [])
    const bytesOf = async (sha: string) => files.find((file) => file.sha256 === sha)?.file.bytes ?? null
    const start = await startOf(item, bytesOf, game)
    const { result, findings } = await prepareItem(start, {
      rulebook: tarnAndTiller,
      kind: patch,
      store: memoryStore(),
    })
    expect(findings.filter(({ severity }) => severity !== 'note')).toEqual([])
    document = result.document
    packed = (await packItems([{ name: 'bell', kind: patch, document }], tarnAndTiller, 'x')).bytes
  })
  const judge = (bytes: Uint8Array, rulebook: Rulebook = tarnAndTiller) => loadPack(bytes, rulebook)

  it('is packed by Prepare as a change of the davit that loads without a complaint', () => {
    const { loads, log } = judge(packed)
    expect(loads).toBe(true)
    expect(log.filter(({ level }) => level !== 'told')).toEqual([])
    // Its post stays ashore: only what moves hangs on the arm.
    expect(
      listViewParts(document)
        .map(({ name }) => name)
        .sort(),
    ).toEqual(['bell', 'davit_arm', 'davit_post', 'swing_arm'])
    const files = readArchive(packed, 'x')
    const entry = JSON.parse(new TextDecoder().decode(files.get('items/patches/bell/entry.json')))
    expect(entry).toMatchObject({ kind: 'patch', changes: 'davit' })
    expect([...files.keys()].filter((path) => path.includes('davit'))).toEqual([])
  })

  it('leaves the rest of the davit as it is, number by number', async () => {
    const stock = (await stockOf(game, nobody)).files.get('items/movers/davit/davit.glb') as Uint8Array
    const mesh = readArchive(packed, 'x').get('items/patches/bell/bell.glb') as Uint8Array
    expect((await arraysOf(stock, 'davit_post'))['POSITION'].length).toBeGreaterThan(70)
    for (const part of ['davit_post', 'davit_arm'])
      expect(await arraysOf(mesh, part)).toEqual(await arraysOf(stock, part))
    expect(await motionOf(mesh, 'davit_arm')).toEqual(await motionOf(stock, 'davit_arm'))
    expect((await motionOf(stock, 'davit_arm')).length).toBe(1)
  })

  it('says again what it changes when its pack is opened', async () => {
    const opened = await openItem(openPack(packed, 'x.zip', [tarnAndTiller]), 'bell')
    expect(getRootExtras(opened.getRoot()).changes).toBe('davit')
    expect(hostNodes(document).length).toBeGreaterThan(1)
  })

  it('is refused where it changes nothing, or what is not there: check and loader', async () => {
    for (const changes of [undefined, 'mast', 'ferry']) {
      const files = readArchive(packed, 'x')
      const path = 'items/patches/bell/entry.json'
      const entry = { ...JSON.parse(new TextDecoder().decode(files.get(path))), changes }
      files.set(path, new TextEncoder().encode(JSON.stringify(entry)))
      files.delete('manifest.json')
      const spoiled = writeArchive(
        [...files].map(([at, bytes]) => ({ path: at, bytes })),
        'zip-stored',
      )
      expect(judge(spoiled).log.map(({ code }) => code)).toContain('entry.changes')
    }
    const { findings } = checkItem({ document: documentOf({ a: unitBox() }), rulebook: tarnAndTiller, kind: patch })
    expect(findings.find(({ rule }) => rule === 'changes-nothing')?.severity).toBe('blocks')
  })

  it('can stand in the arm’s place instead, and the step says so', async () => {
    const { summary, after } = await runStep(
      'put-into-host',
      documentOf({ beam: unitBox() }),
      {
        target: 'davit/davit_arm',
        mode: 'replaces',
        anchor: 'middle',
        takes: ['place-x', 'place-y', 'place-z', 'motion', 'name'],
      },
      { kind: patch, hosts: [davit] },
    )
    expect(summary.details[0]).toBe(
      'davit_arm stands in the place of davit_arm of “Davit with a swinging arm” and moves with it.',
    )
    expect(
      listViewParts(after)
        .map(({ name }) => name)
        .sort(),
    ).toEqual(['davit_arm', 'davit_post'])
    const gone = await runStep('put-into-host', documentOf({ a: unitBox() }), { target: 'crane/jib' }, { kind: patch })
    expect(gone.summary.doesNotApply).toContain('crane')
  })
})
