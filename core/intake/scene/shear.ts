import { multiplyMatrices, identityMatrix } from '../../maths/axes.ts'
import { determinantOf, scalingMatrix, transformedNormals, transformedPoints } from '../../maths/matrices.ts'
import type { SourceNode } from './source-scene.ts'

/**
 * A place in glTF is a shift, a turn and a scale; files that chain turns and uneven scales hold slanted places
 * too. Such a place is put into the node's points and handed down to its children.
 * @param order every node, parents first
 * @param mustStay nodes that move or carry bones keep their place; for them the slant is lost
 *
 * @example pushDownShear(nodesParentsFirst, (node) => moving.has(node))
 */
export function pushDownShear(order: readonly SourceNode[], mustStay: (node: SourceNode) => boolean): void {
  for (const node of order) {
    if (!isSlanted(node.matrix) || mustStay(node)) continue
    // What mirrors stays with the node, or its faces would be turned inside out.
    const mirror = determinantOf(node.matrix) < 0 ? scalingMatrix(-1, 1, 1) : identityMatrix()
    const matrix = multiplyMatrices(mirror, node.matrix)
    for (const child of node.children) child.matrix = multiplyMatrices(matrix, child.matrix)
    if (node.mesh) {
      // A mesh that two nodes show is copied before its points are moved.
      node.mesh = {
        ...node.mesh,
        points: transformedPoints(node.mesh.points, matrix),
        faces: node.mesh.faces.map((faces) => ({
          ...faces,
          normals: faces.normals && transformedNormals(faces.normals, matrix),
        })),
      }
    }
    node.matrix = mirror
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
