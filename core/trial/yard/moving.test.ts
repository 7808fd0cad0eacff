import { describe, expect, it } from 'vitest'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import type { LoadedMarker } from '../check-markers.ts'
import type { LoadedSolid } from '../check-solids.ts'
import type { LoadedChannel, LoadedNode } from '../loaders/mesh/loaded-mesh.ts'
import { Yard } from './yard.ts'
import type { Place, YardFrame, YardInput, YardItem } from './yard-frame.ts'

const nodeAt = (name: string, at: Place, parent: LoadedNode | null = null): LoadedNode => ({
  name,
  world: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, ...at, 1],
  translation: at,
  turned: false,
  primitives: [],
  parent,
  extras: {},
  extensions: [],
  bones: [],
  skeleton: [],
  light: null,
  moves: false,
})

function box(min: Place, max: Place, node?: LoadedNode): LoadedSolid {
  const { positions, indices } = boxMesh({ min, max })
  return {
    name: 'solid_box_01',
    shape: 'box',
    surface: 'timber',
    layers: ['ground'],
    massKilograms: null,
    positions,
    indices,
    rotation: [0, 0, 0, 1],
    middle: min.map((low, axis) => (low + max[axis]) / 2) as Place,
    half: min.map((low, axis) => (max[axis] - low) / 2) as Place,
    ...(node ? { node } : {}),
  }
}

/** A node that is moved from where it stands by the given ways, one a second, and round again. */
const moved = (node: LoadedNode, ...ways: Place[]): LoadedChannel => ({
  node,
  path: 'translation',
  interpolation: 'LINEAR',
  times: Float32Array.from(ways.map((_, second) => second)),
  values: Float32Array.from(ways.flatMap((way) => way.map((value, axis) => value + node.translation[axis]))),
})

async function play(
  item: YardItem,
  feet: Place,
  steps: number,
  input: (frame: YardFrame | null) => Partial<YardInput>,
) {
  const yard = await Yard.open([item], tarnAndTiller, feet)
  try {
    const frames: YardFrame[] = []
    for (let step = 0; step < steps; step++)
      frames.push(yard.step({ walk: [0, 0, 0], look: [0, 0, 1], actions: [], ...input(frames.at(-1) ?? null) }))
    return frames
  } finally {
    yard.close()
  }
}
const last = (frames: YardFrame[]): YardFrame => frames[frames.length - 1]

/** Two landings five spans apart over a fall, and a raft that goes from one to the other and back in six seconds. */
function ferry(): YardItem {
  const raft = nodeAt('raft', [0, 2, 3])
  const held = nodeAt('raft_part', [0, 2, 3], raft)
  const riding = nodeAt('stamp_01', [0, 3, 3], raft)
  const markers: LoadedMarker[] = [
    { node: nodeAt('start', [0, 2, -3]), does: 'begins' },
    { node: nodeAt('arrive', [0, 2, 9]), does: 'ends' },
    { node: riding, does: 'collected' },
    { node: nodeAt('floor_limit', [0, -4, 0]), does: 'begins-again-below' },
  ]
  return {
    name: 'ferry',
    loose: false,
    solids: [
      box([-2, 1, -4], [2, 2, 0]),
      box([-2, 1, 6], [2, 2, 10]),
      box([-1.5, 1.8, 1], [1.5, 2.1, 3.2], nodeAt('solid_box_01', [0, 2, 3], held)),
    ],
    motion: {
      clips: [
        {
          name: 'swing',
          channels: [moved(raft, [0, 0, -1], [0, 0, -0.5], [0, 0, 1], [0, 0, 3], [0, 0, 3], [0, 0, 1], [0, 0, -1])],
        },
      ],
      markers,
      drawn: [held],
    },
  }
}

describe('what moves in the yard', () => {
  it('takes who stands on it along, and its solids stand where its drawing does', async () => {
    const raft = nodeAt('raft', [0, 0, 0])
    const held = nodeAt('raft_part', [0, 0, 0], raft)
    const item: YardItem = {
      name: 'raft',
      loose: false,
      solids: [box([-2, 0, -2], [2, 0.5, 2], nodeAt('solid_box_01', [0, 0, 0], held))],
      motion: { clips: [{ name: 'turn', channels: [moved(raft, [0, 0, 0], [3, 1, 0])] }], markers: [], drawn: [held] },
    }
    const frames = await play(item, [0, 0.5, 0], 59, () => ({}))
    const { feet, standing, ridesOn } = last(frames)
    expect(standing[0].matrix[12]).toBeCloseTo(2.95, 4)
    expect(Math.abs(feet[0] - 2.95)).toBeLessThan(0.08)
    expect(Math.abs(feet[1] - (0.5 + 0.983))).toBeLessThan(0.05)
    expect(ridesOn).toBe('raft_part')
  })
  it('pushes away who stands in its way', async () => {
    const wall = nodeAt('wall', [0, 0, 0])
    const item: YardItem = {
      name: 'wall',
      loose: false,
      solids: [box([-4, 0, -2], [-3, 4, 2], wall)],
      motion: { clips: [{ name: 'turn', channels: [moved(wall, [0, 0, 0], [6, 0, 0])] }], markers: [], drawn: [] },
    }
    const { feet } = last(await play(item, [0, 0, 0], 58, () => ({})))
    // The wall's face has come to 2.9, and half a figure stands before it.
    expect(feet[0]).toBeGreaterThan(3)
    expect(feet[1]).toBeLessThan(0.1)
  })
})

/** A board over the gap between two decks, swinging about a hinge at their side by 0.9 rad to either side in 6 s. */
function swingingBoard(): YardItem {
  const hinge = nodeAt('gate', [-1.8, 2, 5.2])
  const board = nodeAt('gate_leaf', [-1.8, 2, 5.2], hinge)
  const count = 145
  const times = Float32Array.from({ length: count }, (_, key) => key / 24)
  const turns = [...times].map((time) => 0.45 * Math.sin((time / 6) * Math.PI * 2))
  return {
    name: 'board',
    loose: false,
    solids: [
      box([-1.8, 1.7, 0], [1.8, 1.9, 4]),
      box([-1.8, 1.7, 6.4], [1.8, 1.9, 10.4]),
      box([-1.8, 2, 4.4], [1.6, 2.16, 6], nodeAt('solid_box_01', [-1.8, 2, 5.2], board)),
    ],
    motion: {
      clips: [
        {
          name: 'swing',
          channels: [
            {
              node: hinge,
              path: 'rotation',
              interpolation: 'LINEAR',
              times,
              values: Float32Array.from(turns.flatMap((half) => [0, Math.sin(half), 0, Math.cos(half)])),
            },
          ],
        },
      ],
      markers: [
        { node: nodeAt('start', [0, 1.9, 1]), does: 'begins' },
        { node: nodeAt('arrive', [0, 1.9, 9]), does: 'ends' },
        { node: nodeAt('floor_limit', [0, -4, 0]), does: 'begins-again-below' },
      ],
      drawn: [board],
    },
  }
}

describe('a run', () => {
  it.each([
    [1, 75],
    [0, 0],
    [-1, 0],
  ])('over a board that turns away is not lost by who minds edges: at %f, begun after %i steps', async (x, delay) => {
    const item = swingingBoard()
    const start = nodeAt('start', [x, 1.9, 1])
    const markers = item.motion?.markers.map((marker) =>
      marker.does === 'begins' ? { ...marker, node: start } : marker,
    )
    let steps = 0
    const frames = await play(
      { ...item, motion: item.motion && { ...item.motion, markers: markers ?? [] } },
      [x, 1.9, 1],
      900,
      () => ({ walk: steps++ < delay ? [0, 0, 0] : [0, 0, 1], mindsEdges: true }),
    )
    expect(frames.some(({ ridesOn }) => ridesOn === 'gate_leaf')).toBe(true)
    expect(last(frames).run?.falls).toBe(0)
  })
  it('is finished by who minds the edges: carried over, with what rides on the raft', async () => {
    const frames = await play(ferry(), [9, 9, 9], 1500, () => ({ walk: [0, 0, 1], mindsEdges: true }))
    expect(Math.abs(frames[0].feet[2] + 3)).toBeLessThan(0.2)
    expect(frames.some(({ ridesOn }) => ridesOn === 'raft_part')).toBe(true)
    const { run } = last(frames)
    expect(run?.falls).toBe(0)
    expect(run?.places).toMatchObject([{ name: 'stamp_01', taken: true }])
    expect(run?.arrivedAfter).toBeGreaterThan(2)
    expect(run?.arrivedAfter).toBeLessThan(25)
  })
  it('begins again for who walks on regardless, and keeps what was taken', async () => {
    const item = ferry()
    const still = { ...item, motion: item.motion && { ...item.motion, clips: [] } }
    const frames = await play(still, [0, 0, 0], 900, () => ({ walk: [1, 0, 0] }))
    expect(last(frames).run?.falls).toBeGreaterThan(1)
    const again = frames.findIndex(({ run }) => run?.falls === 1)
    expect(frames[again].feet[2]).toBeCloseTo(-3, 1)
    expect(frames[again].feet[0]).toBeCloseTo(0, 1)
    expect(last(frames).run?.arrivedAfter).toBe(null)
  })
})
