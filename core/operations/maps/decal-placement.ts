import type { Document, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { transformedPoints } from '../../maths/matrices.ts'
import { listAllParts, restMatrix, type Part } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import {
  cutPatch,
  planeOver,
  type DecalPatch,
  type DecalPlane,
  type PatchSurface,
} from '../../geometry/surface/decal-patch.ts'
import { cornerNormals } from '../../geometry/uv/surface-texels.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { facePicksSchema, pickedFaces } from '../meshes/face-picks.ts'

/** Where a decal lies: what the step is told, and what the yard moves. */
export const decalPlacementSchema = z.object({
  faces: facePicksSchema,
  picture: z.string().max(400),
  /** In game units; the height follows from the picture. */
  width: z.number().positive().max(1e5),
  /** From the middle of the picked faces, along the picture's right and up, in game units. */
  right: z.number().min(-1e5).max(1e5),
  up: z.number().min(-1e5).max(1e5),
  turnDegrees: z.number().min(-360).max(360),
  lift: z.number().min(0).max(10),
})
export type DecalPlacement = z.infer<typeof decalPlacementSchema>

export interface PlacedDecal {
  part: Part
  plane: DecalPlane
  /** What the picture covers of each picked surface, in scene space. */
  patches: { primitive: Primitive; patch: DecalPatch }[]
  /** Triangles that were picked. */
  picked: number
}

const UP = [0, 1, 0]

/**
 * Lays a picture over the picked faces of the first pick's part: one plane for all of them.
 * @returns null when the part is not there, or the faces have no area
 *
 * @example const placed = placeDecal(document, parameters, await pictureByName('badge.png', document, images))
 */
export function placeDecal(document: Document, how: DecalPlacement, picture: Pixels): PlacedDecal | null {
  const part = listAllParts(document).find((each) => each.name === how.faces[0]?.part)
  if (!part) return null
  const picked = pickedFaces(document, how.faces)
  const surfaces = part.mesh.listPrimitives().flatMap((primitive) => {
    const marks = picked.triangles.get(primitive)
    return marks ? [{ primitive, marks, surface: inScene(primitive, part) }] : []
  })
  const joined = joinSurfaces(surfaces)
  const base = planeOver(joined.surface, joined.marks, UP, how.turnDegrees)
  if (!base) return null
  const middle = base.middle.map((value, axis) => value + base.right[axis] * how.right + base.up[axis] * how.up)
  const plane: DecalPlane = { ...base, middle, width: how.width, height: (how.width * picture.height) / picture.width }
  const window = visibleWindow(picture)
  const patches = window
    ? surfaces
        .map(({ primitive, marks, surface }) => ({
          primitive,
          patch: cutPatch(surface, marks, plane, how.lift, window),
        }))
        .filter(({ patch }) => patch.indices.length > 0)
    : []
  return { part, plane, patches, picked: picked.count }
}

function joinSurfaces(surfaces: readonly { marks: Uint8Array; surface: PatchSurface }[]): {
  surface: PatchSurface
  marks: Uint8Array
} {
  let first = 0
  const positions: number[] = []
  const indices: number[] = []
  const marks: number[] = []
  for (const { surface, marks: own } of surfaces) {
    for (const value of surface.positions) positions.push(value)
    for (const corner of surface.indices) indices.push(corner + first)
    for (const mark of own) marks.push(mark)
    first += surface.positions.length / 3
  }
  return {
    surface: {
      positions: Float32Array.from(positions),
      normals: new Float32Array(),
      indices: Uint32Array.from(indices),
    },
    marks: Uint8Array.from(marks),
  }
}

function inScene(primitive: Primitive, part: Part): PatchSurface {
  const { positions, indices, normals } = readPrimitive(primitive)
  const places = transformedPoints(positions, restMatrix(part.node))
  const matrix = [...restMatrix(part.node)]
  matrix[12] = matrix[13] = matrix[14] = 0
  return {
    positions: places,
    indices,
    normals: normals ? transformedPoints(normals, matrix) : cornerNormals(places, indices),
  }
}

/** The part of a picture that is not clear, in UVs; null when all is. */
function visibleWindow({
  width,
  height,
  data,
}: Pixels): { left: number; top: number; right: number; bottom: number } | null {
  let [left, top, right, bottom] = [width, height, -1, -1]
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (data[(y * width + x) * 4 + 3] < 8) continue
      if (x < left) left = x
      if (x > right) right = x
      if (y < top) top = y
      if (y > bottom) bottom = y
    }
  }
  return right < 0
    ? null
    : { left: left / width, top: top / height, right: (right + 1) / width, bottom: (bottom + 1) / height }
}
