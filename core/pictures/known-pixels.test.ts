import { describe, expect, it } from 'vitest'
import { keepReadPixels, pixelsOf } from './known-pixels.ts'
import { encodePng } from './image-codecs.ts'
import { openImage } from './open-image.ts'
import type { Pixels } from './pixels.ts'

const MEBIBYTE = 1024 * 1024
const file = (): Uint8Array => new Uint8Array(8)
const pixels = (mebibytes = 1): Pixels => ({
  width: 512,
  height: 512 * mebibytes,
  data: new Uint8Array(mebibytes * MEBIBYTE),
})
/** A decoder that counts how often it was needed. */
function counting(answer = pixels()) {
  let times = 0
  return {
    decode: (): Pixels => {
      times++
      return answer
    },
    times: () => times,
  }
}

describe('pixels of a file', () => {
  it('are decoded once, however often they are asked for', async () => {
    const [of, decoder] = [file(), counting()]
    const first = await pixelsOf(of, decoder.decode)
    expect(await pixelsOf(of, decoder.decode)).toBe(first)
    expect(decoder.times()).toBe(1)
  })

  it('are told apart by the file and not by what is in it', async () => {
    const decoder = counting()
    await pixelsOf(file(), decoder.decode)
    await pixelsOf(file(), decoder.decode)
    expect(decoder.times()).toBe(2)
  })

  it('that were decoded as the file was read are not decoded again', async () => {
    const [of, read, decoder] = [file(), pixels(), counting()]
    keepReadPixels(of, read)
    expect(await pixelsOf(of, decoder.decode)).toBe(read)
    expect(await pixelsOf(of, decoder.decode)).toBe(read)
    expect(decoder.times()).toBe(0)
  })

  it('of many files are let go but for the latest', async () => {
    const files = Array.from({ length: 12 }, file)
    for (const each of files) keepReadPixels(each, pixels(16))
    const decoder = counting()
    for (const each of files.toReversed()) await pixelsOf(each, decoder.decode)
    // Six of sixteen mebibytes each fit.
    expect(decoder.times()).toBe(6)
  })

  it('of one file that is larger than all that is kept are not kept', async () => {
    const [large, small, decoder] = [file(), file(), counting()]
    keepReadPixels(small, pixels())
    keepReadPixels(large, pixels(97))
    await pixelsOf(large, decoder.decode)
    await pixelsOf(small, decoder.decode)
    expect(decoder.times()).toBe(1)
  })

  it('that cannot be decoded are asked for again', async () => {
    const of = file()
    await expect(
      pixelsOf(of, () => {
        throw new Error('it ends early')
      }),
    ).rejects.toThrow('it ends early')
    const decoder = counting()
    await pixelsOf(of, decoder.decode)
    expect(decoder.times()).toBe(1)
  })
})

describe('a picture that came in', () => {
  it.each([
    [true, 77],
    [false, 255],
  ])('is known with the pixels that decoding it would give (clear: %s)', async (clear, alpha) => {
    const drawn = { width: 2, height: 1, data: Uint8Array.of(10, 20, 30, 255, 40, 50, 60, alpha) }
    const opened = await openImage(encodePng(drawn, clear))
    const decoder = counting()
    const known = await pixelsOf(opened.bytes, decoder.decode)
    expect(decoder.times()).toBe(0)
    expect([...known.data]).toEqual([...drawn.data])
  })
})
