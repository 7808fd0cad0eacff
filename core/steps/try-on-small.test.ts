import { describe, expect, it } from 'vitest'
import { listUsedMaterials } from '../item/parts.ts'
import { kindOf } from '../game/load.ts'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { painted } from '../test-support/pictures.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { runStep } from '../test-support/step-runs.ts'
import { peakSignalToNoise } from '../pictures/loss.ts'
import { resizePixels } from '../pictures/resize.ts'
import { materialsInLook } from '../item/looks.ts'
import { addTexture } from '../operations/maps/map-pixels.ts'
import { stepById, steps } from './registry.ts'
import { texturePixels } from '../operations/maps/texture-pixels.ts'
import { tryOnSmall, withSmallPictures } from './try-on-small.ts'

function planks() {
  const document = documentOf({ box: unitBox() })
  document
    .getRoot()
    .listMaterials()[0]
    .setName('planks')
    .setBaseColorTexture(addTexture(document, 'planks_col', 'colour', painted(640, 320), 'test'))
  return document
}
const around = { rulebook: tarnAndTiller, kind: kindOf(tarnAndTiller, 'prop') }

describe('a step tried on small pictures', () => {
  it('looks like the exact result made smaller, and leaves the item alone', async () => {
    const document = planks()
    const variant = {
      name: 'blue',
      hueDegrees: 120,
      saturation: 0,
      lightness: 0,
      colour: '#2f5f9e',
      mode: 'tint',
      strength: 0.5,
    }
    const parameters = {
      ...(stepById('recolour-looks').defaults({ document, ...around }) as object),
      variants: [variant],
    }
    const small = await withSmallPictures(document)
    const tried = await tryOnSmall(
      small,
      { material: 'planks_blue', role: 'colour' },
      { step: 'recolour-looks', parameters, ...around },
    )
    expect([tried?.width, tried?.height]).toEqual([256, 128])
    const { after } = await runStep('recolour-looks', document, parameters as Record<string, unknown>)
    const [[, shown]] = [...materialsInLook(after, 'blue')]
    const exact = resizePixels(await texturePixels(shown.getBaseColorTexture() as never), 256, 128, 'colour')
    expect(peakSignalToNoise(tried as never, exact, 3) ?? 99).toBeGreaterThan(34)
    expect((await texturePixels(listUsedMaterials(small)[0].getBaseColorTexture() as never)).width).toBe(256)
    expect((await texturePixels(listUsedMaterials(document)[0].getBaseColorTexture() as never)).width).toBe(640)
  })
  it('is not offered by steps that look further than a pixel, nor for settings on their way', async () => {
    const small = await withSmallPictures(planks())
    expect(
      await tryOnSmall(
        small,
        { material: 'planks', role: 'colour' },
        { step: 'compress-maps', parameters: {}, ...around },
      ),
    ).toBeNull()
    expect(
      await tryOnSmall(
        small,
        { material: 'planks', role: 'colour' },
        { step: 'recolour-looks', parameters: { variants: 'none' }, ...around },
      ),
    ).toBeNull()
    expect(
      await tryOnSmall(
        small,
        { material: 'roof', role: 'colour' },
        { step: 'read-roles', parameters: { roles: [] }, ...around },
      ),
    ).toBeNull()
    expect(steps.filter((step) => step.pixelwise).every((step) => step.stage === 'surface')).toBe(true)
  })
})
