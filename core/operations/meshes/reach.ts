import { partBounds, partsBounds } from '../../item/measure.ts'
import type { Part } from '../../item/parts.ts'
import { readMesh } from './mesh-arrays.ts'

/**
 * Where meshes made of parts fall short of them, a triangle of the part that reaches furthest there: a level that is
 * drawn without its outermost leaf stands as another thing beside the first.
 * @param allowed how far they may fall short, in scene units
 * @returns numbers of triangles by part, at most six in all
 *
 * @example const kept = furthestTriangles(parts, listLevelParts(document, 2), 0.1)
 */
export function furthestTriangles(parts: readonly Part[], made: readonly Part[], allowed: number): Map<Part, number[]> {
  const [first, second] = [partsBounds(parts), partsBounds(made)]
  const bounds = parts.map(partBounds)
  const furthest = new Map<Part, number[]>()
  for (const axis of [0, 1, 2])
    for (const side of ['min', 'max'] as const) {
      if (!(Math.abs(first[side][axis] - second[side][axis]) > allowed)) continue
      const outermost = parts.find((_, index) => bounds[index][side][axis] === first[side][axis])
      if (!outermost) continue
      const others = furthest.get(outermost) ?? []
      furthest.set(outermost, [...others, furthestTriangle(outermost, axis, side === 'min' ? -1 : 1)])
    }
  return furthest
}

function furthestTriangle({ node, mesh }: Part, axis: number, sign: number): number {
  const { positions, indices } = readMesh(mesh)
  const matrix = node.getWorldMatrix()
  let furthest = -Infinity
  let found = 0
  for (let at = 0; at < indices.length; at++) {
    const corner = indices[at] * 3
    const reach =
      sign *
      (positions[corner] * matrix[axis] +
        positions[corner + 1] * matrix[4 + axis] +
        positions[corner + 2] * matrix[8 + axis])
    if (reach <= furthest) continue
    furthest = reach
    found = Math.floor(at / 3)
  }
  return found
}
