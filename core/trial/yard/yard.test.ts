import { beforeAll, describe, expect, it } from 'vitest'
import { packItems } from '../../pack/pack-crate.ts'
import { kindOf } from '../../game/load.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { cylinderMesh } from '../../geometry/shapes/round.ts'
import { prepareDemo, tarnAndTiller } from '../../test-support/prepared-gate.ts'
import type { LoadedSolid } from '../check-solids.ts'
import { loadPack } from '../load-pack.ts'
import { restOf } from './rest.ts'
import type { YardAction } from './actions.ts'
import { Yard } from './yard.ts'
import type { Place, YardFrame, YardItem } from './yard-frame.ts'

const solidOf = (
  shape: string,
  positions: Float32Array,
  indices: Uint32Array,
  more: Partial<LoadedSolid> = {},
): LoadedSolid => {
  const at = (axis: number): number[] => [...positions].filter((_, index) => index % 3 === axis)
  const ends = [0, 1, 2].map((axis) => [Math.min(...at(axis)), Math.max(...at(axis))])
  return {
    name: `solid_${shape}_01`,
    shape,
    surface: 'timber',
    layers: ['loose', 'reach'],
    massKilograms: 8,
    positions,
    indices,
    rotation: [0, 0, 0, 1],
    middle: ends.map(([low, high]) => (low + high) / 2) as Place,
    half: ends.map(([low, high]) => (high - low) / 2) as Place,
    ...more,
  }
}
const boxSolid = (min: Place, max: Place, more: Partial<LoadedSolid> = {}): LoadedSolid => {
  const { positions, indices } = boxMesh({ min, max })
  return solidOf('box', positions, indices, more)
}

async function packed(folder: 'boathouse_gate' | 'channel_buoy', kind: string): Promise<LoadedSolid[]> {
  const { result } = await prepareDemo(folder, kind)
  const pack = await packItems(
    [{ name: folder, kind: kindOf(tarnAndTiller, kind), document: result.document }],
    tarnAndTiller,
    'yard',
  )
  const loaded = loadPack(pack.bytes, tarnAndTiller)
  expect(loaded.log.filter(({ level }) => level !== 'told')).toEqual([])
  return loaded.items[0].solids
}

async function play(
  items: YardItem[],
  feet: Place,
  steps: number,
  input: (step: number) => { walk?: Place; look?: Place; actions?: YardAction[] },
): Promise<YardFrame[]> {
  const yard = await Yard.open(items, tarnAndTiller, feet)
  try {
    return Array.from({ length: steps }, (_, step) => {
      const { walk = [0, 0, 0], look = [0, 0, 1], actions = [] } = input(step)
      return yard.step({ walk, look, actions })
    })
  } finally {
    yard.close()
  }
}
const fixed = (name: string, ...solids: LoadedSolid[]): YardItem => ({ name, solids, loose: false })
const loose = (name: string, ...solids: LoadedSolid[]): YardItem => ({ name, solids, loose: true })

describe('the figure', () => {
  let gate: LoadedSolid[]
  beforeAll(async () => {
    gate = await packed('boathouse_gate', 'prop')
  })
  it('walks through the packed gate, and is stopped by a box of its size', async () => {
    const through = await play([fixed('gate', ...gate)], [0, 0, -5], 120, () => ({ walk: [0, 0, 1] }))
    expect(through.at(-1)?.feet[2]).toBeGreaterThan(5)
    const closed = await play([fixed('gate', boxSolid([-4, 0, -1], [4, 6.5, 1]))], [0, 0, -5], 120, () => ({
      walk: [0, 0, 1],
    }))
    expect(closed.at(-1)?.feet[2]).toBeLessThan(-1.3)
    expect(closed.at(-1)?.touches).toEqual({ solid: 'solid_box_01', surface: 'timber' })
  })
  it('goes the same way twice: the same pack and the same keys give the same course', async () => {
    const keys = (step: number) => ({
      walk: [Math.sin(step / 20), 0, 1] as Place,
      actions: step === 40 ? (['ball', 'hit'] as YardAction[]) : [],
    })
    const [first, second] = [
      await play([fixed('gate', ...gate)], [0, 0, -5], 90, keys),
      await play([fixed('gate', ...gate)], [0, 0, -5], 90, keys),
    ]
    expect(second).toEqual(first)
  })
  it('climbs what is no higher than a step, and nothing that is', async () => {
    const over = async (height: number): Promise<number> =>
      (
        await play([fixed('sill', boxSolid([-3, 0, 0], [3, height, 3]))], [0, 0, -3], 90, () => ({ walk: [0, 0, 1] }))
      ).at(-1)?.feet[2] ?? 0
    expect(await over(0.5)).toBeGreaterThan(2)
    expect(await over(1)).toBeLessThan(0)
  })
  it('walks up a slope of 35° and not one of 60°', async () => {
    const ramp = (degrees: number): LoadedSolid => {
      const rise = Math.tan((degrees * Math.PI) / 180) * 6
      return solidOf(
        'hull',
        Float32Array.from([-3, 0, 0, 3, 0, 0, -3, 0, 6, 3, 0, 6, -3, rise, 6, 3, rise, 6]),
        Uint32Array.from([0, 1, 2]),
      )
    }
    const height = async (degrees: number): Promise<number> =>
      (await play([fixed('ramp', ramp(degrees))], [0, 0, -2], 60, () => ({ walk: [0, 0, 1] }))).at(-1)?.feet[1] ?? 0
    expect(await height(35)).toBeGreaterThan(1.5)
    expect(await height(60)).toBeLessThan(0.7)
  })
  it('pushes, takes, carries and stacks what is loose, and throws it', async () => {
    const crate = (): YardItem => loose('crate', boxSolid([-0.5, 0, -0.5], [0.5, 1, 0.5], { massKilograms: 6 }))
    const pushed = await play([crate()], [0, 0, -2], 60, () => ({ walk: [0, 0, 1] }))
    expect(pushed.at(-1)?.moved[0].place[2]).toBeGreaterThan(1)
    const down: Place = [0, -0.6, 0.8]
    const carried = await play([crate()], [0, 0, -2], 140, (step) => ({
      look: down,
      walk: step > 10 && step < 70 ? [0, 0, 1] : [0, 0, 0],
      actions: step === 5 || step === 100 ? ['take'] : [],
    }))
    expect(carried[60].carries).toBe('crate')
    expect(carried[90].moved[0].place[1]).toBeGreaterThan(1.5)
    expect(carried.at(-1)?.carries).toBeNull()
    expect(carried.at(-1)?.moved[0].place[1]).toBeLessThan(0.7)
    expect(carried.at(-1)?.moved[0].place[2]).toBeGreaterThan(5)
    const thrown = await play([crate()], [0, 0, -2], 60, (step) => ({
      look: step < 6 ? down : [0, 0.3, 0.95],
      actions: step === 5 ? ['take'] : step === 15 ? ['throw'] : [],
    }))
    expect(thrown.at(-1)?.moved[0].place[2]).toBeGreaterThan(4)
    const stacked = await play([loose('crate', boxSolid([-0.5, 0, -0.5], [0.5, 1, 0.5]))], [0, 0, -6], 240, (step) => ({
      actions: step === 5 ? ['drop-another'] : [],
    }))
    expect(stacked.at(-1)?.moved.map(({ place }) => Math.round(place[1] * 10) / 10)).toEqual([0.5, 1.5])
  })
  it('throws balls that bounce off, and breaks a thing by its donor’s toughness, which leaves its remains', async () => {
    const wall = fixed('wall', boxSolid([-3, 0, 0], [3, 5, 1], { surface: 'timber' }))
    const thrown = await play([wall], [0, 0, -4], 90, (step) => ({ actions: step === 2 ? ['ball'] : [] }))
    expect(thrown[8].balls[0].place[2]).toBeGreaterThan(-3)
    expect(thrown.at(-1)?.balls[0].place[2]).toBeLessThan(-0.2)
    expect(thrown.flatMap(({ knocks }) => knocks.map(({ surface }) => surface))).toContain('timber')
    // The yard gate is the first donor of timber: toughness 40, four blows, and it leaves splinters.
    const hits = await play([wall], [0, 0, -1.5], 60, (step) => ({ actions: step % 10 === 5 ? ['hit'] : [] }))
    expect(hits[34].broken).toEqual([])
    expect(hits.at(-1)?.broken).toEqual([{ item: 'wall', remains: 'splinters' }])
    expect(hits.at(-1)?.remains.length).toBe(5)
    const tough = await play([{ ...wall, like: 'stock_bell' }], [0, 0, -1.5], 60, (step) => ({
      actions: step % 10 === 5 ? ['hit'] : [],
    }))
    expect(tough.at(-1)?.broken).toEqual([])
  })
})

describe('what becomes of loose things', () => {
  it('the packed buoy, dropped from 2 spans, rests in under 4 s', async () => {
    const result = await restOf(await packed('channel_buoy', 'loose'), tarnAndTiller, 2)
    expect(result.seconds).not.toBeNull()
    expect(result.seconds ?? 9).toBeLessThan(4)
    expect(Math.abs(result.endHeight)).toBeLessThan(0.1)
  })
  it('a box stays as it is put and a leaning pole topples', async () => {
    expect(await restOf([boxSolid([-1, 0, -1], [1, 1, 1])], tarnAndTiller, 0)).toMatchObject({ verdict: 'rests' })
    const pole = cylinderMesh(0.1, 2)
    const lean = {
      ...pole,
      positions: pole.positions.map((_, at) => {
        const [x, y] = [pole.positions[at - (at % 3)], pole.positions[at - (at % 3) + 1]]
        return at % 3 === 0 ? x + y * 0.4 : pole.positions[at]
      }),
    }
    expect(await restOf([solidOf('hull', lean.positions, lean.indices)], tarnAndTiller, 0)).toMatchObject({
      verdict: 'topples',
    })
  })
  it('the same fall gives the same numbers', async () => {
    const drop = () =>
      restOf([boxSolid([-1, 0, -0.3], [1, 0.4, 0.3], { rotation: [0, 0, 0.2588, 0.9659] })], tarnAndTiller, 3)
    expect(await drop()).toEqual(await drop())
  })
})
