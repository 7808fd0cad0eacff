import { findMeshFaults } from './mesh-faults.ts'
import { placeMesh } from './triangle-mesh.ts'
import { triangulatePolygons } from './triangulate.ts'

export interface ClosedHoles {
  /** Triangles to add, 3 corners each, wound like their neighbours. */
  indices: Uint32Array
  closed: number
  /** Holes with more edges than were to be closed. */
  left: number
}

/**
 * Closes holes of up to `mostEdges` edges with triangles between their corners (ear clipping in the plane of the ring).
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 *
 * @example const { indices, closed } = closeHoles(mesh.positions, mesh.indices, 32)
 */
export function closeHoles(positions: Float32Array, indices: Uint32Array, mostEdges: number): ClosedHoles {
  const { openLoops } = findMeshFaults(positions, indices)
  const { places, placeOfCorner } = placeMesh(positions, indices)
  const cornerOfPlace = new Map<number, number>()
  for (const corner of indices)
    if (!cornerOfPlace.has(placeOfCorner[corner])) cornerOfPlace.set(placeOfCorner[corner], corner)
  const added: number[] = []
  let closed = 0
  for (const loop of openLoops) {
    if (loop.length > mostEdges) continue
    // The border runs the way its triangles do; what fills it runs the other way.
    const ring = [...loop].reverse()
    const points = Float32Array.from(ring.flatMap((place) => [...places.subarray(place * 3, place * 3 + 3)]))
    for (const corner of triangulatePolygons(points, Uint32Array.from([0, ring.length])))
      added.push(cornerOfPlace.get(ring[corner]) ?? 0)
    closed++
  }
  return { indices: Uint32Array.from(added), closed, left: openLoops.length - closed }
}
