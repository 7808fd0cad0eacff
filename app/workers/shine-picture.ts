import type { Material } from '@gltf-transform/core'
import { packedChannel } from '../../core/game/map-roles'
import type { Rulebook } from '../../core/game/schema'
import { materialMap } from '../../core/item/source-maps'
import { texturePixels } from '../../core/operations/maps/texture-pixels'
import { resizePixels } from '../../core/pictures/resize'
import type { SceneData } from './scene-data'

const LARGEST_PICTURE = 1024

/** What says nothing: no shade, matt, no metal. */
const empty = [255, 255, 0, 255]

/**
 * What a game's packed maps say of a material, as the yard draws it: red occlusion, green roughness, blue metalness.
 * @returns null where it has no packed map
 */
export async function shinePicture(
  material: Material,
  rulebook: Rulebook,
): Promise<SceneData['pictures'][number] | null> {
  const channels = (['occlusion', 'roughness', 'metalness'] as const).map((meaning) =>
    packedChannel(material, meaning, rulebook),
  )
  const first = channels.find((each) => each !== null)
  const texture = first ? materialMap(material, first.key) : null
  if (!texture) return null
  const whole = await texturePixels(texture)
  const shrink = Math.min(1, LARGEST_PICTURE / Math.max(whole.width, whole.height))
  const [width, height] = [Math.round(whole.width * shrink), Math.round(whole.height * shrink)]
  const data = Uint8Array.from({ length: width * height * 4 }, (_, at) => empty[at % 4])
  for (const [target, from] of channels.entries()) {
    const own = from ? materialMap(material, from.key) : null
    if (!from || !own) continue
    const pixels = resizePixels(own === texture ? whole : await texturePixels(own), width, height, 'data')
    for (let at = 0; at < data.length; at += 4) {
      const value = pixels.data[at + from.channel]
      data[at + target] = from.inverted ? 255 - value : value
    }
  }
  return { name: texture.getName(), width, height, data }
}
