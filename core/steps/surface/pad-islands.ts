import { z } from 'zod'
import { rasteriseStretches } from '../../geometry/uv/uv-raster.ts'
import { ddsMimeType } from '../../pictures/codecs/dds.ts'
import { growEdges } from '../../pictures/grow-edges.ts'
import { hasTransparency } from '../../pictures/pixels.ts'
import { putPixels } from '../../operations/maps/map-pixels.ts'
import { listShownMaps, surfacesShowing, type TexturedSurface } from '../../operations/maps/shown-maps.ts'
import { defineStep } from '../step.ts'
import { rememberByValue } from '../../support/remember.ts'
import { plural } from '../../support/wording.ts'
import { textureFacts, texturePixels } from '../../operations/maps/texture-pixels.ts'

const parameters = z.object({})

/** Above this share of a texture nothing lies between islands. */
const FULL = 0.985

/** Fills what lies between UV islands with their own colours. */
export const padIslands = defineStep<z.infer<typeof parameters>>({
  id: 'pad-islands',
  version: 1,
  stage: 'surface',
  ofMaps: true,
  title: 'Pad islands',
  purpose:
    'Grows the colours of UV islands into what lies between them, so that smaller mipmaps do not mix in a background.',
  parameters,
  fields: () => [],
  defaults: () => ({}),
  propose({ document, kind, rulebook }) {
    if (kind.mesh === null) return []
    const loose = listShownMaps(document, rulebook).filter(({ texture }) => {
      if (texture.getMimeType() === ddsMimeType) return false
      const { width, height } = textureFacts(texture)
      // A rough look at a quarter of the size tells whether there is anything between.
      const share = coveredShare(
        coverage(surfacesShowing(document, texture), Math.max(1, width >> 2), Math.max(1, height >> 2)),
      )
      return share > 0 && share < FULL
    })
    if (loose.length === 0) return []
    return [
      {
        parameters: {},
        reason:
          `${plural(loose.length, 'map')} ${loose.length === 1 ? 'has' : 'have'} room between UV islands that ` +
          'would bleed into the mipmaps.',
      },
    ]
  },
  async run({ document, rulebook, progress }) {
    const maps = listShownMaps(document, rulebook).filter(({ texture }) => texture.getMimeType() !== ddsMimeType)
    const details: string[] = []
    let grown = 0
    for (const [number, { texture }] of maps.entries()) {
      await progress(number / maps.length, texture.getName())
      const pixels = await texturePixels(texture)
      const covered = coverage(surfacesShowing(document, texture), pixels.width, pixels.height)
      const share = coveredShare(covered)
      if (share === 0 || share >= FULL) {
        details.push(`${texture.getName()}: nothing lies between islands.`)
        continue
      }
      putPixels(texture, growEdges(pixels, covered, hasTransparency(pixels)))
      details.push(
        `${texture.getName()}: ${Math.round((1 - share) * 100)} % lay between islands and shows their colours now.`,
      )
      grown++
    }
    return { headline: plural(grown, 'map'), details, changed: grown > 0 }
  },
})

type Shown = Pick<TexturedSurface, 'uvs' | 'indices'>

/** After so many pictures of pixels that were all shown before, the rest of the tiles shows nothing else. */
const PICTURES_WITHOUT_NEWS = 16

/** One byte a pixel: 1 where a surface shows it. */
function findCoverage(surfaces: readonly Shown[], width: number, height: number): Uint8Array {
  const covered = new Uint8Array(width * height)
  let left = covered.length
  let sinceNew = 0
  // Tiled pictures are covered many times over: once is enough.
  const isDone = (): boolean => left === 0 || sinceNew > covered.length * PICTURES_WITHOUT_NEWS
  for (const { uvs, indices } of surfaces) {
    rasteriseStretches(uvs, indices, width, height, (from, to) => {
      sinceNew += to - from
      for (let pixel = from; pixel < to; pixel++) {
        if (covered[pixel] === 1) continue
        covered[pixel] = 1
        left--
        sinceNew = 0
      }
      return isDone() ? false : undefined
    })
    if (isDone()) break
  }
  return covered
}

/** Maps of one material are shown by the same surfaces: what was found for one serves the next. */
const coverageOnce = rememberByValue(findCoverage, 1)

const coverage = (surfaces: readonly TexturedSurface[], width: number, height: number): Uint8Array =>
  coverageOnce(
    surfaces.map(({ uvs, indices }) => ({ uvs, indices })),
    width,
    height,
  )

function coveredShare(covered: Uint8Array): number {
  let sum = 0
  for (const each of covered) sum += each
  return sum / covered.length
}
