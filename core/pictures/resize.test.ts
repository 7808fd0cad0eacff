import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { numbers, painted, pictureOf } from '../test-support/pictures.ts'
import { growEdges } from './grow-edges.ts'
import { measureLoss } from './loss.ts'
import type { Meaning } from './meaning.ts'
import type { Pixels } from './pixels.ts'
import { resizePixels } from './resize.ts'
import { byteOfLinear, linearOfByte } from './srgb.ts'

const wrapped = (at: number, length: number): number => ((at % length) + length) % length
const toByte = (value: number): number => Math.min(255, Math.max(0, Math.round(value)))

/** One pixel as numbers that may be averaged, as the text of `resizePixels` has it. */
function valueAt({ width, data }: Pixels, x: number, y: number, meaning: Meaning): number[] {
  const [r, g, b, a] = data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4)
  if (meaning === 'data') return [r, g, b, a]
  if (meaning === 'normal') return [r / 127.5 - 1, g / 127.5 - 1, b / 127.5 - 1, a]
  const weight = Math.max(a / 255, 1 / 1024)
  return [linearOfByte[r] * weight, linearOfByte[g] * weight, linearOfByte[b] * weight, weight]
}

/** The triangle filter, pixel by pixel and from its definition. */
function plainly(picture: Pixels, width: number, height: number, meaning: Meaning): Pixels {
  const tapsOf = (length: number, newLength: number, at: number): [number, number][] => {
    const scale = length / newLength
    const [radius, centre] = [Math.max(1, scale), (at + 0.5) * scale - 0.5]
    const taps: [number, number][] = []
    for (let tap = Math.ceil(centre - radius); tap <= centre + radius; tap++)
      taps.push([wrapped(tap, length), 1 - Math.abs(tap - centre) / radius])
    const total = taps.reduce((sum, [, weight]) => sum + weight, 0)
    return taps.map(([place, weight]) => [place, weight / total])
  }
  return pictureOf(width, height, (x, y) => {
    const sum = [0, 0, 0, 0]
    for (const [row, down] of tapsOf(picture.height, height, y))
      for (const [column, across] of tapsOf(picture.width, width, x))
        valueAt(picture, column, row, meaning).forEach((value, channel) => (sum[channel] += value * down * across))
    const [r, g, b, a] = sum
    if (meaning === 'data') return sum.map(toByte)
    if (meaning === 'normal') {
      const length = Math.hypot(r, g, b) || 1
      return [...[r, g, b].map((value) => toByte((value / length) * 127.5 + 127.5)), toByte(a)]
    }
    return [...[r, g, b].map((value) => byteOfLinear(value / a)), a <= 1 / 1024 + 1e-6 ? 0 : toByte(a * 255)]
  })
}

const meanings: Meaning[] = ['colour', 'normal', 'data']
/** Colours with some that are half or wholly clear. */
const partlyClear = (width: number, height: number, seed: number): Pixels => {
  const next = numbers(seed)
  return pictureOf(width, height, () => [
    next() * 255,
    next() * 255,
    next() * 255,
    next() < 0.3 ? 0 : next() < 0.5 ? next() * 255 : 255,
  ])
}

describe('a picture of another size', () => {
  it.each(meanings)('is what the filter says, to one step of a byte: %s', (meaning) => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 17 }),
        fc.integer({ min: 1, max: 17 }),
        fc.integer({ min: 1, max: 19 }),
        fc.integer({ min: 1, max: 19 }),
        fc.nat(1000),
        (width, height, newWidth, newHeight, seed) => {
          fc.pre(width !== newWidth || height !== newHeight)
          const picture = partlyClear(width, height, seed)
          const [made, wanted] = [
            resizePixels(picture, newWidth, newHeight, meaning),
            plainly(picture, newWidth, newHeight, meaning),
          ]
          for (const [at, value] of made.data.entries())
            expect(Math.abs(value - wanted.data[at])).toBeLessThanOrEqual(1)
        },
      ),
      { numRuns: 60 },
    )
  })

  it.each(meanings)('is the same where it is halved, the way that nearly all go: %s', (meaning) => {
    for (const [width, height] of [
      [2, 2],
      [4, 2],
      [16, 8],
      [32, 32],
      [6, 10],
    ]) {
      const picture = partlyClear(width, height, width * height)
      const made = resizePixels(picture, width / 2, height / 2, meaning)
      const wanted = plainly(picture, width / 2, height / 2, meaning)
      for (const [at, value] of made.data.entries()) expect(Math.abs(value - wanted.data[at])).toBeLessThanOrEqual(1)
    }
  })

  it('is halved in one direction alone', () => {
    const picture = painted(16, 16)
    expect(resizePixels(picture, 8, 16, 'data').data.length).toBe(8 * 16 * 4)
    const wanted = plainly(picture, 8, 16, 'data')
    for (const [at, value] of resizePixels(picture, 8, 16, 'data').data.entries())
      expect(Math.abs(value - wanted.data[at])).toBeLessThanOrEqual(1)
  })

  it('is the picture itself where the size is the same', () => {
    const picture = painted(8, 8)
    expect(resizePixels(picture, 8, 8, 'colour')).toBe(picture)
  })

  it('leaves what it was given as it was', () => {
    const picture = painted(16, 16)
    const before = picture.data.slice()
    resizePixels(picture, 8, 8, 'colour')
    expect(picture.data).toEqual(before)
  })
})

describe('what compressing lost', () => {
  it('is measured over the channels that are kept, and at the worst block', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 11 }),
        fc.integer({ min: 1, max: 11 }),
        fc.integer({ min: 1, max: 4 }),
        (width, height, channels) => {
          const [given, read] = [painted(width, height, 1), painted(width, height, 2)]
          let total = 0
          const blocks = new Map<string, { sum: number; count: number }>()
          for (let pixel = 0; pixel < width * height; pixel++) {
            const key = `${Math.floor((pixel % width) / 4) * 4} ${Math.floor(pixel / width / 4) * 4}`
            const block = blocks.get(key) ?? { sum: 0, count: 0 }
            for (let channel = 0; channel < channels; channel++) {
              const miss = (given.data[pixel * 4 + channel] - read.data[pixel * 4 + channel]) ** 2
              total += miss
              block.sum += miss
              block.count++
            }
            blocks.set(key, block)
          }
          const mean = total / (width * height * channels)
          const loss = measureLoss(given, read, channels, false)
          if (mean === 0) {
            expect(loss.psnrDecibels).toBeNull()
            return
          }
          expect(loss.psnrDecibels).toBeCloseTo(10 * Math.log10(255 ** 2 / mean), 9)
          const worst = Math.max(...[...blocks.values()].map(({ sum, count }) => sum / count))
          expect(loss.worstBlock?.psnrDecibels).toBeCloseTo(10 * Math.log10(255 ** 2 / worst), 9)
          const at = blocks.get(`${loss.worstBlock?.x} ${loss.worstBlock?.y}`)
          expect((at?.sum ?? 0) / (at?.count ?? 1)).toBeCloseTo(worst, 9)
        },
      ),
      { numRuns: 80 },
    )
  })

  it('is nothing where nothing differs in what is kept', () => {
    const given = painted(8, 8)
    const read = { ...given, data: given.data.map((value, at) => (at % 4 === 3 ? 7 : value)) }
    expect(measureLoss(given, read, 3, true)).toEqual({ psnrDecibels: null, worstBlock: null, meanAngleDegrees: 0 })
    expect(measureLoss(given, read, 4, false).psnrDecibels).not.toBeNull()
  })
})

describe('colours that are spread between islands', () => {
  /** For each pixel the least number of steps, to the side or across, to one that is covered. */
  function stepsTo(covered: Uint8Array, width: number): number[] {
    const height = covered.length / width
    return Array.from(covered, (_, pixel) => {
      let least = Infinity
      for (let other = 0; other < covered.length; other++) {
        if (covered[other] === 0) continue
        const [dx, dy] = [(pixel % width) - (other % width), Math.floor(pixel / width) - Math.floor(other / width)]
        least = Math.min(least, Math.max(Math.abs(dx), Math.abs(dy)))
      }
      return height > 0 ? least : 0
    })
  }

  it('are those of a nearest pixel that shows one', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 9 }),
        fc.nat(1000),
        (width, height, seed) => {
          const next = numbers(seed)
          const covered = Uint8Array.from({ length: width * height }, () => (next() < 0.25 ? 1 : 0))
          const picture = pictureOf(width, height, (x, y) => [x * 20, y * 20, (x * 7 + y * 3) % 256])
          const grown = growEdges(picture, covered)
          const steps = stepsTo(covered, width)
          for (let pixel = 0; pixel < covered.length; pixel++) {
            const colour = [...grown.data.subarray(pixel * 4, pixel * 4 + 3)]
            if (!Number.isFinite(steps[pixel])) continue
            const [x, y] = [colour[0] / 20, colour[1] / 20]
            expect(covered[y * width + x]).toBe(1)
            const distance = Math.max(Math.abs(x - (pixel % width)), Math.abs(y - Math.floor(pixel / width)))
            expect(distance).toBe(steps[pixel])
          }
        },
      ),
      { numRuns: 80 },
    )
  })

  it('do not go round the edges of the picture', () => {
    const picture = pictureOf(5, 1, (x) => [x * 50, 0, 0])
    const grown = growEdges(picture, Uint8Array.of(1, 0, 0, 0, 0))
    expect([...grown.data.filter((_, at) => at % 4 === 0)]).toEqual([0, 0, 0, 0, 0])
  })

  it('are the picture as it is where all of it is shown, or nothing', () => {
    const picture = painted(4, 4)
    expect(growEdges(picture, new Uint8Array(16).fill(1))).toBe(picture)
    expect(growEdges(picture, new Uint8Array(16))).toBe(picture)
  })

  it('keep the opacity where that is asked', () => {
    const picture = pictureOf(2, 1, (x) => (x === 0 ? [10, 20, 30, 255] : [1, 2, 3, 40]))
    expect([...growEdges(picture, Uint8Array.of(1, 0), true).data.subarray(4)]).toEqual([10, 20, 30, 40])
    expect([...growEdges(picture, Uint8Array.of(1, 0)).data.subarray(4)]).toEqual([10, 20, 30, 255])
  })
})
