import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { weightOfBone, weightSum } from '../../geometry/skin/weight-table.ts'
import { documentOf } from '../../test-support/meshes.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { bending, cloth, heldOf, post, shareAt, tentWithBones } from '../../test-support/tent.ts'

describe('assigning', () => {
  const assign = async (parameters: object) => {
    const start = await tentWithBones()
    const defaults = { part: 'cloth', corners: 'all', points: [], wider: 0, faces: [], others: false, to: 'bone' }
    return runStep('assign-weights', start, { ...defaults, bone: 'bone_right', like: '', ...parameters }, bending)
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
    const { table } = heldOf(after)
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
      bending,
    )
    expect(follows(again)).toBe('lllll-rrrrr')
  })

  it('hangs a cover on the bones of what it lies on, as that is held', async () => {
    const start = await tentWithBones(
      documentOf({ cloth: cloth(10), left: post(-5), right: post(5), cover: liftedCloth() }),
    )
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
      bending,
    )
    expect(summary.changed).toBe(true)
    const [body, cover] = [heldOf(after), heldOf(after, 'cover')]
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
