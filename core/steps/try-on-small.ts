import { materialTag } from '../game/material-tag.ts'
import type { Document, Texture } from '@gltf-transform/core'
import { copyDocument } from '../item/io.ts'
import { listShownMaterials } from '../item/looks.ts'
import type { GameMapRole, IngredientRole } from '../item/map-roles.ts'
import { materialMap } from '../item/source-maps.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import { putPixels } from '../operations/maps/map-pixels.ts'
import { stepById } from './registry.ts'
import type { SourceImage } from '../operations/context.ts'
import { meaningOf, texturePixels } from '../operations/maps/texture-pixels.ts'
import type { Pixels } from '../pictures/pixels.ts'
import { resizePixels } from '../pictures/resize.ts'

/** Longest side of the small pictures: about what the screen shows of a map. */
const SMALL_PIXELS = 256

/**
 * A copy of an item whose pictures are small, for trying steps on.
 * @example const small = await withSmallPictures(document)
 */
export async function withSmallPictures(document: Document): Promise<Document> {
  const small = copyDocument(document)
  for (const texture of small.getRoot().listTextures()) {
    if (!texture.getImage()) continue
    const pixels = await texturePixels(texture)
    const scale = SMALL_PIXELS / Math.max(pixels.width, pixels.height)
    if (scale >= 1) continue
    putPixels(
      texture,
      resizePixels(
        pixels,
        Math.max(1, Math.round(pixels.width * scale)),
        Math.max(1, Math.round(pixels.height * scale)),
        meaningOf(texture),
      ),
    )
  }
  return small
}

/** Which map of an item is meant, whatever it is called at that place of the worklist. */
export interface WantedMap {
  /** The material's name without its tag. */
  material: string
  role: GameMapRole | IngredientRole
}

export interface StepTry {
  step: string
  parameters: unknown
  rulebook: Rulebook
  kind: Kind
  images?: readonly SourceImage[]
}

/**
 * What a step makes of one map, on small pictures: not exact, but soon.
 * @returns null when the step does not work pixel by pixel, its settings are not whole, or the map is not there
 *
 * @example const pixels = await tryOnSmall(await withSmallPictures(document), wanted, tried)
 */
export async function tryOnSmall(
  small: Document,
  wanted: WantedMap,
  { step: id, parameters, rulebook, kind, images }: StepTry,
): Promise<Pixels | null> {
  const step = stepById(id)
  if (!step.pixelwise || !step.parameters.safeParse(parameters).success) return null
  const document = copyDocument(small)
  await step.run({ document, parameters, rulebook, kind, images, source: small, progress: async () => undefined })
  const texture = findMap(document, wanted, rulebook)
  return texture ? texturePixels(texture) : null
}

function findMap(document: Document, { material, role }: WantedMap, rulebook: Rulebook): Texture | null {
  const shown = listShownMaterials(document).find((each) => materialTag(each, rulebook).base === material)
  return shown ? materialMap(shown, role) : null
}
