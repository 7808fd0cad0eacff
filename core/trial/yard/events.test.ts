import { describe, expect, it } from 'vitest'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import type { LoadedSolid } from '../check-solids.ts'
import type { LoadedEvent } from '../entry/read-entry.ts'
import type { LoadedChannel, LoadedNode } from '../loaders/mesh/loaded-mesh.ts'
import type { YardAction } from './actions.ts'
import { Yard } from './yard.ts'
import type { Place, YardFrame, YardItem } from './yard-frame.ts'

const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
const node = (name: string, parent: LoadedNode | null): LoadedNode => ({
  name,
  world: identity,
  translation: [0, 0, 0],
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

/** A box two spans wide before the figure, which holds a lid that a clip lifts by a span in one second. */
function chest(list: LoadedEvent[], layers = ['walls', 'reach']): YardItem {
  const root = node('chest', null)
  const body = node('body', root)
  const lid = node('lid', root)
  const { positions, indices } = boxMesh({ min: [-1, 0, -4], max: [1, 3, -2] })
  const solid: LoadedSolid = {
    name: 'solid_box_01',
    shape: 'box',
    surface: 'timber',
    layers,
    massKilograms: null,
    positions,
    indices,
    rotation: [0, 0, 0, 1],
    middle: [0, 1.5, -3],
    half: [1, 1.5, 1],
  }
  const rises: LoadedChannel = {
    node: lid,
    path: 'translation',
    interpolation: 'LINEAR',
    times: Float32Array.from([0, 1]),
    values: Float32Array.from([0, 0, 0, 0, 1, 0]),
  }
  return {
    name: 'chest',
    loose: false,
    solids: [solid],
    events: { list, nodes: [root, body, lid, node('solid_box_01', body)] },
    motion: { clips: [{ name: 'rise', channels: [rises] }], markers: [], drawn: [lid] },
  }
}

/** What the yard looks like after each step, with an action at the first; the figure stands before the chest. */
async function play(
  item: YardItem,
  steps: number,
  action: YardAction | null,
  walk: Place = [0, 0, 0],
): Promise<YardFrame[]> {
  const yard = await Yard.open([item], tarnAndTiller, [0, 0, 0])
  try {
    return Array.from({ length: steps }, (_, step) =>
      yard.step({ walk, look: [0, -0.3, -1], actions: step === 0 && action ? [action] : [] }),
    )
  } finally {
    yard.close()
  }
}
const words = (frames: readonly YardFrame[]): string[] =>
  frames.flatMap(({ happened }) => happened.map((each) => each.words))
const lidHeight = (frame: YardFrame | undefined): number => frame?.standing[0].matrix[13] ?? NaN

describe('events in the yard', () => {
  it('are set off by hand, each told in the log with its time', async () => {
    const frames = await play(chest([{ when: 'used', at: 'body', do: 'ring', to: 'lid' }]), 10, 'use')
    expect(words(frames)).toEqual(['body used → ring lid'])
    expect(frames.flatMap(({ knocks }) => knocks)).toEqual([{ surface: 'timber', loudness: 1 }])
  })

  it('are set off once by walking into a thing, however long one leans on it', async () => {
    const frames = await play(chest([{ when: 'touched', do: 'ring' }]), 120, null, [0, 0, -1])
    expect(words(frames)).toEqual(['chest touched → ring chest'])
  })

  it('are set off by a ball, and by a blow', async () => {
    expect(words(await play(chest([{ when: 'bumped', do: 'ring' }]), 60, 'ball'))).toContain(
      'chest bumped → ring chest',
    )
    expect(words(await play(chest([{ when: 'bumped', do: 'ring' }]), 5, 'hit'))).toEqual(['chest bumped → ring chest'])
  })

  it('are not set off by what the game does not heed: no layer to be used by, no such part', async () => {
    expect(words(await play(chest([{ when: 'used', do: 'ring' }], ['walls']), 10, 'use'))).toEqual([])
    expect(words(await play(chest([{ when: 'used', at: 'lid', do: 'ring' }]), 10, 'use'))).toEqual([])
  })

  it('hold a clip at its beginning, play it to its end and back', async () => {
    const opens = chest([{ when: 'used', do: 'open', to: 'lid' }])
    const still = await play(opens, 60, null)
    expect(lidHeight(still.at(-1))).toBeCloseTo(0)
    const opened = await play(opens, 120, 'use')
    expect(lidHeight(opened[30])).toBeCloseTo(0.5, 1)
    expect(lidHeight(opened.at(-1))).toBeCloseTo(1, 3)
    const shut = await play(
      chest([
        { when: 'used', do: 'open' },
        { when: 'opened', do: 'close' },
      ]),
      120,
      'use',
    )
    expect(words(shut)).toEqual(['chest used → open chest', 'chest opened → close chest'])
    expect(lidHeight(shut.at(-1))).toBeCloseTo(0, 3)
  })

  it('hide what they hide, which is walked through then', async () => {
    const frames = await play(chest([{ when: 'touched', do: 'hide' }]), 120, null, [0, 0, -1])
    expect(frames.at(-1)?.hidden).toContain('body')
    expect(frames.at(-1)?.feet[2]).toBeLessThan(-5)
  })

  it('end after so many, even in a circle that the loader would have refused', async () => {
    const frames = await play(
      chest([
        { when: 'used', do: 'ring' },
        { when: 'rung', do: 'ring' },
      ]),
      3,
      'use',
    )
    expect(words(frames)).toHaveLength(100)
  })

  it('say of another item that it does not stand here', async () => {
    const frames = await play(chest([{ when: 'used', do: 'ring', to: 'far_bell' }]), 3, 'use')
    expect(words(frames)).toEqual(['chest used → ring far_bell, which does not stand here'])
  })
})
