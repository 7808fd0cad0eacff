import type { Document, Node } from '@gltf-transform/core'
import { faceNormals } from '../../geometry/mesh/pieces.ts'
import { createRayCaster, type RayCaster } from '../../geometry/surface/ray-caster.ts'
import { createSurfaceFinder } from '../../geometry/surface/surface-distance.ts'
import { listPlaces } from '../../item/annotations/places.ts'
import { boundsSize, mergedTriangles, partsBounds } from '../../item/measure.ts'
import { listViewParts } from '../../item/parts.ts'
import { along, cross, unit, type Vector3 } from '../../maths/vectors.ts'

/** An attach point, and how it stands to the body. */
export interface StandingAttachPoint {
  name: string
  node: Node
  /** In the scene. */
  at: Vector3
  /** Which way what joins looks from there: the node's own forward, of unit length. */
  ahead: Vector3
  /** Whether it lies within the body. */
  isInside: boolean
  /** Whether what joins there would reach into the body. */
  facesIn: boolean
  /** The nearest place of the surface, and which way is outward there. */
  nearest: { at: Vector3; outward: Vector3 } | null
}

/** Share of the longest side of the item by which one steps ahead of a point to see where it leads. */
const STEP_SHARE = 0.02

/**
 * The attach points of an item. Within the body is what meets the backs of faces on at least four of six ways, and lies
 * deeper than its skin.
 *
 * @example const hidden = standingAttachPoints(document).filter(({ isInside }) => isInside)
 */
export function standingAttachPoints(document: Document): StandingAttachPoint[] {
  const places = listPlaces(document).filter(({ extras }) => extras.role === 'attach-point')
  if (places.length === 0) return []
  const parts = listViewParts(document)
  const { positions, indices } = mergedTriangles(parts)
  const caster = createRayCaster(positions, indices)
  const finder = createSurfaceFinder({ positions, indices })
  const step = parts.length > 0 ? Math.max(...boundsSize(partsBounds(parts))) * STEP_SHARE : 0
  return places.map(({ name, node }) => {
    const world = node.getWorldMatrix()
    const at: Vector3 = [world[12], world[13], world[14]]
    const ahead = unit([world[8], world[9], world[10]])
    const isInside = liesInside(caster, at, step)
    const found = finder.nearest(...at)
    return {
      name,
      node,
      at,
      ahead,
      isInside,
      facesIn: !isInside && liesInside(caster, along(at, [ahead, step]), step),
      nearest: found && { at: found.point, outward: outwardAt(positions, indices, found.triangle) },
    }
  })
}

const WAYS: Vector3[] = [
  [1, 0, 0],
  [-1, 0, 0],
  [0, 1, 0],
  [0, -1, 0],
  [0, 0, 1],
  [0, 0, -1],
]
const MOST_OPEN = 2
/** Share of a step within which a place is on the surface rather than behind it. */
const ON_SURFACE = 0.25

function liesInside({ first }: RayCaster, at: Vector3, step: number): boolean {
  const hits = WAYS.map((way) => first(at, way))
  if (hits.some((hit) => hit !== null && hit.distance <= step * ON_SURFACE)) return false
  return hits.filter((hit) => hit?.front !== false).length <= MOST_OPEN
}

/**
 * Which way is outward at a triangle, of unit length; none where it has no area.
 * @example outwardAt(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), Uint32Array.of(0, 1, 2), 0) // [0, 0, 1]
 */
export function outwardAt(positions: Float32Array, indices: Uint32Array, triangle: number): Vector3 {
  const [x, y, z] = faceNormals(positions, indices.subarray(triangle * 3, triangle * 3 + 3))
  return [x, y, z]
}

/**
 * A node's matrix that stands at a place and looks a way, upright as far as that goes.
 * @returns column-major
 *
 * @example node.setMatrix(lookingAlong(hit.point, outwardAt(positions, indices, hit.triangle)))
 */
export function lookingAlong(at: Vector3, ahead: Vector3): number[] {
  const up: Vector3 = Math.abs(ahead[1]) > 0.99 ? [0, 0, -Math.sign(ahead[1])] : [0, 1, 0]
  const side = unit(cross(up, ahead))
  const top = cross(ahead, side)
  return [...side, 0, ...top, 0, ...ahead, 0, ...at, 1]
}
