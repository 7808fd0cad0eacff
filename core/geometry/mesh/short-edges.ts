/** An edge shorter than wanted, by its middle. */
export interface ShortEdge {
  length: number
  middle: [number, number, number]
}

/**
 * Edges of triangles that are shorter than `least`, each once where triangles share it, the shortest first. Of no
 * length at all are none: those triangles are nothing.
 * @param positions 3 floats a corner, in the space that `least` is in
 *
 * @example const [shortest] = shortEdges(positions, indices, 0.02)
 */
export function shortEdges(positions: Float32Array, indices: Uint32Array, least: number): ShortEdge[] {
  const found = new Map<string, ShortEdge>()
  for (let at = 0; at < indices.length; at += 3)
    for (let side = 0; side < 3; side++) {
      const [a, b] = [indices[at + side] * 3, indices[at + ((side + 1) % 3)] * 3]
      const length = Math.hypot(
        positions[a] - positions[b],
        positions[a + 1] - positions[b + 1],
        positions[a + 2] - positions[b + 2],
      )
      if (length >= least || length === 0) continue
      const middle = [0, 1, 2].map((axis) => (positions[a + axis] + positions[b + axis]) / 2) as ShortEdge['middle']
      // The same edge of two triangles has the same middle, whichever corners say so.
      found.set(middle.map((value) => value.toPrecision(6)).join(' '), { length, middle })
    }
  return [...found.values()].sort((a, b) => a.length - b.length)
}
