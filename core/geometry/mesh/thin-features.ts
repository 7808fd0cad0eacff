import { connectedPieces } from './pieces.ts'

/** A connected piece of a mesh and how thin it is. */
export interface Feature {
  /** The second longest of its extents along its own axes: a rod's thickness, a plate's narrower side. */
  width: number
  centre: [number, number, number]
}

const MOST_PIECES = 20_000
/** Pieces with more corners are judged by so many of them. */
const MOST_CORNERS = 20_000

/**
 * The width of each connected piece along its own principal axes (Jolliffe 2002, chapter 2), so that a thin rod is
 * found whichever way it leans.
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 * @returns the thinnest first; beyond 20,000 pieces the rest is left out
 *
 * @example const [thinnest] = thinFeatures(positions, indices)
 */
export function thinFeatures(positions: Float32Array, indices: Uint32Array): Feature[] {
  const { pieceOfTriangle, count } = connectedPieces(positions, indices)
  const cornersOf: number[][] = Array.from({ length: Math.min(count, MOST_PIECES) }, () => [])
  pieceOfTriangle.forEach((piece, triangle) => {
    if (piece < cornersOf.length)
      cornersOf[piece].push(indices[triangle * 3], indices[triangle * 3 + 1], indices[triangle * 3 + 2])
  })
  return cornersOf.map((corners) => widthOf(positions, corners)).sort((a, b) => a.width - b.width)
}

const TURNS = 36

function widthOf(positions: Float32Array, triangleCorners: readonly number[]): Feature {
  // Each corner once: else the places where many triangles meet would pull the axes aside.
  const all = [...new Set(triangleCorners)]
  const stride = Math.ceil(all.length / MOST_CORNERS)
  const corners = stride > 1 ? all.filter((_, at) => at % stride === 0) : all
  const mean = [0, 1, 2].map(
    (axis) => corners.reduce((sum, corner) => sum + positions[corner * 3 + axis], 0) / corners.length,
  )
  const covariance = [0, 1, 2].map((row) =>
    [0, 1, 2].map((column) =>
      corners.reduce(
        (sum, corner) =>
          sum + (positions[corner * 3 + row] - mean[row]) * (positions[corner * 3 + column] - mean[column]),
        0,
      ),
    ),
  )
  const extentAlong = (axis: readonly number[]): number => {
    let low = Infinity
    let high = -Infinity
    for (const corner of corners) {
      const along =
        positions[corner * 3] * axis[0] + positions[corner * 3 + 1] * axis[1] + positions[corner * 3 + 2] * axis[2]
      low = Math.min(low, along)
      high = Math.max(high, along)
    }
    return high - low
  }
  const [, second, third] = principalAxes(covariance)
    .map((axis) => ({ axis, extent: extentAlong(axis) }))
    .sort((a, b) => b.extent - a.extent)
    .map(({ axis }) => axis)
  // Round the longest axis the principal ones are loose where a section is square or round: the tightest box decides.
  let tightest = { area: Infinity, width: 0 }
  for (let turn = 0; turn < TURNS; turn++) {
    const [c, s] = [Math.cos((turn / TURNS) * (Math.PI / 2)), Math.sin((turn / TURNS) * (Math.PI / 2))]
    const one = extentAlong(second.map((value, axis) => value * c + third[axis] * s))
    const other = extentAlong(third.map((value, axis) => value * c - second[axis] * s))
    if (one * other < tightest.area) tightest = { area: one * other, width: Math.max(one, other) }
  }
  return { width: tightest.width, centre: [mean[0], mean[1], mean[2]] }
}

const SWEEPS = 12
/** What is left beside the axes is rounding below this share of what lies along them. */
const ROUNDING = 1e-14

/** Eigenvectors of a symmetric 3 × 3 matrix by Jacobi rotations (Golub and Van Loan 2013, section 8.5). */
export function principalAxes(matrix: readonly number[][]): number[][] {
  const a = matrix.map((row) => [...row])
  const vectors = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ]
  const smallest = ROUNDING * (Math.abs(a[0][0]) + Math.abs(a[1][1]) + Math.abs(a[2][2]))
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    if (Math.abs(a[0][1]) + Math.abs(a[0][2]) + Math.abs(a[1][2]) <= smallest) break
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ]) {
      if (Math.abs(a[p][q]) < 1e-300) continue
      const theta = (a[q][q] - a[p][p]) / (2 * a[p][q])
      const t = (theta >= 0 ? 1 : -1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1))
      const c = 1 / Math.sqrt(t * t + 1)
      const s = t * c
      for (let k = 0; k < 3; k++) [a[k][p], a[k][q]] = [c * a[k][p] - s * a[k][q], s * a[k][p] + c * a[k][q]]
      for (let k = 0; k < 3; k++) [a[p][k], a[q][k]] = [c * a[p][k] - s * a[q][k], s * a[p][k] + c * a[q][k]]
      for (let k = 0; k < 3; k++)
        [vectors[p][k], vectors[q][k]] = [c * vectors[p][k] - s * vectors[q][k], s * vectors[p][k] + c * vectors[q][k]]
    }
  }
  return vectors
}
