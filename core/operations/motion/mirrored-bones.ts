import type { Node } from '@gltf-transform/core'

/** Share of the whole skeleton within which a bone stands where another one's mirror image is. */
const NEAR = 0.05

/**
 * For each bone the number of the one on the other side: the one that stands nearest to its mirror image. A bone
 * whose image stands nowhere is its own.
 * @param at where the mirror stands along the axis
 *
 * @example const mirrored = mirroredBones(skin.listJoints(), 0, 0)
 */
export function mirroredBones(bones: readonly Node[], axis: 0 | 1 | 2, at: number): number[] {
  const places = bones.map((bone) => bone.getWorldMatrix().slice(12, 15))
  const spread = Math.max(
    0,
    ...[0, 1, 2].map((each) => {
      const along = places.map((place) => place[each])
      return Math.max(...along) - Math.min(...along)
    }),
  )
  return places.map((place, bone) => {
    const image = place.map((value, each) => (each === axis ? 2 * at - value : value))
    let [best, least] = [bone, NEAR * spread]
    places.forEach((other, number) => {
      const apart = Math.hypot(...other.map((value, each) => value - image[each]))
      if (apart > least || (apart === least && best !== bone)) return
      best = number
      least = apart
    })
    return best
  })
}
