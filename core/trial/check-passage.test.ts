import { describe, expect, it } from 'vitest'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { kindOf } from '../game/load.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { checkPassage } from './check-passage.ts'
import type { LoadedSolid } from './check-solids.ts'
import { TrialLog } from './log.ts'
import { isNearlySolid } from './solid-names.ts'
import type { SortedNodes } from './sorted-nodes.ts'

type Corner = [number, number, number]
const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
const drawn = (...boxes: [Corner, Corner][]): SortedNodes => ({
  view: boxes.map(([min, max], index) => ({
    name: `part_${index}`,
    world: identity,
    primitives: [{ ...boxMesh({ min, max }), normals: null, tangents: false, uvs: null, material: null }],
  })) as never,
  levels: new Map(),
  shadow: [],
  solids: [],
})
const solids = (...boxes: [Corner, Corner][]): LoadedSolid[] =>
  boxes.map(([min, max], index) => ({
    ...boxMesh({ min, max }),
    name: `solid_box_${index}`,
    shape: 'box',
    surface: 'stone',
    layers: [],
    massKilograms: null,
    rotation: [0, 0, 0, 1],
    middle: [0, 0, 0],
    half: [1, 1, 1],
  }))
const complaints = (sorted: SortedNodes, bumped: LoadedSolid[], kind = 'prop'): string[] => {
  const log = new TrialLog()
  checkPassage('gate.glb', sorted, bumped, tarnAndTiller, kindOf(tarnAndTiller, kind), log)
  return log.lines.map(({ code }) => code)
}
const piers: [Corner, Corner][] = [
  [
    [-4, 0, -0.5],
    [-1.2, 5, 0.5],
  ],
  [
    [1.2, 0, -0.5],
    [4, 5, 0.5],
  ],
]

describe('the loader walks straight through', () => {
  it('and not where a board is in the way, however thin and wherever it is', () => {
    const board = (height: number): [Corner, Corner] => [
      [-4, height, -0.5],
      [4, height + 0.02, 0.5],
    ]
    const round: [Corner, Corner] = [
      [-4, 0, -0.5],
      [4, 5, 0.5],
    ]
    for (const height of [0.9, 1.4, 2.1, 2.9])
      expect(complaints(drawn(...piers, board(height)), solids(round))).toEqual([])
    for (const height of [0.1, 4])
      expect(complaints(drawn(...piers, board(height)), solids(round))).toEqual(['solid.closes'])
  })

  it('and complains of a way that the solids close, in either direction', () => {
    expect(
      complaints(
        drawn(...piers),
        solids([
          [-4, 0, -0.5],
          [4, 5, 0.5],
        ]),
      ),
    ).toEqual(['solid.closes'])
    const turned = piers.map(([min, max]): [Corner, Corner] => [
      [min[2], min[1], min[0]],
      [max[2], max[1], max[0]],
    ])
    expect(
      complaints(
        drawn(...turned),
        solids([
          [-0.5, 0, -4],
          [0.5, 5, 4],
        ]),
      ),
    ).toEqual(['solid.closes'])
  })
  it('and is silent where the solids leave it, where there is none, and past the item', () => {
    expect(complaints(drawn(...piers), solids(...piers))).toEqual([])
    expect(
      complaints(
        drawn([
          [-4, 0, -0.5],
          [4, 5, 0.5],
        ]),
        solids([
          [-4, 0, -0.5],
          [4, 5, 0.5],
        ]),
      ),
    ).toEqual([])
    expect(
      complaints(
        drawn([
          [-4, 0, -0.5],
          [-3, 5, 0.5],
        ]),
        solids([
          [-4, 0, -0.5],
          [4, 5, 0.5],
        ]),
      ),
    ).toEqual([])
    expect(complaints(drawn(...piers), [])).toEqual([])
  })
  it('does not mind a sill that is stepped over, nor what is loose', () => {
    expect(
      complaints(
        drawn(...piers),
        solids(...piers, [
          [-1.2, 0, -0.5],
          [1.2, 0.5, 0.5],
        ]),
      ),
    ).toEqual([])
    expect(
      complaints(
        drawn(...piers),
        solids([
          [-4, 0, -0.5],
          [4, 5, 0.5],
        ]),
        'loose',
      ),
    ).toEqual([])
  })
})

describe('names that are nearly a solid’s, as the loader reads them', () => {
  it.each(['solid_bx_01', 'soldi_box_01', 'Solid_Box_01', 'solidbox', 'solid_hulll_02', 'solid.mesh.001'])(
    '%s is one',
    (name) => expect(isNearlySolid(name, tarnAndTiller)).toBe(true),
  )
  it.each(['solid_base', 'solitude', 'arch_stone', 'box_01', 'solid'])('%s is none', (name) =>
    expect(isNearlySolid(name, tarnAndTiller)).toBe(false),
  )
})
