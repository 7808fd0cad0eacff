import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { leaf, numbers, painted, pictureOf, wavyNormals } from '../../../test-support/pictures.ts'
import { encodeBlocks, encodeByLibrary } from '../block-codec.ts'
import { decodeBlocks } from '../../formats/blocks.ts'
import { measureLoss, peakSignalToNoise } from '../../loss.ts'
import type { Pixels } from '../../pixels.ts'
import { encodeRangeFit } from './colour-line.ts'

const throughBlocks = async (pixels: Pixels, codec: 'bc1' | 'bc4' | 'bc5', cut = false): Promise<Pixels> =>
  decodeBlocks(await encodeBlocks(pixels, codec, cut), codec, pixels.width, pixels.height)

describe('blocks of one and two channels', () => {
  it('are nearer to normals than the library’s', async () => {
    const normals = wavyNormals(128, true)
    const theirs = await decodeBlocks(await encodeByLibrary(normals, 'bc5'), 'bc5', 128, 128)
    const ours = await throughBlocks(normals, 'bc5')
    expect(peakSignalToNoise(normals, ours, 2) ?? 0).toBeGreaterThan((peakSignalToNoise(normals, theirs, 2) ?? 0) + 0.2)
    expect(measureLoss(normals, ours, 2, true).meanAngleDegrees ?? 9).toBeLessThan(
      measureLoss(normals, theirs, 2, true).meanAngleDegrees ?? 0,
    )
  })
  it('lose nothing where values lie within seven, and less than the library’s elsewhere', async () => {
    const next = numbers(3)
    const close = pictureOf(32, 32, () => [100 + Math.floor(next() * 8), 0, 0])
    expect(peakSignalToNoise(close, await throughBlocks(close, 'bc4'), 1)).toBeNull()
    const paint = painted(64, 64)
    const theirs = await decodeBlocks(await encodeByLibrary(paint, 'bc4'), 'bc4', 64, 64)
    expect(peakSignalToNoise(paint, await throughBlocks(paint, 'bc4'), 1) ?? 0).toBeGreaterThan(
      peakSignalToNoise(paint, theirs, 1) ?? 0,
    )
  })
  it('keep pure black and white beside a slope, by the form that has places for them', async () => {
    const mixed = pictureOf(4, 4, (x, y) => [y === 0 ? 0 : y === 3 ? 255 : 100 + x * 4, 0, 0])
    const back = await throughBlocks(mixed, 'bc4')
    for (let at = 0; at < mixed.data.length; at += 4)
      expect(Math.abs(back.data[at] - mixed.data[at])).toBeLessThanOrEqual(1)
  })
  it('give back one value exactly, and never miss by more than the widest step', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.nat(255), { minLength: 16, maxLength: 16 }), async (values) => {
        const picture = pictureOf(4, 4, (x, y) => [values[y * 4 + x], 0, 0])
        const back = await throughBlocks(picture, 'bc4')
        const range = Math.max(...values) - Math.min(...values)
        values.forEach((value, index) =>
          expect(Math.abs(back.data[index * 4] - value)).toBeLessThanOrEqual(range / 7 + 1),
        )
      }),
      { numRuns: 120 },
    )
  })
  it('fill up pictures that are no multiple of four', async () => {
    const picture = pictureOf(7, 5, (x, y) => [x * 30, y * 40, 0])
    const back = await throughBlocks(picture, 'bc5')
    expect([back.width, back.height]).toEqual([7, 5])
    expect(peakSignalToNoise(picture, back, 2) ?? 0).toBeGreaterThan(30)
  })
})

describe('blocks with clear pixels', () => {
  it('cut where opacity is below one half and nowhere else', async () => {
    const next = numbers(5)
    const holes = pictureOf(64, 64, (x, y) => [
      200 - x,
      60 + y,
      40,
      next() < 0.4 ? Math.floor(next() * 128) : 128 + Math.floor(next() * 128),
    ])
    const back = await throughBlocks(holes, 'bc1', true)
    for (let at = 3; at < holes.data.length; at += 4) expect(back.data[at] >= 128).toBe(holes.data[at] >= 128)
  })
  it('keep the colours of what is drawn above 34 dB', async () => {
    const picture = { ...painted(64, 64), data: painted(64, 64).data.slice() }
    const mask = leaf(64)
    for (let at = 3; at < picture.data.length; at += 4) picture.data[at] = mask.data[at]
    const back = await throughBlocks(picture, 'bc1', true)
    let [sum, count] = [0, 0]
    for (let at = 0; at < picture.data.length; at += 4) {
      if (picture.data[at + 3] === 0) continue
      for (let channel = 0; channel < 3; channel++) sum += (picture.data[at + channel] - back.data[at + channel]) ** 2
      count += 3
    }
    expect(10 * Math.log10(65025 / (sum / count))).toBeGreaterThan(34)
  })
  it('leave opaque pictures as the library makes them', async () => {
    const picture = painted(32, 32)
    const ours = await decodeBlocks(await encodeBlocks(picture, 'bc1', true), 'bc1', 32, 32)
    expect(ours.data.every((value, at) => at % 4 !== 3 || value === 255)).toBe(true)
    const library = await decodeBlocks(await encodeByLibrary(picture, 'bc1'), 'bc1', 32, 32)
    expect(peakSignalToNoise(picture, ours, 3) ?? 0).toBeGreaterThanOrEqual(
      (peakSignalToNoise(picture, library, 3) ?? 0) - 0.5,
    )
  })
  it('do about as well by the plain way as its published figures', async () => {
    const picture = painted(64, 64)
    const back = await decodeBlocks(encodeRangeFit(picture), 'bc1', 64, 64)
    expect(peakSignalToNoise(picture, back, 3) ?? 0).toBeGreaterThan(33)
  })
})
