import { describe, expect, it } from 'vitest'
import { layOut } from '../../pictures/lay-out.ts'
import { turnPicture } from '../../pictures/formats/jpeg.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { foldColour, foldData, foldGlow, foldRelief } from './folded-pixels.ts'

const picture = (width: number, ...pixels: number[][]): Pixels => ({
  width,
  height: pixels.length / width,
  data: Uint8Array.from(pixels.flat()),
})
const reds = ({ data }: Pixels): number[] => [...data].filter((_, at) => at % 4 === 0)

describe('what is folded into a colour map', () => {
  it('is multiplied in linear light', () => {
    // Half the light of white is 188 in sRGB, not 128.
    expect([...foldColour(picture(1, [255, 255, 255, 255]), [0.5, 1, 0, 1], { kind: 'opaque' }).data]).toEqual([
      188, 255, 0, 255,
    ])
  })
  it('brings any threshold to one half, and loses no side of it', () => {
    const { data } = foldColour(picture(4, [9, 9, 9, 0], [9, 9, 9, 63], [9, 9, 9, 64], [9, 9, 9, 255]), [1, 1, 1, 1], {
      kind: 'cut',
      factor: 1,
      threshold: 0.25,
    })
    expect([data[3], data[7] < 128, data[11] >= 128, data[15]]).toEqual([0, true, true, 255])
  })
  it('is not clear where the source is drawn opaque', () => {
    expect(foldColour(picture(1, [1, 2, 3, 40]), [1, 1, 1, 0.5], { kind: 'opaque' }).data[3]).toBe(255)
  })
})

describe('glow as colour × mask', () => {
  it('keeps the colour where it glows in its own hue', () => {
    const { colour, mask, otherHue } = foldGlow(
      picture(1, [200, 100, 50, 255]),
      picture(1, [200, 100, 50, 255]),
      [0.5, 0.5, 0.5],
    )
    expect([[...colour.data.slice(0, 3)], mask.data[0], otherHue]).toEqual([[200, 100, 50], 128, 0])
  })
  it('takes the hue of the glow where the two differ, and says how much of it', () => {
    const { colour, mask, otherHue } = foldGlow(
      picture(2, [0, 0, 255, 255], [90, 90, 90, 255]),
      picture(2, [255, 0, 0, 255], [0, 0, 0, 255]),
      [1, 1, 1],
    )
    expect([...colour.data]).toEqual([255, 0, 0, 255, 90, 90, 90, 255])
    expect([mask.data[0], mask.data[4], otherHue]).toEqual([255, 0, 0.5])
  })
})

it('scales and raises data, and weakens relief', () => {
  expect([...foldData(picture(1, [100, 100, 100, 7]), [0.5, 1, 0], [0.5, 0, 0.2]).data]).toEqual([178, 100, 51, 7])
  const [x, , z] = foldRelief(picture(1, [255, 128, 128, 255]), 0).data
  expect([x, z]).toEqual([128, 255])
})

it('lays pictures out as their edges have it', () => {
  const strip = picture(2, [1, 0, 0, 255], [2, 0, 0, 255])
  const still = { tiles: 1, first: 0, mode: 'repeat' as const }
  expect(reds(layOut(strip, { tiles: 2, first: 0, mode: 'mirror' }, still))).toEqual([1, 2, 2, 1])
  expect(reds(layOut(strip, { tiles: 3, first: -1, mode: 'clamp' }, still))).toEqual([1, 1, 1, 2, 2, 2])
})

it('turns a picture as its camera was held', () => {
  // 1 2
  // 3 4
  const square = picture(2, [1, 0, 0, 255], [2, 0, 0, 255], [3, 0, 0, 255], [4, 0, 0, 255])
  expect([1, 2, 3, 4, 5, 6, 7, 8].map((orientation) => reds(turnPicture(square, orientation)).join(''))).toEqual([
    '1234',
    '2143',
    '4321',
    '3412',
    '1324',
    '3142',
    '4231',
    '2413',
  ])
})
