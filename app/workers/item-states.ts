import type { Document } from '@gltf-transform/core'
import { transformedPoints } from '../../core/maths/matrices'
import { boundsSize, partsBounds } from '../../core/item/measure'
import { listViewParts, restMatrix, type Part } from '../../core/item/parts'
import { readPrimitive } from '../../core/item/primitive-arrays'
import { reductionLadder, type LadderLevel } from '../../core/geometry/mesh/reduction-ladder'
import type { DecalPatch } from '../../core/geometry/surface/decal-patch'
import { placeDecal, type DecalPlacement } from '../../core/operations/maps/decal-placement'
import { pickedFaces } from '../../core/operations/meshes/face-picks'
import { pictureByName } from '../../core/operations/maps/item-pictures'
import type { SourceImage } from '../../core/operations/context'
import { readMesh } from '../../core/operations/meshes/mesh-arrays'
import type { PlacedDecal } from './map-messages'
import type { Ladder } from './messages'

/** Levels for dragging, for the parts that a reduction may touch. */
export async function ladderOf(
  document: Document,
  leaveAlone: readonly string[],
  progress: (fraction: number) => Promise<void>,
): Promise<Ladder> {
  const parts = listViewParts(document)
  const size = Math.max(...boundsSize(partsBounds(parts)))
  const free = parts.filter((part) => !leaveAlone.includes(part.name))
  const held = parts
    .filter((part) => leaveAlone.includes(part.name))
    .reduce((sum, part) => sum + readMesh(part.mesh).indices.length / 3, 0)
  const arrays = free.map((part) => readMesh(part.mesh))
  const levels = await reductionLadder(
    free.map((part, number) => ({ ...arrays[number], scale: Math.max(...part.node.getWorldScale().map(Math.abs)) })),
    size,
    progress,
  )
  return { levels: levels.map((level) => rungOf(level, free, arrays, held)) }
}

/** A level's triangles, split again into the surfaces they belong to. */
function rungOf(
  { triangles, shift, indices }: LadderLevel,
  parts: readonly Part[],
  arrays: readonly ReturnType<typeof readMesh>[],
  held: number,
): Ladder['levels'][number] {
  return {
    triangles: triangles + held,
    shift,
    parts: parts.map((part, number) => {
      const { firstCorner } = arrays[number]
      const lists: number[][] = firstCorner.slice(1).map(() => [])
      const all = indices[number]
      let surface = 0
      for (let at = 0; at < all.length; at += 3) {
        while (all[at] < firstCorner[surface]) surface--
        while (all[at] >= firstCorner[surface + 1]) surface++
        lists[surface].push(
          all[at] - firstCorner[surface],
          all[at + 1] - firstCorner[surface],
          all[at + 2] - firstCorner[surface],
        )
      }
      return { name: part.name, surfaces: lists.map((list) => Uint32Array.from(list)) }
    }),
  }
}

/** A decal over the faces picked for it, as loose triangles; null while there are none. */
export async function placedDecal(
  document: Document,
  how: DecalPlacement,
  images: readonly SourceImage[] | undefined,
): Promise<PlacedDecal | null> {
  const picture = await pictureByName(how.picture, document, images)
  const placed = placeDecal(document, how, picture)
  if (!placed) return null
  const patches = placed.patches.map(({ patch }) => patch)
  const loose = (values: (patch: DecalPatch) => Float32Array, size: number): Float32Array<ArrayBuffer> =>
    Float32Array.from(
      patches.flatMap((patch) =>
        Array.from(patch.indices).flatMap((corner) =>
          Array.from(values(patch).subarray(corner * size, corner * size + size)),
        ),
      ),
    )
  const triple = (vector: readonly number[]): [number, number, number] => [vector[0], vector[1], vector[2]]
  const { plane } = placed
  return {
    plane: {
      ...plane,
      middle: triple(plane.middle),
      right: triple(plane.right),
      up: triple(plane.up),
      outward: triple(plane.outward),
    },
    positions: loose((patch) => patch.positions, 3),
    uvs: loose((patch) => patch.uvs, 2),
    picture: { ...picture, data: picture.data.slice() },
  }
}

/** The triangles that picks stand for, as loose corners in the scene, 9 floats each. */
export function pickedTriangles(document: Document, picks: Parameters<typeof pickedFaces>[1]): Float32Array {
  const { triangles } = pickedFaces(document, picks)
  const corners: number[] = []
  for (const part of listViewParts(document)) {
    for (const primitive of part.mesh.listPrimitives()) {
      const marks = triangles.get(primitive)
      if (!marks) continue
      const { positions, indices } = readPrimitive(primitive)
      const placed = transformedPoints(positions, [...restMatrix(part.node)])
      marks.forEach((mark, triangle) => {
        if (mark)
          for (let corner = 0; corner < 3; corner++)
            corners.push(...placed.subarray(indices[triangle * 3 + corner] * 3, indices[triangle * 3 + corner] * 3 + 3))
      })
    }
  }
  return Float32Array.from(corners)
}
