import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { leaf, painted, pictureOf, wavyNormals } from '../test-support/pictures.ts'
import { coverageOf } from './cut-coverage.ts'
import { foldIntoColour } from './fold.ts'
import { growEdges } from './grow-edges.ts'
import { measureLoss } from './loss.ts'
import { findNormalDirection, flipGreen } from './normal-direction.ts'
import { fromPerceived, toPerceived } from './oklab.ts'
import { opacityKind, rimColour, withOpacity } from './opacity.ts'
import { packChannels, sizeForAll } from './pack-channels.ts'
import { blend, recolour, type Recolouring } from './recolour.ts'
import { mipmapChain, resizePixels } from './resize.ts'

describe('mipmaps', () => {
  it('keep the brightness of a chequer of single pixels: half of the light is 187 in sRGB', () => {
    const chequer = pictureOf(64, 64, (x, y) => ((x + y) % 2 === 0 ? [255, 255, 255] : [0, 0, 0]))
    for (const level of mipmapChain(chequer, 'colour').slice(1))
      for (const value of level.data.filter((_, at) => at % 4 < 3)) expect(Math.abs(value - 187)).toBeLessThanOrEqual(1)
  })
  it('keep the share of a leaf that is drawn within 3 % down to 16 pixels; without it the leaf changes', () => {
    const leafs = leaf(256)
    const given = coverageOf(leafs, 128)
    for (const level of mipmapChain(leafs, 'colour', 128).filter(({ width }) => width >= 16))
      expect(Math.abs(coverageOf(level, 128) - given)).toBeLessThan(0.03)
    const thin = pictureOf(128, 128, (x) => [90, 90, 90, x % 5 === 0 ? 255 : 0])
    expect(coverageOf(mipmapChain(thin, 'colour')[3], 128)).toBe(0)
    expect(Math.abs(coverageOf(mipmapChain(thin, 'colour', 128)[3], 128) - 0.2)).toBeLessThan(0.03)
  })
  it('have unit normals in every level', () => {
    for (const { data } of mipmapChain(wavyNormals(64, true), 'normal')) {
      for (let at = 0; at < data.length; at += 4)
        expect(
          Math.abs(Math.hypot(data[at] / 127.5 - 1, data[at + 1] / 127.5 - 1, data[at + 2] / 127.5 - 1) - 1),
        ).toBeLessThan(0.012)
    }
  })
})

describe('the direction of green', () => {
  it('is found from the slopes, whichever way they were made', () => {
    expect(findNormalDirection(wavyNormals(64, true))).toMatchObject({ y: 'up' })
    expect(findNormalDirection(wavyNormals(64, false))).toMatchObject({ y: 'down' })
    expect(findNormalDirection(wavyNormals(64, true)).certainty).toBeGreaterThan(0.5)
    expect(findNormalDirection(flipGreen(wavyNormals(64, true))).y).toBe('down')
  })
  it('is left open for a flat map and for stripes', () => {
    expect(findNormalDirection(pictureOf(32, 32, () => [128, 128, 255])).certainty).toBe(0)
    expect(findNormalDirection(pictureOf(32, 32, (x) => [128 + 60 * Math.sin(x), 128, 220])).certainty).toBe(0)
  })
})

describe('channels', () => {
  const grey = (value: number, side = 8) => pictureOf(side, side, () => [value, value, value])
  it('come from anywhere, turned round, scaled, or as one value, at one size', () => {
    const sources = [
      { picture: grey(200), channel: 'red', meaning: 'data', inverted: false, scale: 1 },
      { picture: grey(60, 16), channel: 'green', meaning: 'data', inverted: true, scale: 1 },
      { picture: grey(100), channel: 'brightness', meaning: 'data', inverted: false, scale: 2 },
      { constant: 0.25 },
    ] as const
    expect(sizeForAll(sources)).toEqual({ width: 16, height: 16 })
    const made = packChannels(16, 16, sources)
    expect([...made.data.slice(0, 4)]).toEqual([200, 195, 200, 64])
    expect(made.data.every((value, at) => value === [200, 195, 200, 64][at % 4])).toBe(true)
  })
  it('take new colour with the opacity of another picture', () => {
    const colour = painted(16, 16)
    const from = leaf(16)
    const made = packChannels(16, 16, [
      { picture: colour, channel: 'red', meaning: 'colour', inverted: false, scale: 1 },
      { picture: colour, channel: 'green', meaning: 'colour', inverted: false, scale: 1 },
      { picture: colour, channel: 'blue', meaning: 'colour', inverted: false, scale: 1 },
      { picture: from, channel: 'alpha', meaning: 'colour', inverted: false, scale: 1 },
    ])
    for (let at = 0; at < made.data.length; at++)
      expect(made.data[at]).toBe(at % 4 === 3 ? from.data[at] : colour.data[at])
  })
})

describe('recolouring', () => {
  const none: Recolouring = { ranges: [], greyChroma: 0, hueDegrees: 0, saturation: 0, lightness: 0, lay: null }
  it('goes to the perceptual space and back without loss', () => {
    fc.assert(
      fc.property(fc.nat(255), fc.nat(255), fc.nat(255), (r, g, b) =>
        fromPerceived(toPerceived(r, g, b)).every((value, channel) => Math.abs(value - [r, g, b][channel]) <= 1),
      ),
    )
  })
  it('keeps light and dark when hues turn or a tint is laid', () => {
    const picture = painted(32, 32)
    for (const how of [
      { ...none, hueDegrees: 120 },
      { ...none, lay: { colour: [40, 90, 160] as const, mode: 'tint' as const, strength: 1 } },
    ]) {
      const made = recolour(picture, how, null)
      expect(made.data).not.toEqual(picture.data)
      for (let at = 0; at < made.data.length; at += 4) {
        const [before, after] = [picture, made].map(
          ({ data }) => toPerceived(data[at], data[at + 1], data[at + 2]).lightness,
        )
        expect(Math.abs(before - after)).toBeLessThan(0.03)
      }
    }
  })
  it('leaves greys, other hues and what a mask protects', () => {
    const picture = pictureOf(
      3,
      1,
      (x) =>
        [
          [120, 120, 122],
          [200, 40, 40],
          [40, 60, 200],
        ][x],
    )
    const how = { ...none, hueDegrees: 90, greyChroma: 0.03, ranges: [{ hueDegrees: 28, reachDegrees: 20 }] }
    const made = recolour(picture, how, null)
    expect([...made.data.slice(0, 3)]).toEqual([120, 120, 122])
    expect([...made.data.slice(4, 7)]).not.toEqual([200, 40, 40])
    expect([...made.data.slice(8, 11)]).toEqual([40, 60, 200])
    expect(
      recolour(
        picture,
        how,
        pictureOf(3, 1, () => [255, 255, 255]),
      ).data,
    ).toEqual(picture.data)
  })
  it('lays colours by the published formulas', () => {
    expect(blend(0.5, 0.4, 'multiply')).toBeCloseTo(0.2)
    expect(blend(0.5, 0.4, 'screen')).toBeCloseTo(0.7)
    expect(blend(0.25, 0.4, 'overlay')).toBeCloseTo(0.2)
    expect(blend(0.75, 0.4, 'overlay')).toBeCloseTo(0.7)
    expect(blend(0.5, 0.5, 'soft-light')).toBeCloseTo(0.5)
    expect(blend(0.25, 1, 'soft-light')).toBeCloseTo(0.5)
  })
})

describe('opacity', () => {
  const board = pictureOf(32, 32, (x, y) => (x > 4 && x < 27 && y > 6 && y < 25 ? [220, 210, 180] : [12, 200, 60]))
  it('is made from a colour key: the ground goes, the board stays', () => {
    expect(rimColour(board)).toEqual([12, 200, 60])
    const made = withOpacity(board, { from: 'colour-key', colour: [12, 200, 60], tolerance: 0.08, softness: 0.04 })
    for (let at = 0; at < made.data.length; at += 4) expect(made.data[at + 3]).toBe(board.data[at] === 220 ? 255 : 0)
    expect(made.data.filter((_, at) => at % 4 === 0)).toEqual(board.data.filter((_, at) => at % 4 === 0))
  })
  it('is made from brightness, a channel, or another picture', () => {
    const ramp = pictureOf(4, 1, (x) => [x * 60, x * 60, x * 60])
    expect([
      ...withOpacity(ramp, { from: 'brightness', inverted: false }).data.filter((_, at) => at % 4 === 3),
    ]).toEqual([0, 60, 120, 180])
    expect([
      ...withOpacity(ramp, { from: 'channel', channel: 0, inverted: true }).data.filter((_, at) => at % 4 === 3),
    ]).toEqual([255, 195, 135, 75])
    expect(withOpacity(painted(16, 16), { from: 'channel', channel: 3, inverted: false }, leaf(16)).data[3]).toBe(0)
  })
  it('is told apart: none, cut, blended; and a rim of many colours is no key', () => {
    expect(opacityKind(painted(32, 32))).toBe('opaque')
    expect(opacityKind(leaf(64))).toBe('cut')
    expect(opacityKind(pictureOf(32, 32, (x) => [1, 2, 3, x * 8]))).toBe('blended')
    expect(rimColour(painted(64, 64))).toBeNull()
  })
})

describe('what lies between islands', () => {
  it('takes the nearest island’s colour, so that no mipmap shows the ground', () => {
    const ground = [255, 0, 255]
    const islands = pictureOf(64, 64, (x, y) => (x < 24 && y < 40 ? [30, 90, 50] : x > 40 ? [90, 60, 20] : ground))
    const covered = Uint8Array.from({ length: 64 * 64 }, (_, pixel) => (islands.data[pixel * 4] === 255 ? 0 : 1))
    const grown = growEdges(islands, covered)
    for (const level of mipmapChain(grown, 'colour'))
      for (let at = 0; at < level.data.length; at += 4) expect(level.data[at + 2]).toBeLessThan(60)
    expect(mipmapChain(islands, 'colour')[3].data.some((value, at) => at % 4 === 2 && value > 100)).toBe(true)
  })
  it('grows each map of a material by its own colours, opacity too unless it is to stay', () => {
    const covered = new Uint8Array(16 * 4).map((_, at) => (at % 16 < 2 || at % 16 > 13 ? 1 : 0))
    const map = (left: number, right: number) =>
      pictureOf(16, 4, (x) => (x < 2 ? [left, 0, 0, 200] : x > 13 ? [0, right, 0, 100] : [9, 9, 9, 7]))
    // The second is asked for with the same triangles: nothing of the first may stand in it.
    for (const [left, right] of [
      [255, 128],
      [40, 250],
    ]) {
      const grown = growEdges(map(left, right), covered)
      const kept = growEdges(map(left, right), covered, true)
      for (let x = 0; x < 16; x++) {
        const at = (16 + x) * 4
        const expected = x < 8 ? [left, 0, 0] : [0, right, 0]
        expect([...grown.data.slice(at, at + 3)], `${x}`).toEqual(expected)
        expect([...kept.data.slice(at, at + 3)], `${x}`).toEqual(expected)
        expect(grown.data[at + 3], `${x}`).toBe(x < 8 ? 200 : 100)
        expect(kept.data[at + 3], `${x}`).toBe(x < 2 ? 200 : x > 13 ? 100 : 7)
      }
    }
  })
  it('is left when everything or nothing is covered', () => {
    const picture = painted(8, 8)
    expect(growEdges(picture, new Uint8Array(64))).toBe(picture)
    expect(growEdges(picture, new Uint8Array(64).fill(1))).toBe(picture)
  })
})

describe('folding into colour', () => {
  const even = pictureOf(16, 16, () => [120, 110, 100])
  const nothing = { occlusion: null, normal: null, roughness: null, metalness: null }
  const strengths = { occlusion: 1, relief: 1, shine: 1, lightDegrees: 90, heightDegrees: 45 }
  it('darkens by occlusion, and by nothing when its strength is none', () => {
    const occlusion = { picture: pictureOf(16, 16, (x) => (x < 8 ? [255, 255, 255] : [100, 100, 100])), channel: 0 }
    const made = foldIntoColour(even, { ...nothing, occlusion }, strengths)
    expect(made.data[0]).toBe(120)
    expect(made.data[12 * 4]).toBeLessThan(90)
    expect(foldIntoColour(even, { ...nothing, occlusion }, { ...strengths, occlusion: 0 }).data).toEqual(even.data)
  })
  it('lights what faces the light and darkens what faces away; even ground keeps its colour', () => {
    const slopes = pictureOf(
      3,
      1,
      (x) =>
        [
          [128, 200, 210],
          [128, 128, 255],
          [128, 56, 210],
        ][x],
    )
    const made = foldIntoColour(
      pictureOf(3, 1, () => [120, 110, 100]),
      { ...nothing, normal: slopes },
      strengths,
    )
    expect(made.data[0]).toBeGreaterThan(125)
    expect(Math.abs(made.data[4] - 120)).toBeLessThanOrEqual(1)
    expect(made.data[8]).toBeLessThan(100)
  })
  it('paints more shine on what is smooth, in its own colour on metal', () => {
    const at = (rough: number, metal: number): number[] => [
      ...foldIntoColour(
        even,
        {
          ...nothing,
          roughness: { picture: pictureOf(16, 16, () => [rough, rough, rough]), channel: 0 },
          metalness: { picture: pictureOf(16, 16, () => [metal, metal, metal]), channel: 0 },
        },
        { ...strengths, heightDegrees: 90 },
      ).data.slice(0, 3),
    ]
    expect(at(40, 0)[0]).toBeGreaterThan(at(220, 0)[0])
    expect(at(40, 255)[0] - at(40, 255)[2]).toBeGreaterThan(at(40, 0)[0] - at(40, 0)[2])
  })
})

describe('measuring loss', () => {
  it('names the block that lost most', () => {
    const picture = painted(16, 16)
    const other = { ...picture, data: picture.data.slice() }
    other.data[(9 * 16 + 6) * 4] ^= 0x40
    const loss = measureLoss(picture, other, 3, false)
    expect(loss.worstBlock).toMatchObject({ x: 4, y: 8 })
    expect(loss.worstBlock?.psnrDecibels).toBeLessThan(loss.psnrDecibels ?? 0)
    expect(measureLoss(picture, picture, 3, false)).toEqual({
      psnrDecibels: null,
      worstBlock: null,
      meanAngleDegrees: null,
    })
  })
  it('tells normals apart by their angle', () => {
    const flat = pictureOf(4, 4, () => [128, 128, 255])
    const tilted = pictureOf(4, 4, () => [128 + 22, 128, 253])
    expect(measureLoss(flat, tilted, 2, true).meanAngleDegrees).toBeCloseTo(10, 0)
  })
})

it('brings a picture to another size and keeps its middle where it was', () => {
  const dot = pictureOf(64, 64, (x, y) => (Math.hypot(x - 40, y - 20) < 6 ? [255, 255, 255] : [0, 0, 0]))
  const small = resizePixels(dot, 32, 32, 'data')
  let [sum, sumX, sumY] = [0, 0, 0]
  for (let pixel = 0; pixel < 32 * 32; pixel++) {
    const value = small.data[pixel * 4]
    sum += value
    sumX += value * (pixel % 32)
    sumY += value * Math.floor(pixel / 32)
  }
  expect(sumX / sum).toBeCloseTo(19.75, 0)
  expect(sumY / sum).toBeCloseTo(9.75, 0)
})
