import type { Document } from '@gltf-transform/core'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { hasFlag, materialTag, flagFor, baseNameOf } from '../../game/material-tag.ts'
import type { Turning } from '../../item/turning.ts'
import { getRootExtras } from '../../item/extras.ts'
import { boundsSize, isEmptyBounds, mergedTriangles, partsBounds } from '../../item/measure.ts'
import { listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { cross, dot, lengthOf, unit, type Vector3 } from '../../maths/vectors.ts'

export const MOST_DEPTH_SHARE = 0.02
export const MOST_FRONT_DEGREES = 5
/** How far the line it turns about may stand beside its middle, as a share of its longest side. */
export const MOST_WANDER_SHARE = 0.02

/** How something that faces the viewer stands. Lengths in scene units. */
export interface FacingCard {
  /** Which way its front looks, of unit length. */
  front: Vector3
  /** Between its front and forward; 0 where both sides are drawn and one looks forward. */
  frontDegrees: number
  /** How deep it is along its front, as a share of its longest side. */
  depthShare: number
  /** How far its middle stands beside the upright line through the origin, and that as a share of its longest side. */
  wander: number
  wanderShare: number
  /** Its lowest point. */
  lowest: number
  turns: Turning
  /** Materials by their names that throw a shadow. */
  throwing: string[]
}

/**
 * Measures an item of a kind that faces the viewer.
 * @returns null where nothing is drawn, or the kind demands nothing of what faces the viewer
 * @example const card = facingCard(document, rulebook, kind) // card.frontDegrees: 90 for one that looks aside
 */
export function facingCard(document: Document, rulebook: Rulebook, kind: Kind): FacingCard | null {
  const demands = kind.mesh?.facing
  const parts = listViewParts(document)
  const bounds = partsBounds(parts)
  if (!demands || parts.length === 0 || isEmptyBounds(bounds)) return null
  const { positions, indices } = mergedTriangles(parts)
  const longest = Math.max(...boundsSize(bounds), Number.MIN_VALUE)
  const { front, twoFaced } = frontOf(positions, indices)
  let [near, far] = [Infinity, -Infinity]
  for (const corner of indices) {
    const depth = dot(front, [positions[corner * 3], positions[corner * 3 + 1], positions[corner * 3 + 2]])
    near = Math.min(near, depth)
    far = Math.max(far, depth)
  }
  const cosine = twoFaced ? Math.abs(front[2]) : front[2]
  const wander = Math.hypot((bounds.min[0] + bounds.max[0]) / 2, (bounds.min[2] + bounds.max[2]) / 2)
  return {
    front: twoFaced && front[2] < 0 ? [-front[0], -front[1], -front[2]] : front,
    frontDegrees: (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI,
    depthShare: indices.length === 0 ? 0 : (far - near) / longest,
    wander,
    wanderShare: wander / longest,
    lowest: bounds.min[1],
    turns: getRootExtras(document.getRoot()).turns ?? demands.turns[0],
    throwing:
      demands.throwsShadow || flagFor(rulebook, 'throws-no-shadow') === null
        ? []
        : listUsedMaterials(document)
            .filter((material) => !hasFlag(materialTag(material, rulebook).flags, 'throws-no-shadow', rulebook))
            .map((material) => baseNameOf(material, rulebook)),
  }
}

/**
 * How high the lower edge of a thing hangs at least.
 * @example const least = hangsAbove(rulebook, kind)
 */
export const hangsAbove = ({ space }: Rulebook, kind: Kind): number =>
  kind.mesh?.facing?.aboveHead ? space.figure.height : -Infinity

/** Share of all area that has to look one way for it to be the front of a thing. */
const LEAST_ONE_WAY = 0.2

/** The way most area looks; of what has as much front as back, the way its largest triangle looks. */
function frontOf(positions: Float32Array, indices: Uint32Array): { front: Vector3; twoFaced: boolean } {
  const sum: Vector3 = [0, 0, 0]
  let area = 0
  let largest: Vector3 = [0, 0, 1]
  let most = 0
  const at = (corner: number): Vector3 => [positions[corner * 3], positions[corner * 3 + 1], positions[corner * 3 + 2]]
  for (let triangle = 0; triangle < indices.length; triangle += 3) {
    const [a, b, c] = [at(indices[triangle]), at(indices[triangle + 1]), at(indices[triangle + 2])]
    const way = cross([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]])
    const own = lengthOf(way)
    area += own
    for (let axis = 0; axis < 3; axis++) sum[axis] += way[axis]
    if (own > most) [most, largest] = [own, way]
  }
  const twoFaced = lengthOf(sum) < area * LEAST_ONE_WAY
  return { front: unit(twoFaced ? largest : sum), twoFaced }
}
