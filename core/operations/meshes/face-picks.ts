import type { Document, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { transformedPoints } from '../../maths/matrices.ts'
import { listAllParts, restMatrix, type Part } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { facesWithin, growPick, growths } from '../../geometry/mesh/pieces.ts'
import { createSurfaceFinder } from '../../geometry/surface/surface-distance.ts'

/**
 * Faces that were pointed at: a point on a part's surface, in scene units as the step is given it, and how far the pick
 * reaches from there. A point instead of triangle numbers, so that the pick still means the same on a newer source.
 */
export const facePickSchema = z.object({
  part: z.string().max(200),
  point: z.array(z.number()).length(3),
  growth: z.enum(growths),
  angleDegrees: z.number().min(0).max(180),
  /** How far a round pick reaches, in game units. */
  radius: z.number().min(0).max(1e5).default(0),
})
export type FacePick = z.infer<typeof facePickSchema>
type WrittenPick = z.input<typeof facePickSchema>
export const facePicksSchema = z.array(facePickSchema).max(500)

export interface PickedFaces {
  /** 1 for each picked triangle of each surface that has any. */
  triangles: Map<Primitive, Uint8Array>
  count: number
  /** Parts that are not there any more. */
  gone: string[]
}

/**
 * Finds the triangles that picks stand for.
 *
 * @example const { triangles, gone } = pickedFaces(document, parameters.faces)
 */
export function pickedFaces(document: Document, picks: readonly WrittenPick[]): PickedFaces {
  const picked: PickedFaces = { triangles: new Map(), count: 0, gone: [] }
  const parts = listAllParts(document)
  for (const written of picks) {
    const pick = facePickSchema.parse(written)
    const part = parts.find((each) => each.name === pick.part)
    if (part) pickOn(part, pick, picked.triangles)
    else picked.gone.push(pick.part)
  }
  for (const marks of picked.triangles.values()) picked.count += marks.reduce((sum, each) => sum + each, 0)
  return picked
}

function pickOn(part: Part, pick: FacePick, triangles: Map<Primitive, Uint8Array>): void {
  const surfaces = part.mesh.listPrimitives().map((primitive) => ({ primitive, ...inScene(primitive, part) }))
  const add = (primitive: Primitive, grown: Uint8Array): void =>
    void triangles.set(
      primitive,
      grown.map((mark, triangle) => mark | (triangles.get(primitive)?.[triangle] ?? 0)),
    )
  if (pick.growth === 'round') {
    for (const { primitive, positions, indices } of surfaces) {
      const grown = facesWithin(positions, indices, pick.point, pick.radius)
      if (grown.includes(1)) add(primitive, grown)
    }
    return
  }
  const hits = surfaces.map(({ positions, indices }) =>
    createSurfaceFinder({ positions, indices }).nearest(pick.point[0], pick.point[1], pick.point[2]),
  )
  const best = hits.reduce(
    (found, hit, index) => (hit && (found < 0 || hit.distance < (hits[found]?.distance ?? Infinity)) ? index : found),
    -1,
  )
  const hit = hits[best]
  if (!hit) return
  const { primitive, positions, indices } = surfaces[best]
  add(primitive, growPick(positions, indices, hit.triangle, pick.growth, pick.angleDegrees))
}

function inScene(primitive: Primitive, part: Part): { positions: Float32Array; indices: Uint32Array } {
  const { positions, indices } = readPrimitive(primitive)
  return { positions: transformedPoints(positions, restMatrix(part.node)), indices }
}
