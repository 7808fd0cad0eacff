import { meetEdges, NO_TWIN } from '../mesh/edges.ts'
import { faceNormals } from '../mesh/pieces.ts'
import { groupPositions } from '../mesh/position-groups.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'

/** How sharply a mesh breaks at its edges in some poses, more than it does at rest. */
export interface Breaks {
  /** The sharpest, in degrees; 0 where nothing breaks. */
  worstDegrees: number
  /** Where it is, at rest. */
  worstAt: [number, number, number] | null
  /** Pairs of triangles beside such an edge, two numbers a pair, for edges over the limit. */
  over: [number, number][]
}

/**
 * The angle that a bend adds between neighbouring triangles: the largest over the poses, edge by edge.
 * @param poses positions of the same corners in each pose
 * @param limitDegrees edges that add more than this are told
 *
 * @example const { worstDegrees } = bendBreaks(rest, poses, 60)
 */
export function bendBreaks(rest: TriangleSoup, poses: Iterable<Float32Array>, limitDegrees: number): Breaks {
  const edges = joinedPairs(rest)
  const flat = anglesAt(rest.positions, rest.indices, edges)
  const added = new Float32Array(edges.length)
  for (const positions of poses) {
    const bent = anglesAt(positions, rest.indices, edges)
    for (let edge = 0; edge < edges.length; edge++) added[edge] = Math.max(added[edge], bent[edge] - flat[edge])
  }
  const breaks: Breaks = { worstDegrees: 0, worstAt: null, over: [] }
  edges.forEach((pair, edge) => {
    if (added[edge] > limitDegrees) breaks.over.push(pair)
    if (!(added[edge] > breaks.worstDegrees)) return
    breaks.worstDegrees = added[edge]
    breaks.worstAt = middleOf(rest, pair[0])
  })
  return breaks
}

/** Each pair of triangles that share an edge, once, whatever surface or seam lies between them. */
function joinedPairs({ positions, indices }: TriangleSoup): [number, number][] {
  const { groupOfCorner } = groupPositions(positions)
  const { twin } = meetEdges(indices.map((corner) => groupOfCorner[corner]))
  const pairs: [number, number][] = []
  for (let half = 0; half < twin.length; half++)
    if (twin[half] !== NO_TWIN && twin[half] > half) pairs.push([Math.floor(half / 3), Math.floor(twin[half] / 3)])
  return pairs
}

/** Degrees between the two triangles of each pair: 0 where they lie flat. */
function anglesAt(
  positions: Float32Array,
  indices: Uint32Array,
  pairs: readonly (readonly [number, number])[],
): Float32Array {
  const ways = faceNormals(positions, indices)
  const lies = (triangle: number): boolean => ways.subarray(triangle * 3, triangle * 3 + 3).some((value) => value !== 0)
  return Float32Array.from(pairs, ([a, b]) => {
    if (!lies(a) || !lies(b)) return 0
    const cosine = [0, 1, 2].reduce((sum, axis) => sum + ways[a * 3 + axis] * ways[b * 3 + axis], 0)
    return (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI
  })
}

function middleOf({ positions, indices }: TriangleSoup, triangle: number): [number, number, number] {
  const middle = (axis: number): number =>
    [0, 1, 2].reduce((sum, corner) => sum + positions[indices[triangle * 3 + corner] * 3 + axis] / 3, 0)
  return [middle(0), middle(1), middle(2)]
}
