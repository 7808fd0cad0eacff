import { describe, expect, it } from 'vitest'
import { createDocument } from '../../item/io.ts'
import { influenceSets } from './skin.ts'
import { tidyWeights } from './tidy-weights.ts'

function cornersOf(bones: number[], weights: number[]) {
  const document = createDocument('held')
  const [buffer] = document.getRoot().listBuffers()
  const accessor = (array: Uint16Array<ArrayBuffer> | Float32Array<ArrayBuffer>) =>
    document.createAccessor().setType('VEC4').setArray(array).setBuffer(buffer)
  const primitive = document
    .createPrimitive()
    .setAttribute('JOINTS_0', accessor(Uint16Array.from(bones)))
    .setAttribute('WEIGHTS_0', accessor(Float32Array.from(weights)))
  return { document, primitive }
}
const rows = (primitive: ReturnType<typeof cornersOf>['primitive']) => {
  const [{ bones, weights }] = influenceSets(primitive)
  return { bones: [...bones], weights: [...weights].map((weight) => Number(weight.toFixed(6))) }
}

describe('weights of a packed file', () => {
  it('name no bone twice at a corner: what both say is added', () => {
    const { document, primitive } = cornersOf([3, 3, 1, 0], [0.25, 0.25, 0.5, 0])
    expect(tidyWeights(document, primitive)).toBe(true)
    expect(rows(primitive)).toEqual({ bones: [3, 0, 1, 0], weights: [0.5, 0, 0.5, 0] })
  })
  it('make 1 where rounding has them off, and stay where they are further off', () => {
    const near = cornersOf([0, 1, 0, 0], [0.498, 0.5, 0, 0])
    expect(tidyWeights(near.document, near.primitive)).toBe(true)
    expect(rows(near.primitive).weights.reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 5)
    const far = cornersOf([0, 1, 0, 0], [0.3, 0.5, 0, 0])
    expect(tidyWeights(far.document, far.primitive)).toBe(false)
    expect(rows(far.primitive).weights).toEqual([0.3, 0.5, 0, 0])
  })
  it.each([0, 1, 2, 3, 4, 5, 6, 7])('make 1 as exactly as a validator asks, however they were rounded (%i)', (turn) => {
    const rounded = [0.31, 0.27, 0.23, 0.19].map((weight) => Math.round((weight + turn * 0.0037) * 255) / 255)
    const { document, primitive } = cornersOf([0, 1, 2, 3], rounded)
    tidyWeights(document, primitive)
    const [{ weights }] = influenceSets(primitive)
    const sum = weights.reduce((all, weight) => all + weight, 0)
    if (Math.abs(rounded.reduce((all, weight) => all + weight, 0) - 1) <= 0.01)
      expect(Math.abs(sum - 1)).toBeLessThan(2e-7 * 4)
    else expect([...weights]).toEqual([...Float32Array.from(rounded)])
  })
  it('are left alone where nothing is wrong', () => {
    const { document, primitive } = cornersOf([0, 1, 0, 0], [0.5, 0.5, 0, 0])
    const before = primitive.getAttribute('WEIGHTS_0')
    expect(tidyWeights(document, primitive)).toBe(false)
    expect(primitive.getAttribute('WEIGHTS_0')).toBe(before)
  })
})
