import { createDocument } from '../../item/io.ts'
import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { kindOf, parseRulebook } from '../../game/load.ts'
import type { Rulebook, Skeleton } from '../../game/schema.ts'
import { weightOfBone, weightSum } from '../../geometry/skin/weight-table.ts'
import { itemScene, listViewParts, restMatrix } from '../../item/parts.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { breaksOf } from '../../operations/motion/measure-bend.ts'
import { skeletonOf, standSkeleton } from '../../operations/motion/skeletons.ts'
import { listHeldParts, meshSoup, readHeldMesh } from '../../operations/motion/skin.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { ball, documentOf } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { runStep } from '../../test-support/step-runs.ts'

const bender = kindOf(tarnAndTiller, 'bender')
const options = { rulebook: tarnAndTiller, kind: bender }

/** A cloth over two posts, as columns of squares. */
function cloth(columns: number, rows = 2) {
  const positions: number[] = []
  const indices: number[] = []
  for (let x = 0; x <= columns; x++) for (let z = 0; z <= rows; z++) positions.push((x / columns) * 10 - 5, 4, z)
  for (let x = 0; x < columns; x++)
    for (let z = 0; z < rows; z++) {
      const [a, b] = [x * (rows + 1) + z, (x + 1) * (rows + 1) + z]
      indices.push(a, a + 1, b + 1, a, b + 1, b)
    }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}
const post = (x: number) => boxMesh({ min: [x - 0.1, 3, 0], max: [x + 0.1, 4, 2] })
const tent = (columns = 10) => documentOf({ cloth: cloth(columns), left: post(-5), right: post(5) })

const held = (document: Document, name = 'cloth') => {
  const part = listHeldParts(document).find((each) => each.name === name)
  const mesh = part && readHeldMesh(part)
  if (!mesh) throw new Error(`nothing holds ${name}`)
  return mesh
}
const shareAt = (document: Document, x: number, bone: number): number => {
  const { positions, table } = held(document)
  const corner = [...Array(table.corners).keys()].find((each) => Math.abs(positions[each * 3] - x) < 1e-4)
  return weightOfBone(table, corner ?? -1, bone)
}
const made = async (document = tent(), parameters = {}) =>
  (
    await runStep(
      'make-bones',
      document,
      { from: 'parts', bones: ['left', 'right'], skeleton: '', bent: ['cloth'], ...parameters },
      options,
    )
  ).after

describe('making bones', () => {
  it('puts a bone at the origin of each stiff part, named by the rulebook, and leaves all where it is', async () => {
    const document = tent()
    const [part] = listViewParts(document)
    part.node.setTranslation([0, 1, 0])
    const before = transformedPoints(meshSoup(part.mesh).positions, part.node.getWorldMatrix())
    const after = await made(document)
    const { bones, positions } = held(after)
    expect(bones.map((bone) => [bone.getName(), bone.getParentNode()?.getName()])).toEqual([
      ['bone_left', 'left'],
      ['bone_right', 'right'],
    ])
    const [{ node }] = listHeldParts(after)
    expect(node.getParentNode()).toBeNull()
    transformedPoints(positions, restMatrix(node)).forEach((value, at) => expect(value).toBeCloseTo(before[at], 5))
    expect([shareAt(after, -5, 0), shareAt(after, 5, 1), shareAt(after, 0, 0)]).toEqual([1, 1, 0.5])
  })

  it('takes a skeleton that the game has, and hangs its bones on stiff parts', async () => {
    const [skeleton] = tarnAndTiller.stock.skeletons
    const after = await made(tent(), { from: 'stock', skeleton: skeleton.id })
    const { bones } = held(after)
    expect(bones.map((bone) => bone.getName())).toEqual(skeleton.bones.map(({ name }) => name))
    bones.forEach((bone, number) =>
      bone
        .getWorldTranslation()
        .forEach((value, axis) => expect(value).toBeCloseTo(skeleton.bones[number].at[axis], 5)),
    )
    expect(
      bones.filter((bone) => bone.getParentNode()?.getMesh()).map((bone) => bone.getParentNode()?.getName()),
    ).toEqual(['left', 'right'])
  })

  it('says what it misses instead of doing something else', async () => {
    for (const parameters of [{ bones: [] }, { bent: ['sail'] }, { from: 'stock', skeleton: 'gone' }]) {
      const { summary } = await runStep(
        'make-bones',
        tent(),
        { from: 'parts', bones: ['left'], skeleton: '', bent: ['cloth'], ...parameters },
        options,
      )
      expect(summary.changed).toBe(false)
      expect(summary.doesNotApply).toBeTruthy()
    }
  })
})

describe('a skeleton in stock', () => {
  const spaces = [
    { up: '+z', forward: '-x', handedness: 'left' },
    { up: '+y', forward: '+z', handedness: 'right' },
    { up: '-x', forward: '+y', handedness: 'left' },
  ] as const
  it.each(spaces)('stands in an item as in the game with $up up, $forward forward, $handedness-handed', (axes) => {
    const space: Rulebook['space'] = { ...tarnAndTiller.space, ...axes }
    const turn = [0.1, 0.7, -0.3].map((value) => value)
    const w = Math.sqrt(1 - turn.reduce((sum, value) => sum + value * value, 0))
    const skeleton: Skeleton = {
      id: 'arm',
      title: 'Arm',
      bones: [
        { name: 'shoulder', parent: null, at: [1, 2, 3], turn: [turn[0], turn[1], turn[2], w] },
        { name: 'hand', parent: 'shoulder', at: [1, 5, 3], turn: [0, 0, 0, 1] },
      ],
    }
    const document = createDocument('arm')
    const bones = standSkeleton(document, skeleton, space)
    expect(bones[1].getParentNode()).toBe(bones[0])
    const back = skeletonOf(document, 'arm', 'Arm', space)
    expect(back?.bones.map(({ name, parent }) => [name, parent])).toEqual([
      ['shoulder', null],
      ['hand', 'shoulder'],
    ])
    back?.bones.forEach(({ at, turn: turned }, bone) => {
      at.forEach((value, axis) => expect(value).toBeCloseTo(skeleton.bones[bone].at[axis], 5))
      const same = turned.reduce((sum, value, axis) => sum + value * skeleton.bones[bone].turn[axis], 0)
      expect(Math.abs(same)).toBeCloseTo(1, 5)
    })
  })

  it('with a bone that hangs on none before it, or two of one name, is refused where it is', () => {
    const with_ = (bones: object[]): string =>
      JSON.stringify({
        ...tarnAndTiller,
        stock: { ...tarnAndTiller.stock, skeletons: [{ id: 'x', title: 'X', bones }] },
      })
    const at = [0, 0, 0]
    expect(() => parseRulebook(with_([{ name: 'a', parent: 'b', at }]), 'x.json')).toThrow(/hangs on “b”/)
    expect(() =>
      parseRulebook(
        with_([
          { name: 'a', parent: null, at },
          { name: 'a', parent: null, at },
        ]),
        'x.json',
      ),
    ).toThrow(/two bones named “a”/)
  })
})

describe('assigning', () => {
  const assign = async (parameters: object) => {
    const start = await made()
    const defaults = { part: 'cloth', corners: 'all', points: [], wider: 0, faces: [], others: false, to: 'bone' }
    return runStep('assign-weights', start, { ...defaults, bone: 'bone_right', like: '', ...parameters }, options)
  }
  const follows = (document: Document): string =>
    [-5, -4, -3, -2, -1, 0, 1, 2, 3, 4, 5]
      .map((x) => (shareAt(document, x, 1) === 1 ? 'r' : shareAt(document, x, 0) === 1 ? 'l' : '-'))
      .join('')

  it.each([
    ['all', {}, 'rrrrrrrrrrr'],
    [
      'box',
      {
        points: [
          [-5, 0, -1],
          [-4, 5, 3],
        ],
      },
      'rrlll-rrrrr',
    ],
    [
      'box',
      {
        points: [
          [-5, 0, -1],
          [-4, 5, 3],
        ],
        wider: 1,
      },
      'rrrll-rrrrr',
    ],
    [
      'ball',
      {
        points: [
          [-5, 4, 1],
          [-3, 4, 1],
        ],
        wider: 0.5,
      },
      'rrrll-rrrrr',
    ],
    [
      'side',
      {
        points: [
          [-2.5, 4, 0],
          [-3, 4, 0],
        ],
      },
      'rrrll-rrrrr',
    ],
    [
      'side',
      {
        points: [
          [-2.5, 4, 0],
          [-3, 4, 0],
        ],
        others: true,
      },
      'lllrrrrrrrr',
    ],
    [
      'picked',
      { faces: [{ part: 'cloth', point: [-4.6, 4, 0.5], growth: 'round', angleDegrees: 0, radius: 0.5 }] },
      'rrlll-rrrrr',
    ],
    ['unheld', {}, 'lllll-rrrrr'],
  ])('%s: %o', async (corners, more, expected) => {
    const { after } = await assign({ corners, ...more })
    expect(follows(after)).toBe(expected)
    const { table } = held(after)
    for (let corner = 0; corner < table.corners; corner++) expect(weightSum(table, corner)).toBeCloseTo(1, 6)
  })

  it('gives back to the nearest what was assigned elsewhere', async () => {
    const { after } = await assign({})
    const { after: again } = await runStep(
      'assign-weights',
      after,
      {
        part: 'cloth',
        corners: 'all',
        points: [],
        wider: 0,
        faces: [],
        others: false,
        to: 'nearest',
        bone: '',
        like: '',
      },
      options,
    )
    expect(follows(again)).toBe('lllll-rrrrr')
  })

  it('hangs a cover on the bones of what it lies on, as that is held', async () => {
    const start = await made(documentOf({ cloth: cloth(10), left: post(-5), right: post(5), cover: liftedCloth() }))
    const { after, summary } = await runStep(
      'assign-weights',
      start,
      {
        part: 'cover',
        corners: 'all',
        points: [],
        wider: 0,
        faces: [],
        others: false,
        to: 'surface',
        bone: '',
        like: 'cloth',
      },
      options,
    )
    expect(summary.changed).toBe(true)
    const [body, cover] = [held(after), held(after, 'cover')]
    expect(cover.bones).toEqual(body.bones)
    for (let corner = 0; corner < cover.table.corners; corner++)
      for (const bone of [0, 1])
        expect(weightOfBone(cover.table, corner, bone)).toBeCloseTo(weightOfBone(body.table, corner, bone), 3)
  })

  it('says that a bone or a part is gone', async () => {
    expect((await assign({ bone: 'bone_mast' })).summary.doesNotApply).toMatch(/bone_mast/)
    expect((await assign({ part: 'sail' })).summary.doesNotApply).toMatch(/sail/)
  })
})

const liftedCloth = () => {
  const { positions, indices } = cloth(10)
  return { positions: positions.map((value, at) => (at % 3 === 1 ? value + 0.05 : value)), indices }
}

describe('a bend', () => {
  it('is rounder after rows are added, and the rest shape stays', async () => {
    const start = await made(tent(4))
    const { after, summary } = await runStep('add-bend-rows', start, { parts: [], mostDegrees: 10 }, options)
    expect(summary.changed).toBe(true)
    expect(breaksOf(held(after)).worstDegrees).toBeLessThan(breaksOf(held(start)).worstDegrees)
    const { positions } = held(after)
    for (let at = 1; at < positions.length; at += 3) expect(positions[at]).toBe(4)
    const { table } = held(after)
    for (let corner = 0; corner < table.corners; corner++) expect(weightSum(table, corner)).toBeCloseTo(1, 6)
  })

  it('mirrored, holds the left as the right is held', async () => {
    const start = await made()
    const uneven = (
      await runStep(
        'assign-weights',
        start,
        {
          part: 'cloth',
          corners: 'box',
          points: [
            [2, 0, -1],
            [4, 5, 3],
          ],
          wider: 0,
          faces: [],
          others: false,
          to: 'bone',
          bone: 'bone_left',
          like: '',
        },
        options,
      )
    ).after
    const { after } = await runStep('mirror-weights', uneven, { parts: [], keep: '+x', at: 0 }, options)
    for (const x of [1, 2, 3, 4, 5]) expect(shareAt(after, -x, 0)).toBeCloseTo(shareAt(after, x, 1), 4)
    expect(shareAt(after, 3, 0)).toBe(1)
    expect(shareAt(after, -3, 1)).toBe(1)
  })

  it('is limited to as many bones as the game reads, which the summary says', async () => {
    const parts: Record<string, ReturnType<typeof ball>> = { cloth: cloth(30) }
    for (let number = 0; number < 30; number++) parts[`knob${number}`] = ball(0.1, 4, [(number / 29) * 10 - 5, 4, 1])
    const many = await made(documentOf(parts), { bones: Object.keys(parts).slice(1) })
    expect(held(many).bones.length).toBe(30)
    const { after, summary } = await runStep(
      'limit-weights',
      many,
      { influences: 4, bones: 24, leastPercent: 0.5 },
      options,
    )
    expect(held(after).bones.length).toBe(24)
    expect(summary.details.join(' ')).toMatch(/off by [\d.]+ spans at most/)
    expect(itemScene(after)).toBeTruthy()
  })
})
