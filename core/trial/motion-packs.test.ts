import type { Document } from '@gltf-transform/core'
import { beforeAll, describe, expect, it } from 'vitest'
import { bringIn, startOf } from '../crate/bring-in.ts'
import { prepareItem } from '../crate/prepare-item.ts'
import { kindOf } from '../game/load.ts'
import type { Rulebook } from '../game/schema.ts'
import { listPlaces } from '../item/annotations/places.ts'
import { setNodeExtras } from '../item/extras.ts'
import { copyDocument } from '../item/io.ts'
import { itemScene, listSceneNodes } from '../item/parts.ts'
import { takeMotionOff } from '../operations/motion/put-curve.ts'
import { itemMotion, motionFrames } from '../operations/motion/pose.ts'
import { packItems } from '../pack/pack-crate.ts'
import { checkItem } from '../rules/registry.ts'
import { mirroredGames } from '../test-support/mirrored-games.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { demoSources, type DemoFolder } from '../test-support/sources.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { loadPack } from './load-pack.ts'
import { secondsOf, standingsOf } from './moving.ts'
import type { YardRun } from './yard/yard-frame.ts'
import { Yard } from './yard/yard.ts'

/** The game itself, and one whose axes are turned and mirrored: heights and turns must come out the same. */
const leftHanded =
  mirroredGames.find(({ space }) => space.handedness === 'left' && space.up !== '+y') ?? mirroredGames[0]
const games: [string, Rulebook][] = [tarnAndTiller, leftHanded].map((game) => [game.id, game])

const moving = { mooring_bell: 'mover', sluice_walk: 'course' } as const
type Moving = keyof typeof moving & DemoFolder

interface Spoiler {
  rule: string
  severity: 'blocks' | 'risky'
  /** What the loader says. */
  code: string
  thing: Moving
  spoil: (document: Document) => void
}

const nodeOf = (document: Document, name: string) => {
  const found = listSceneNodes(document).find((node) => node.getName() === name)
  if (!found) throw new Error(`no ${name}`)
  return found
}
const clipOf = (document: Document) => document.getRoot().listAnimations()[0]
const samplerOf = (document: Document) => clipOf(document).listSamplers()[0]
function changeTimes(document: Document, change: (seconds: number) => number): void {
  const input = samplerOf(document).getInput()
  input?.setArray(Float32Array.from(input.getArray() ?? [], change))
}
function changeValues(document: Document, change: (values: Float32Array<ArrayBuffer>) => void): void {
  const output = samplerOf(document).getOutput()
  const values = Float32Array.from(output?.getArray() ?? [])
  change(values)
  output?.setArray(values)
}
function addKeys(document: Document, count: number, seconds: number): void {
  const buffer = document.getRoot().listBuffers()[0]
  const times = Float32Array.from({ length: count }, (_, key) => (key * seconds) / (count - 1))
  const values = Float32Array.from({ length: count * 4 }, (_, at) => (at % 4 === 3 ? 1 : 0))
  samplerOf(document)
    .setInterpolation('LINEAR')
    .setInput(document.createAccessor().setType('SCALAR').setArray(times).setBuffer(buffer))
    .setOutput(document.createAccessor().setType('VEC4').setArray(values).setBuffer(buffer))
}
const marker = (document: Document, name: string) => {
  const found = listPlaces(document).find((place) => place.extras.marker === name)
  if (!found) throw new Error(`no marker ${name}`)
  return found.node
}
const lift = (document: Document, name: string, by: number): void => {
  const node = marker(document, name)
  const [x, y, z] = node.getTranslation()
  node.setTranslation([x, y + by, z])
}
const addMarker = (document: Document, name: string): void => {
  const node = document.createNode(`${name}_02`).setTranslation([0, 3, 0])
  setNodeExtras(node, { role: 'marker', marker: name })
  itemScene(document).addChild(node)
}

const bell = { thing: 'mooring_bell' } as const
const walk = { thing: 'sluice_walk' } as const
const spoilers: Spoiler[] = [
  {
    ...bell,
    rule: 'clip-key-rate',
    severity: 'blocks',
    code: 'motion.rate',
    spoil: (of) => changeTimes(of, (seconds) => seconds / 4),
  },
  {
    ...bell,
    rule: 'clip-too-long',
    severity: 'blocks',
    code: 'motion.long',
    spoil: (of) => changeTimes(of, (seconds) => seconds * 11),
  },
  {
    ...bell,
    rule: 'clip-starts-late',
    severity: 'risky',
    code: 'motion.start',
    spoil: (of) => changeTimes(of, (seconds) => seconds + 1),
  },
  { ...bell, rule: 'key-count', severity: 'blocks', code: 'motion.keys', spoil: (of) => addKeys(of, 2001, 2001) },
  {
    ...bell,
    rule: 'loop-open',
    severity: 'risky',
    code: 'motion.loop',
    spoil: (of) => changeValues(of, (values) => values.set([Math.sin(0.05), 0, 0, Math.cos(0.05)], values.length - 4)),
  },
  {
    ...bell,
    rule: 'clips-fight',
    severity: 'risky',
    code: 'motion.twice',
    spoil(of) {
      const [channel] = clipOf(of).listChannels()
      of.createAnimation('again').addSampler(samplerOf(of)).addChannel(channel.clone())
    },
  },
  {
    ...walk,
    rule: 'marker-count',
    severity: 'blocks',
    code: 'marker.count',
    spoil: (of) => marker(of, 'start').dispose(),
  },
  {
    ...walk,
    rule: 'marker-count',
    severity: 'blocks',
    code: 'marker.count',
    spoil: (of) => void marker(of, 'arrive').setName('arival_01'),
  },
  {
    ...walk,
    rule: 'marker-count',
    severity: 'blocks',
    code: 'marker.count',
    spoil: (of) => addMarker(of, 'floor_limit'),
  },
  { ...walk, rule: 'marker-height', severity: 'risky', code: 'marker.height', spoil: (of) => lift(of, 'stamp', 0.3) },
  { ...walk, rule: 'marker-height', severity: 'risky', code: 'marker.height', spoil: (of) => lift(of, 'stamp', -0.8) },
  {
    ...walk,
    rule: 'marker-height',
    severity: 'risky',
    code: 'marker.height',
    spoil: (of) => void marker(of, 'stamp').setTranslation([40, 3, 40]),
  },
  { ...walk, rule: 'marker-below', severity: 'risky', code: 'marker.below', spoil: (of) => lift(of, 'floor_limit', 4) },
  {
    ...walk,
    rule: 'marker-below',
    severity: 'risky',
    code: 'marker.below',
    spoil: (of) => lift(of, 'floor_limit', -9),
  },
  {
    ...walk,
    rule: 'marker-rides',
    severity: 'risky',
    code: 'marker.rides',
    spoil: (of) => void nodeOf(of, 'moves_gate_1').addChild(marker(of, 'arrive')),
  },
  {
    ...walk,
    rule: 'group-missing',
    severity: 'risky',
    code: 'group.none',
    spoil: (of) => void itemScene(of).addChild(nodeOf(of, 'deck_1')),
  },
  {
    ...walk,
    rule: 'group-without-motion',
    severity: 'risky',
    code: 'group.rests',
    spoil: (of) => void takeMotionOff(of, nodeOf(of, 'moves_gate_2')),
  },
  {
    ...walk,
    rule: 'group-moves',
    severity: 'risky',
    code: 'group.moves',
    spoil: (of) => void nodeOf(of, 'moves_gate_2').setName('stays_gate_2'),
  },
  {
    ...walk,
    rule: 'group-not-told',
    severity: 'risky',
    code: 'group.untold',
    spoil: (of) => void nodeOf(of, 'moves_gate_2').setName('gate_2'),
  },
  {
    ...walk,
    rule: 'backdrop-solid',
    severity: 'risky',
    code: 'group.backdrop',
    spoil: (of) => void nodeOf(of, 'stays_rest').setName('far_rest'),
  },
]

/** Whether a part stands elsewhere a quarter of the way on. */
function differs(matrices: Float32Array): boolean {
  const later = Math.floor(matrices.length / 64) * 16
  return matrices.subarray(0, 16).some((value, at) => Math.abs(value - matrices[later + at]) > 0.01)
}

async function prepared(folder: Moving, rulebook: Rulebook) {
  const kind = kindOf(rulebook, moving[folder])
  const [{ item, files }] = await bringIn(demoSources(folder), kind.id, {}, [])
  const start = await startOf(item, async (sha) => files.find((file) => file.sha256 === sha)?.file.bytes ?? null)
  return { kind, source: start.document, made: await prepareItem(start, { rulebook, kind, store: memoryStore() }) }
}

describe.each(games)('what moves, in %s', (_, rulebook) => {
  const ready = new Map<string, Awaited<ReturnType<typeof prepared>>>()
  beforeAll(async () => {
    for (const folder of Object.keys(moving) as Moving[]) ready.set(folder, await prepared(folder, rulebook))
  })
  const judge = async (folder: Moving, spoil: (document: Document) => void = () => undefined) => {
    const { kind, made } = ready.get(folder) as Awaited<ReturnType<typeof prepared>>
    const document = copyDocument(made.result.document)
    spoil(document)
    const { findings } = checkItem({ document, rulebook, kind })
    const { bytes } = await packItems([{ name: folder, kind, document }], rulebook, 'moving')
    return { findings, trial: loadPack(bytes, rulebook) }
  }

  it.each(Object.keys(moving) as Moving[])(
    '%s comes out of Prepare with nothing to say of its motion',
    async (folder) => {
      const { findings, trial } = await judge(folder)
      expect(findings.filter(({ stage, severity }) => stage === 'motion' && severity !== 'note')).toEqual([])
      expect(trial.log.filter(({ code }) => /^(motion|marker|group)\./.test(code))).toEqual([])
      expect(trial.loads).toBe(true)
    },
  )

  it.each(Object.keys(moving) as Moving[])('%s moves from its packed bytes as it does on the bench', async (folder) => {
    const { kind, made } = ready.get(folder) as Awaited<ReturnType<typeof prepared>>
    const bench = itemMotion(made.result.document)
    const { bytes } = await packItems([{ name: folder, kind, document: made.result.document }], rulebook, 'moving')
    const [{ view, clips }] = loadPack(bytes, rulebook).items
    const loaded = motionFrames(
      { parts: view.filter(({ moves }) => moves).map((node) => ({ name: node.name, thing: node })), bones: [] },
      secondsOf(clips),
      standingsOf(clips),
    )
    expect(loaded?.seconds).toBeCloseTo(bench?.seconds ?? 0, 5)
    expect(loaded?.parts.map(({ name }) => name)).toEqual(bench?.parts.map(({ name }) => name))
    bench?.parts.forEach(({ matrices }, part) => {
      const furthest = matrices.reduce(
        (most, value, at) => Math.max(most, Math.abs(value - (loaded?.parts[part].matrices[at] ?? NaN))),
        0,
      )
      expect(furthest).toBeLessThan(1e-4)
    })
    // It does move: half of the way round it is not where it began.
    expect(bench?.parts.some(({ matrices }) => differs(matrices))).toBe(true)
  })

  it.each(spoilers)('agree about $thing, $rule, $severity ($code)', async ({ thing, rule, severity, code, spoil }) => {
    const { findings, trial } = await judge(thing, spoil)
    expect(findings.find((finding) => finding.rule === rule)?.severity).toBe(severity)
    expect(trial.log.find((line) => line.code === code)?.level).toBe(severity === 'blocks' ? 'refused' : 'complaint')
    expect(trial.loads).toBe(!findings.some((finding) => finding.severity === 'blocks'))
  })
})

describe('markers that nobody put', () => {
  it('are put by Prepare, so that a course of only planks loads', async () => {
    const kind = kindOf(tarnAndTiller, 'course')
    const { source } = await prepared('sluice_walk', tarnAndTiller)
    const document = copyDocument(source)
    for (const node of document.getRoot().listNodes())
      if (!node.getMesh() && node.listChildren().length === 0) node.dispose()
    const { result, findings } = await prepareItem(
      { key: 'planks', document },
      { rulebook: tarnAndTiller, kind, store: memoryStore() },
    )
    expect(findings.filter(({ severity }) => severity !== 'note')).toEqual([])
    const names = listPlaces(result.document).map(({ extras }) => extras.marker)
    expect(names.sort()).toEqual(['arrive', 'floor_limit', 'start'])
    const { bytes } = await packItems([{ name: 'planks', kind, document: result.document }], tarnAndTiller, 'x')
    expect(loadPack(bytes, tarnAndTiller).log.filter(({ level }) => level !== 'told')).toEqual([])
  })
})

describe('a course', () => {
  it('is crossed on its packed gates, of which one came without its motion', async () => {
    const { kind, made } = await prepared('sluice_walk', tarnAndTiller)
    const { bytes } = await packItems([{ name: 'walk', kind, document: made.result.document }], tarnAndTiller, 'x')
    const [{ name, solids, clips, markers }] = loadPack(bytes, tarnAndTiller).items
    const walk = { name, solids, loose: false, motion: { clips, markers, drawn: [] } }
    const yard = await Yard.open([walk], tarnAndTiller, [0, 0, 0])
    const ridden = new Set<string>()
    let run: YardRun | null = null
    for (let step = 0; step < 3600 && !run?.arrivedAfter; step++) {
      const frame = yard.step({ walk: [0, 0, 1], look: [0, 0, 1], actions: [], mindsEdges: true })
      if (frame.ridesOn) ridden.add(frame.ridesOn)
      run = frame.run
    }
    yard.close()
    expect([...ridden]).toEqual(['gate_leaf_1', 'gate_leaf_2', 'gate_leaf_3'])
    expect(run?.falls).toBe(0)
    expect(run?.arrivedAfter).toBeLessThan(60)
    expect(run?.places).toHaveLength(7)
    expect(run?.places.filter(({ taken }) => taken).length).toBeGreaterThan(2)
  })
})
