import { describe, expect, it } from 'vitest'
import { prepareWorklist } from '../../worklist/prepare.ts'
import { memoryStore } from '../../worklist/result-store.ts'
import { kindOf } from '../../game/load.ts'
import { textureFacts, texturePixels } from '../../operations/maps/texture-pixels.ts'
import { boxWith } from '../../test-support/mapped-boxes.ts'
import { painted } from '../../test-support/pictures.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'
import { byteOfLinear, linearOfByte } from '../../pictures/srgb.ts'

const most = tarnAndTiller.maps.largestPixels

/** A picture of stripes of black and white, one pixel each. */
const stripes = (width: number, height: number) => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height * 4 }, (_, at) =>
    at % 4 === 3 ? 255 : Math.floor(at / 4) % 2 === 0 ? 0 : 255,
  ),
})

describe('Shrink maps', () => {
  it('is proposed for pictures of twice the size that the game takes, and for no smaller one', () => {
    const sized = (side: number) => proposals('shrink-maps', boxWith({ colour: painted(side, 4) }).document)
    expect(sized(most * 2 - 1)).toEqual([])
    expect(sized(most * 2)).toHaveLength(1)
    expect(sized(most * 2)[0].reason).toMatch(/1 map is far larger than the 1,024 pixels .*has 2,048/)
  })

  it('keeps how a picture is shaped and how much light it has, and leaves those alone that are small enough', async () => {
    const { document } = boxWith({ colour: stripes(64, 16), gloss: painted(8, 8) })
    const { after, summary } = await runStep('shrink-maps', document, { largestPixels: 16 })
    const [colour, gloss] = after.getRoot().listTextures()
    expect(textureFacts(colour)).toMatchObject({ width: 16, height: 4 })
    expect(textureFacts(gloss)).toMatchObject({ width: 8, height: 8 })
    expect(summary.headline).toBe('1 map')
    // Half black and half white gives off half the light of white.
    const half = byteOfLinear(linearOfByte[255] / 2)
    const { data } = await texturePixels(colour)
    for (let at = 0; at < data.length; at += 4) expect(Math.abs(data[at] - half)).toBeLessThanOrEqual(2)
  })

  it('comes before whatever works on pixels', async () => {
    const { document, material } = boxWith({ colour: painted(most * 2, 64) })
    material.setBaseColorFactor([0.5, 0.6, 0.7, 1])
    const worklist = await prepareWorklist(
      { key: 'box', document },
      { rulebook: tarnAndTiller, kind: kindOf(tarnAndTiller, 'prop'), store: memoryStore() },
    )
    const order = worklist.map(({ step }) => step)
    expect(order.indexOf('shrink-maps')).toBeGreaterThanOrEqual(0)
    expect(order.indexOf('fold-materials')).toBeGreaterThan(order.indexOf('shrink-maps'))
  })
})
