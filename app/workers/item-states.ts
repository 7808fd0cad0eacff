import type { Document } from '@gltf-transform/core'
import { transformedPoints } from '../../core/document/matrices'
import { boundsSize, partsBounds } from '../../core/document/measure'
import { listViewParts, restMatrix, type Part } from '../../core/document/parts'
import { readPrimitive } from '../../core/document/primitive-arrays'
import { reductionLadder, type LadderLevel } from '../../core/geometry/reduction-ladder'
import { pickedFaces, type FacePick } from '../../core/steps/face-picks'
import { readMesh } from '../../core/steps/mesh-arrays'
import type { Ladder } from './messages'

/** Levels for dragging, for the parts that a reduction may touch. */
export async function ladderOf(document: Document, leaveAlone: readonly string[], progress: (fraction: number) => Promise<void>): Promise<Ladder> {
  const parts = listViewParts(document)
  const size = Math.max(...boundsSize(partsBounds(parts)))
  const free = parts.filter((part) => !leaveAlone.includes(part.name))
  const held = parts.filter((part) => leaveAlone.includes(part.name)).reduce((sum, part) => sum + readMesh(part.mesh).indices.length / 3, 0)
  const arrays = free.map((part) => readMesh(part.mesh))
  const levels = await reductionLadder(free.map((part, number) => ({ ...arrays[number], scale: Math.max(...part.node.getWorldScale().map(Math.abs)) })), size, progress)
  return { levels: levels.map((level) => rungOf(level, free, arrays, held)) }
}

/** A level's triangles, split again into the surfaces they belong to. */
function rungOf({ triangles, shift, indices }: LadderLevel, parts: readonly Part[], arrays: readonly ReturnType<typeof readMesh>[], held: number): Ladder['levels'][number] {
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
        lists[surface].push(all[at] - firstCorner[surface], all[at + 1] - firstCorner[surface], all[at + 2] - firstCorner[surface])
      }
      return { name: part.name, surfaces: lists.map((list) => Uint32Array.from(list)) }
    }),
  }
}

/** The triangles that picks stand for, as loose corners in the scene, 9 floats each. */
export function pickedTriangles(document: Document, picks: readonly FacePick[]): Float32Array {
  const { triangles } = pickedFaces(document, picks)
  const corners: number[] = []
  for (const part of listViewParts(document)) {
    for (const primitive of part.mesh.listPrimitives()) {
      const marks = triangles.get(primitive)
      if (!marks) continue
      const { positions, indices } = readPrimitive(primitive)
      const placed = transformedPoints(positions, [...restMatrix(part.node)])
      marks.forEach((mark, triangle) => {
        if (mark) for (let corner = 0; corner < 3; corner++) corners.push(...placed.subarray(indices[triangle * 3 + corner] * 3, indices[triangle * 3 + corner] * 3 + 3))
      })
    }
  }
  return Float32Array.from(corners)
}
