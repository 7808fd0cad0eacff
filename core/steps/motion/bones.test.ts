import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { parseRulebook } from '../../game/load.ts'
import type { Rulebook, Skeleton } from '../../game/schema.ts'
import { weightSum } from '../../geometry/skin/weight-table.ts'
import { setNodeExtras } from '../../item/extras.ts'
import { copyDocument, createDocument } from '../../item/io.ts'
import { listViewParts, restMatrix } from '../../item/parts.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { breaksOf } from '../../operations/motion/measure-bend.ts'
import { skeletonOf, standSkeleton } from '../../operations/motion/skeletons.ts'
import { listHeldParts, meshSoup } from '../../operations/motion/skin.ts'
import { stepById } from '../registry.ts'
import { ball, documentOf } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { bending, cloth, heldOf, shareAt, tent, tentWithBones } from '../../test-support/tent.ts'

describe('making bones', () => {
  it('puts a bone at the origin of each stiff part, named by the rulebook, and leaves all where it is', async () => {
    const document = tent()
    const [part] = listViewParts(document)
    part.node.setTranslation([0, 1, 0])
    const before = transformedPoints(meshSoup(part.mesh).positions, part.node.getWorldMatrix())
    const after = await tentWithBones(document)
    const { bones, positions } = heldOf(after)
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
    const after = await tentWithBones(tent(), { from: 'stock', skeleton: skeleton.id })
    const { bones } = heldOf(after)
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
        bending,
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

describe('a bend', () => {
  it('is rounder after rows are added, and the rest shape stays', async () => {
    const start = await tentWithBones(tent(4))
    const { after, summary } = await runStep('add-bend-rows', start, { parts: [], mostDegrees: 10 }, bending)
    expect(summary.changed).toBe(true)
    expect(breaksOf(heldOf(after)).worstDegrees).toBeLessThan(breaksOf(heldOf(start)).worstDegrees)
    const { positions } = heldOf(after)
    for (let at = 1; at < positions.length; at += 3) expect(positions[at]).toBe(4)
    const { table } = heldOf(after)
    for (let corner = 0; corner < table.corners; corner++) expect(weightSum(table, corner)).toBeCloseTo(1, 6)
  })

  it('is made rounder unasked only where bones were given here: a rig that came along bends as its maker wants', async () => {
    const made = await tentWithBones()
    const proposed = (document: Document): string[] =>
      (['smooth-weights', 'add-bend-rows'] as const).filter(
        (step) => stepById(step).propose({ document, ...bending }).length > 0,
      )
    expect(proposed(made)).toEqual(['smooth-weights', 'add-bend-rows'])
    const brought = copyDocument(made)
    for (const { node, extras } of listHeldParts(brought)) setNodeExtras(node, { ...extras, heldHere: undefined })
    expect(proposed(brought)).toEqual([])
    const { after } = await runStep('add-bend-rows', brought, { parts: [], mostDegrees: 10 }, bending)
    expect(breaksOf(heldOf(after)).worstDegrees).toBeLessThan(breaksOf(heldOf(brought)).worstDegrees)
  })

  it('mirrored, holds the left as the right is held', async () => {
    const start = await tentWithBones()
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
        bending,
      )
    ).after
    const { after } = await runStep('mirror-weights', uneven, { parts: [], keep: '+x', at: 0 }, bending)
    for (const x of [1, 2, 3, 4, 5]) expect(shareAt(after, -x, 0)).toBeCloseTo(shareAt(after, x, 1), 4)
    expect(shareAt(after, 3, 0)).toBe(1)
    expect(shareAt(after, -3, 1)).toBe(1)
  })

  it('is limited to as many bones as the game reads, which the summary says', async () => {
    const parts: Record<string, ReturnType<typeof ball>> = { cloth: cloth(30) }
    for (let number = 0; number < 30; number++) parts[`knob${number}`] = ball(0.1, 4, [(number / 29) * 10 - 5, 4, 1])
    const many = await tentWithBones(documentOf(parts), { bones: Object.keys(parts).slice(1) })
    expect(heldOf(many).bones.length).toBe(30)
    const { after, summary } = await runStep(
      'limit-weights',
      many,
      { influences: 4, bones: 24, leastPercent: 0.5 },
      bending,
    )
    expect(heldOf(after).bones.length).toBe(24)
    expect(summary.details.join(' ')).toMatch(/off by [\d.]+ spans at most/)
  })
})
