import { identityMatrix } from '../../maths/axes.ts'
import {
  chainMatrices,
  invertMatrix,
  rotationMatrix,
  scalingMatrix,
  translationMatrix,
  type Matrix,
} from '../../maths/matrices.ts'
import { numbersOf, type XmlElement } from '../../support/xml.ts'

/** One of the moves that make up a node's place, in the order in which they stand. */
export interface Move {
  kind: 'matrix' | 'translate' | 'rotate' | 'scale' | 'lookat' | 'skew'
  sid: string
  numbers: number[]
}

const sizes: Record<Move['kind'], number> = { matrix: 16, translate: 3, rotate: 4, scale: 3, lookat: 9, skew: 7 }

/**
 * A node’s moves in the order in which they are written (COLLADA 1.5, section 5, “node”).
 * @example node.matrix = placeOf(readMoves(element))
 */
export function readMoves(node: XmlElement): Move[] {
  return node.children.flatMap((child) => {
    if (!(child.name in sizes)) return []
    const kind = child.name as Move['kind']
    const numbers = Array.from(numbersOf(child))
    return numbers.length >= sizes[kind] && numbers.every(Number.isFinite)
      ? [{ kind, sid: child.attributes['sid'] ?? '', numbers: numbers.slice(0, sizes[kind]) }]
      : []
  })
}

/**
 * The matrix that a node’s moves make together, column-major.
 * @example node.matrix = placeOf(moves)
 */
export const placeOf = (moves: readonly Move[]): Matrix => chainMatrices(...moves.map(matrixOf))

function matrixOf({ kind, numbers }: Move): Matrix {
  switch (kind) {
    case 'matrix':
      return rowsToColumns(numbers)
    case 'translate':
      return translationMatrix(numbers[0], numbers[1], numbers[2])
    case 'rotate':
      return rotationMatrix(numbers[0], numbers[1], numbers[2], (numbers[3] * Math.PI) / 180)
    case 'scale':
      return scalingMatrix(numbers[0], numbers[1], numbers[2])
    case 'lookat':
      return lookAt(numbers)
    case 'skew':
      return skew(numbers)
  }
}

/**
 * The standard writes matrices row by row.
 * @example rowsToColumns([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16]).slice(0, 4) // [1, 5, 9, 13]
 */
export const rowsToColumns = (rows: ArrayLike<number>): Matrix =>
  Array.from({ length: 16 }, (_, index) => rows[(index % 4) * 4 + Math.floor(index / 4)])

function lookAt([ex, ey, ez, tx, ty, tz, ux, uy, uz]: readonly number[]): Matrix {
  const unit = ([x, y, z]: number[]): number[] => [x, y, z].map((value) => value / (Math.hypot(x, y, z) || 1))
  const cross = (a: number[], b: number[]): number[] => [
    a[1] * b[2] - a[2] * b[1],
    a[2] * b[0] - a[0] * b[2],
    a[0] * b[1] - a[1] * b[0],
  ]
  const back = unit([ex - tx, ey - ty, ez - tz])
  const right = unit(cross([ux, uy, uz], back))
  const up = cross(back, right)
  const matrix = [...right, 0, ...up, 0, ...back, 0, ex, ey, ez, 1]
  return invertMatrix(matrix) ? matrix : identityMatrix()
}

/** Skew by an angle, along one axis, as another is followed (as in RenderMan's RiSkew). */
function skew([angle, ax, ay, az, bx, by, bz]: readonly number[]): Matrix {
  const along = [bx, by, bz].map((value) => value / (Math.hypot(bx, by, bz) || 1))
  const across = [ax, ay, az].map((value) => value / (Math.hypot(ax, ay, az) || 1))
  const amount = Math.tan((angle * Math.PI) / 180)
  const matrix = identityMatrix()
  for (let row = 0; row < 3; row++)
    for (let column = 0; column < 3; column++) matrix[column * 4 + row] += amount * along[row] * across[column]
  return matrix.every(Number.isFinite) ? matrix : identityMatrix()
}
