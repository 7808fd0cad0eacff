import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Document, Node } from '@gltf-transform/core'
import { countMeshCorners, itemScene, listViewParts } from '../../item/parts.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { chosenCorners, type CornerChoice } from './chosen-corners.ts'
import { curvesLike, putCurve, takeMotionOff } from './put-curve.ts'
import { mirroredBones } from './mirrored-bones.ts'

const document = documentOf({ box: unitBox() })
const [part] = listViewParts(document)
const corners = countMeshCorners(part.mesh)
const places = Float32Array.from(
  part.mesh.listPrimitives().flatMap((primitive) => [...(primitive.getAttribute('POSITION')?.getArray() ?? [])]),
)
const choose = (choice: Partial<CornerChoice>, unheld = (_corner: number): boolean => false): number[] => {
  const whole: CornerChoice = { corners: 'all', points: [], wider: 0, faces: [], others: false, ...choice }
  const marks = chosenCorners(document, part, places, whole, unheld)
  return [...marks.keys()].filter((corner) => marks[corner] === 1)
}
const placeOf = (corner: number): number[] => [...places.subarray(corner * 3, corner * 3 + 3)]

describe('corners that are meant', () => {
  it('are all, or those that nothing holds', () => {
    expect(choose({})).toHaveLength(corners)
    expect(choose({ corners: 'unheld' }, (corner) => corner === 2)).toEqual([2])
  })

  it('lie in a box between two opposite corners, whichever they are, or a little beside it', () => {
    const low = choose({ corners: 'box', points: [[1, 0.2, 1], [0, 0, 0]] }) // prettier-ignore
    expect(low.every((corner) => placeOf(corner)[1] === 0)).toBe(true)
    expect(low).toEqual(choose({ corners: 'box', points: [[0, 0, 0], [1, 0.2, 1]] })) // prettier-ignore
    expect(choose({ corners: 'box', points: [[0, 0, 0], [1, 0.2, 1]], wider: 0.8 })).toHaveLength(corners) // prettier-ignore
  })

  it('lie in a ball about its middle, out to its rim', () => {
    const near = choose({ corners: 'ball', points: [[0, 0, 0], [0.5, 0, 0]] }) // prettier-ignore
    expect(near.map(placeOf)).toEqual(near.map(() => [0, 0, 0]))
    expect(near.length).toBeGreaterThan(0)
  })

  it('lie on one side of a plane, the plane itself with it', () => {
    const upper = choose({ corners: 'side', points: [[0, 1, 0], [0, 2, 0]] }) // prettier-ignore
    expect(upper.every((corner) => placeOf(corner)[1] === 1)).toBe(true)
    expect(choose({ corners: 'side', points: [[0, 1.5, 0], [0, 2, 0]] })).toEqual([]) // prettier-ignore
  })

  it('are none as long as the points are not set, and then all others', () => {
    for (const region of ['box', 'ball', 'side'] as const) {
      expect(choose({ corners: region, points: [[0, 0, 0]] })).toEqual([])
      expect(choose({ corners: region, points: [], others: true })).toHaveLength(corners)
    }
  })

  it('are those of picked faces', () => {
    const top = choose({
      corners: 'picked',
      faces: [{ part: 'box', point: [0.5, 1, 0.5], growth: 'flat', angleDegrees: 10, radius: 0 }],
    })
    expect(top.length).toBeGreaterThan(0)
    expect(top.every((corner) => placeOf(corner)[1] === 1)).toBe(true)
  })

  it('and the others are together each corner once, however they are said', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('all', 'box', 'ball', 'side', 'unheld'),
        fc.array(fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -2, max: 2, noNaN: true }))), { maxLength: 2 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (region, points, wider) => {
          const choice = { corners: region as CornerChoice['corners'], points, wider }
          const both = [...choose(choice), ...choose({ ...choice, others: true })]
          expect(both.sort((a, b) => a - b)).toEqual([...Array(corners).keys()])
        },
      ),
    )
  })
})

/** Two doors, of which one swings and slides. */
function doors(): { of: Document; left: Node; right: Node } {
  const of = documentOf({ left: unitBox(), right: unitBox() })
  const [left, right] = listViewParts(of).map(({ node }) => node)
  right.setTranslation([10, 0, 0]).setScale([2, 2, 2])
  const clip = of.createAnimation('open')
  const times = Float32Array.of(0, 1)
  putCurve(of, clip, left, {
    path: 'translation',
    interpolation: 'LINEAR',
    times,
    values: Float32Array.of(0, 0, 0, 0, 3, 0),
  })
  putCurve(of, clip, left, { path: 'scale', interpolation: 'LINEAR', times, values: Float32Array.of(1, 1, 1, 1, 2, 1) })
  return { of, left, right }
}

describe('curves of one thing for another', () => {
  it('go as far from where it stands as the first goes from its own place', () => {
    const { of, left, right } = doors()
    const [moved, sized] = curvesLike(of, left, right)
    expect([...moved.values]).toEqual([10, 0, 0, 10, 3, 0])
    expect([...sized.values]).toEqual([2, 2, 2, 2, 4, 2])
    expect([...(curvesLike(of, left, left)[0]?.values ?? [])]).toEqual([0, 0, 0, 0, 3, 0])
  })

  it('are taken off whole; a clip that moves nothing any more is gone', () => {
    const { of, left, right } = doors()
    expect(takeMotionOff(of, right)).toEqual([])
    expect(takeMotionOff(of, left)).toEqual(['open'])
    expect(of.getRoot().listAnimations()).toEqual([])
    expect(curvesLike(of, left, right)).toEqual([])
  })
})

describe('bones on the other side', () => {
  it('are those that stand where the mirror image is; one in the middle is its own', () => {
    const of = documentOf({ body: unitBox() })
    const bones = [-2, 2, 0, 5].map((x) => of.createNode(`bone ${x}`).setTranslation([x, 1, 0]))
    bones.forEach((bone) => itemScene(of).addChild(bone))
    expect(mirroredBones(bones, 0, 0)).toEqual([1, 0, 2, 3])
    expect(mirroredBones(bones, 1, 1)).toEqual([0, 1, 2, 3])
    expect(mirroredBones([], 0, 0)).toEqual([])
  })
})
