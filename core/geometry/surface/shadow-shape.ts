import { lengthOfXyz } from '../../maths/vectors.ts'
import { closeHoles } from '../mesh/close-holes.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { faceNormals } from '../mesh/pieces.ts'
import { sampleSurface } from './sample-surface.ts'
import { createSurfaceFinder, type SurfaceFinder } from './surface-distance.ts'

export interface ShadowShape extends TriangleSoup {
  /** How far it still stands out of the view mesh anywhere, in its units. */
  standsOut: number
  /** Holes that were closed. */
  closed: number
}

const ROUNDS = 6
/** Places at which it is looked whether a shape stands out. */
export const MOST_SAMPLES = 4000
/** Holes up to any practical size are closed: what throws a shadow has to be whole. */
const MOST_HOLE_EDGES = 4096

/**
 * A closed shape inside a view mesh, for throwing its shadow: the reduced mesh with its holes closed, drawn in wherever
 * it stands out, so that the view mesh is not darkened by its own shadow.
 * @param reduced the mesh with fewer triangles, corners welded by place
 */
export function shadowShape(reduced: TriangleSoup, view: TriangleSoup, samples = MOST_SAMPLES): ShadowShape {
  const holes = closeHoles(reduced.positions, reduced.indices, MOST_HOLE_EDGES)
  const indices = new Uint32Array(reduced.indices.length + holes.indices.length)
  indices.set(reduced.indices)
  indices.set(holes.indices, reduced.indices.length)
  const finder = createSurfaceFinder(view)
  const normals = faceNormals(view.positions, view.indices)
  const positions = reduced.positions.slice()
  let pulled = 0
  for (let corner = 0; corner < positions.length / 3; corner++)
    pulled = Math.max(pulled, pullIn(positions, corner, finder, normals))
  let standsOut = drawnIn(positions, indices, finder, normals, samples)
  const reach = Math.max(pulled, standsOut) * MOST_MOVE
  for (let round = 1; round < ROUNDS && standsOut > 0; round++) {
    keepWithin(positions, reduced.positions, reach)
    standsOut = drawnIn(positions, indices, finder, normals, samples)
  }
  keepWithin(positions, reduced.positions, reach)
  letBackTurned(positions, reduced.positions, indices)
  return { positions, indices, standsOut, closed: holes.closed }
}

/** A corner is drawn in by at most so many times what the worst one stood out by: more makes spikes. */
const MOST_MOVE = 2

function keepWithin(positions: Float32Array, before: Float32Array, reach: number): void {
  for (let at = 0; at < positions.length; at += 3) {
    const moved = lengthOfXyz(
      positions[at] - before[at],
      positions[at + 1] - before[at + 1],
      positions[at + 2] - before[at + 2],
    )
    if (moved <= reach) continue
    for (let axis = 0; axis < 3; axis++)
      positions[at + axis] = before[at + axis] + ((positions[at + axis] - before[at + axis]) * reach) / moved
  }
}

/** Corners whose triangles were turned over by being drawn in go back to where they were. */
function letBackTurned(positions: Float32Array, before: Float32Array, indices: Uint32Array): void {
  const given = faceNormals(before, indices)
  for (let round = 0; round < ROUNDS; round++) {
    const now = faceNormals(positions, indices)
    let turned = 0
    for (let triangle = 0; triangle < indices.length / 3; triangle++) {
      const agreement = [0, 1, 2].reduce((sum, axis) => sum + given[triangle * 3 + axis] * now[triangle * 3 + axis], 0)
      if (agreement > 0) continue
      turned++
      for (let corner = 0; corner < 3; corner++) {
        const at = indices[triangle * 3 + corner] * 3
        for (let axis = 0; axis < 3; axis++) positions[at + axis] = before[at + axis]
      }
    }
    if (turned === 0) return
  }
}

/** Signed distance of a point from the view mesh along the nearest triangle's normal: positive outside. */
function outside(
  x: number,
  y: number,
  z: number,
  finder: SurfaceFinder,
  normals: Float32Array,
): { by: number; normal: readonly number[] } {
  const nearest = finder.nearest(x, y, z)
  if (!nearest) return { by: 0, normal: [0, 0, 0] }
  const normal = [normals[nearest.triangle * 3], normals[nearest.triangle * 3 + 1], normals[nearest.triangle * 3 + 2]]
  const by =
    (x - nearest.point[0]) * normal[0] + (y - nearest.point[1]) * normal[1] + (z - nearest.point[2]) * normal[2]
  return { by, normal }
}

/** Moves a corner that stands out inward; tells by how much. */
function pullIn(positions: Float32Array, corner: number, finder: SurfaceFinder, normals: Float32Array): number {
  const at = corner * 3
  const { by, normal } = outside(positions[at], positions[at + 1], positions[at + 2], finder, normals)
  if (by > 0) for (let axis = 0; axis < 3; axis++) positions[at + axis] -= normal[axis] * by
  return Math.max(0, by)
}

/**
 * Moves the corners of triangles that stand out inward by as much as they do; tells how far the worst stood out before.
 */
function drawnIn(
  positions: Float32Array,
  indices: Uint32Array,
  finder: SurfaceFinder,
  normals: Float32Array,
  samples: number,
): number {
  const moves = new Float32Array(positions.length)
  const most = new Float32Array(positions.length / 3)
  const { points, triangles } = sampleSurface(positions, indices, samples)
  let worst = 0
  for (let sample = 0; sample < triangles.length; sample++) {
    const { by, normal } = outside(points[sample * 3], points[sample * 3 + 1], points[sample * 3 + 2], finder, normals)
    if (by <= 1e-6) continue
    worst = Math.max(worst, by)
    for (let corner = 0; corner < 3; corner++) {
      const place = indices[triangles[sample] * 3 + corner]
      if (by <= most[place]) continue
      most[place] = by
      for (let axis = 0; axis < 3; axis++) moves[place * 3 + axis] = -normal[axis] * by
    }
  }
  for (let at = 0; at < positions.length; at++) positions[at] += moves[at]
  return worst
}

/** How far a shape stands out of a view mesh at worst, in its units; 0 for one that lies inside. */
export function standsOutOf(shape: TriangleSoup, view: TriangleSoup, samples = MOST_SAMPLES): number {
  const finder = createSurfaceFinder(view)
  const normals = faceNormals(view.positions, view.indices)
  const { points } = sampleSurface(shape.positions, shape.indices, samples)
  let worst = 0
  for (let at = 0; at < points.length; at += 3)
    worst = Math.max(worst, outside(points[at], points[at + 1], points[at + 2], finder, normals).by)
  return worst
}
