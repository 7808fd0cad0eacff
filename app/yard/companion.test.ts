import { Vector3 } from 'three'
import { describe, expect, it } from 'vitest'
import { attachPointsOf, hungMatrix } from './companion'

describe('a thing that is hung on a place', () => {
  it.each([[[1, 0, 0]], [[0, 0, -1]], [[0, 1, 0]], [[0, -1, 0]], [[0.6, 0, 0.8]]] as [[number, number, number]][])(
    'stands there by its origin and looks to %j',
    (ahead) => {
      const matrix = hungMatrix({ at: [2, 5, -1], ahead })
      const origin = new Vector3().applyMatrix4(matrix)
      expect(origin.toArray()).toEqual([2, 5, -1])
      const front = new Vector3(0, 0, 1).applyMatrix4(matrix).sub(origin)
      front.toArray().forEach((value, axis) => expect(value).toBeCloseTo(ahead[axis], 6))
      // It stays as it is made, not mirrored.
      expect(matrix.determinant()).toBeCloseTo(1, 6)
    },
  )
  it('stands upright where the place looks level', () => {
    const top = new Vector3(0, 1, 0).applyMatrix4(hungMatrix({ at: [0, 0, 0], ahead: [1, 0, 0] }))
    expect(top.toArray().map((value) => Math.round(value))).toEqual([0, 1, 0])
  })
  it('is offered attach points, and no other places', () => {
    const place = (name: string, title: string) => ({ name, title, at: [0, 0, 0], ahead: [0, 0, 1] }) as never
    expect(attachPointsOf({ places: [place('flue', 'Attach point'), place('start', 'Marker')] })).toHaveLength(1)
  })
})
