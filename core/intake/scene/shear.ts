import { multiplyMatrices, identityMatrix } from '../../document/axes.ts'
import { transformedPoints } from '../../document/matrices.ts'
import type { SourceNode } from './source-scene.ts'

/**
 * A place in glTF is a shift, a turn and a scale; files that chain turns and uneven scales hold slanted places
 * too. Such a place is put into the node's points and handed down to its children.
 * @param order every node, parents first
 * @param mustStay nodes that move or carry bones keep their place; for them the slant is lost
 */
export function pushDownShear(order: readonly SourceNode[], mustStay: (node: SourceNode) => boolean): void {
  for (const node of order) {
    if (!isSlanted(node.matrix) || mustStay(node)) continue
    const { matrix } = node
    for (const child of node.children) child.matrix = multiplyMatrices(matrix, child.matrix)
    if (node.mesh) {
      // A mesh that two nodes show is copied before its points are moved.
      node.mesh = { ...node.mesh, points: transformedPoints(node.mesh.points, matrix), faces: node.mesh.faces.map((faces) => ({ ...faces, normals: faces.normals && transformedNormals(faces.normals, matrix) })) }
    }
    node.matrix = identityMatrix()
  }
}

/** Whether the three axes of a place are not at right angles to each other. */
function isSlanted(matrix: readonly number[]): boolean {
  const column = (index: number): number[] => matrix.slice(index * 4, index * 4 + 3)
  const [x, y, z] = [column(0), column(1), column(2)]
  const dot = (a: number[], b: number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
  const slant = (a: number[], b: number[]): number => Math.abs(dot(a, b)) / (Math.hypot(...a) * Math.hypot(...b) || 1)
  return Math.max(slant(x, y), slant(y, z), slant(z, x)) > 1e-4
}

/** Normals turn with the cofactors of the matrix (its inverse transposed, up to a factor). */
export function transformedNormals(normals: Float32Array, m: readonly number[]): Float32Array {
  const cofactor = (row: number, column: number): number => {
    const [r1, r2] = [(row + 1) % 3, (row + 2) % 3]
    const [c1, c2] = [(column + 1) % 3, (column + 2) % 3]
    return m[c1 * 4 + r1] * m[c2 * 4 + r2] - m[c2 * 4 + r1] * m[c1 * 4 + r2]
  }
  const moved = new Float32Array(normals.length)
  for (let at = 0; at + 2 < normals.length; at += 3) {
    const turned = [0, 1, 2].map((row) => cofactor(row, 0) * normals[at] + cofactor(row, 1) * normals[at + 1] + cofactor(row, 2) * normals[at + 2])
    const length = Math.hypot(...turned) || 1
    for (let axis = 0; axis < 3; axis++) moved[at + axis] = turned[axis] / length
  }
  return moved
}
