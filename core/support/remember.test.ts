import { expect, it, vi } from 'vitest'
import { rememberByValue } from './remember.ts'

interface Shape {
  positions: Float32Array
  indices: Uint32Array
}
const shape = (...positions: number[]): Shape => ({
  positions: Float32Array.from(positions),
  indices: Uint32Array.from([0, 1, 2]),
})

it('answers a copy of what it was asked before without computing, and anything else anew', () => {
  const work = vi.fn(({ positions }: Shape, factor: number) => positions[0] * factor)
  const sum = rememberByValue(work, 8)
  expect([sum(shape(1, 2, 3), 2), sum(shape(1, 2, 3), 2)]).toEqual([2, 2])
  expect(work).toHaveBeenCalledTimes(1)
  for (const other of [shape(4, 2, 3), shape(1, 2, 3.0000002), shape(1, 2), shape(1, 2, -0)]) sum(other, 2)
  sum(shape(1, 2, 3), 3)
  expect(work).toHaveBeenCalledTimes(6)
})

it('tells apart arrays of other kinds, places of an odd byte, and values that read alike', () => {
  const work = vi.fn((...given: unknown[]) => given.length)
  const asked = rememberByValue<unknown[], number>(work, 32)
  const odd = new Uint8Array([9, 1, 2, 3, 4, 5]).subarray(1)
  const distinct = [
    [odd], [new Uint8Array([1, 2, 3, 4, 6])], [new Int8Array([1, 2, 3, 4, 5])], [new Float32Array([0])],
    [new Uint32Array([0])], ['1'], [1], [null], [[]], [[[]]], [{ a: 1 }], [{ b: 1 }], [true], ['ab', 'c'], ['a', 'bc'],
  ] // prettier-ignore
  for (const given of [...distinct, ...distinct]) asked(...given)
  expect(work).toHaveBeenCalledTimes(distinct.length)
})

it('keeps no more answers than it may, the ones used last', () => {
  const work = vi.fn((value: number) => value)
  const asked = rememberByValue(work, 2)
  for (const value of [1, 2, 1, 3, 1]) asked(value)
  expect(work).toHaveBeenCalledTimes(3)
  asked(2)
  expect(work).toHaveBeenCalledTimes(4)
})
