import { lengthOfXyz } from '../../maths/vectors.ts'
import { closeHoles } from '../mesh/close-holes.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { faceNormals } from '../mesh/pieces.ts'
import { sampleSurface } from './sample-surface.ts'
import { createSurfaceFinder } from './surface-distance.ts'

export interface ShadowShape extends TriangleSoup {
  /** How far it still stands out of the view mesh anywhere, in its units. */
  standsOut: number
  /** Holes that were closed. */
  closed: number
}

const ROUNDS = 6
/** Places at which it is looked whether a shape stands out. */
export const MOST_SAMPLES = 2000
const MOST_HOLE_EDGES = 4096

/**
 * A mesh with its holes closed, whatever their size: what throws a shadow has to be whole.
 * @param reduced corners welded by place
 *
 * @example const { positions, indices } = closedShape(welded)
 */
export function closedShape({ positions, indices }: TriangleSoup): TriangleSoup & { closed: number } {
  const holes = closeHoles(positions, indices, MOST_HOLE_EDGES)
  const whole = new Uint32Array(indices.length + holes.indices.length)
  whole.set(indices)
  whole.set(holes.indices, indices.length)
  return { positions, indices: whole, closed: holes.closed }
}

/**
 * A closed shape drawn in wherever it stands out of a view mesh, for throwing its shadow: the view mesh is not darkened
 * by its own shadow.
 *
 * @example const shadow = shadowShape(closedShape(reduced), view)
 */
export function shadowShape(
  { positions: before, indices, closed }: TriangleSoup & { closed: number },
  view: TriangleSoup,
  samples = MOST_SAMPLES,
): ShadowShape {
  const outside = outsideOf(view)
  const positions = before.slice()
  let pulled = 0
  for (let corner = 0; corner < positions.length / 3; corner++)
    pulled = Math.max(pulled, pullIn(positions, corner, outside))
  const looks = new Looks(positions, indices, samples)
  let best = { positions: positions.slice(), standsOut: looks.drawIn(positions, outside) }
  const reach = Math.max(pulled, best.standsOut) * MOST_MOVE
  for (let round = 1; round < ROUNDS && best.standsOut > 0; round++) {
    keepWithin(positions, before, reach)
    const drawn = positions.slice()
    const standsOut = looks.drawIn(positions, outside)
    // What one corner gains by being drawn in further, others lose from here on.
    if (standsOut > best.standsOut * WORTH_A_ROUND) break
    best = { positions: drawn, standsOut }
  }
  letBackTurned(best.positions, before, indices)
  return { positions: best.positions, indices, standsOut: best.standsOut, closed }
}

/** The next round has to leave at most this share of how far the shape stood out. */
const WORTH_A_ROUND = 0.9
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

interface Outside {
  /** How far the point asked last stands out along the nearest triangle's normal; negative inside. */
  by: number
  normal: [number, number, number]
}

/** Asks how far points stand out of a view mesh; the answer is one object that is used again. */
function outsideOf(view: TriangleSoup): (x: number, y: number, z: number) => Outside {
  const finder = createSurfaceFinder(view)
  const normals = faceNormals(view.positions, view.indices)
  const found: Outside = { by: 0, normal: [0, 0, 0] }
  return (x, y, z) => {
    const nearest = finder.nearest(x, y, z)
    found.by = 0
    if (!nearest) return found
    const { point, triangle } = nearest
    for (let axis = 0; axis < 3; axis++) found.normal[axis] = normals[triangle * 3 + axis]
    const [nx, ny, nz] = found.normal
    found.by = (x - point[0]) * nx + (y - point[1]) * ny + (z - point[2]) * nz
    return found
  }
}

/** Moves a corner that stands out inward; tells by how much. */
function pullIn(positions: Float32Array, corner: number, outside: ReturnType<typeof outsideOf>): number {
  const at = corner * 3
  const { by, normal } = outside(positions[at], positions[at + 1], positions[at + 2])
  if (by > 0) for (let axis = 0; axis < 3; axis++) positions[at + axis] -= normal[axis] * by
  return Math.max(0, by)
}

/** Places on a shape at which it is looked, again and again, whether it stands out; each stays on its triangle. */
class Looks {
  private readonly triangles: Uint32Array
  private readonly weights: Float32Array
  /** The triangles whose corners moved since they were looked at. */
  private moved: Uint8Array

  constructor(
    positions: Float32Array,
    private readonly indices: Uint32Array,
    samples: number,
  ) {
    const sampled = sampleSurface(positions, indices, samples)
    this.triangles = sampled.triangles
    this.weights = sampled.weights
    this.moved = new Uint8Array(indices.length / 3).fill(1)
  }

  /**
   * Moves the corners of triangles that stand out inward by as much as they do; tells how far the worst stood out
   * before. Only what has moved since is looked at: the rest did not stand out then.
   */
  drawIn(positions: Float32Array, outside: ReturnType<typeof outsideOf>): number {
    const { triangles, weights, indices, moved } = this
    const moves = new Float32Array(positions.length)
    const most = new Float32Array(positions.length / 3)
    let worst = 0
    for (let sample = 0; sample < triangles.length; sample++) {
      const triangle = triangles[sample]
      if (moved[triangle] === 0) continue
      const at = [0, 0, 0]
      for (let corner = 0; corner < 3; corner++)
        for (let axis = 0; axis < 3; axis++)
          at[axis] += positions[indices[triangle * 3 + corner] * 3 + axis] * weights[sample * 3 + corner]
      const { by, normal } = outside(at[0], at[1], at[2])
      if (by <= LEAST_STAND_OUT) continue
      worst = Math.max(worst, by)
      for (let corner = 0; corner < 3; corner++) {
        const place = indices[triangle * 3 + corner]
        if (by <= most[place]) continue
        most[place] = by
        for (let axis = 0; axis < 3; axis++) moves[place * 3 + axis] = -normal[axis] * by
      }
    }
    for (let at = 0; at < positions.length; at++) positions[at] += moves[at]
    for (let triangle = 0; triangle < moved.length; triangle++) {
      const [a, b, c] = [indices[triangle * 3], indices[triangle * 3 + 1], indices[triangle * 3 + 2]]
      moved[triangle] = most[a] > 0 || most[b] > 0 || most[c] > 0 ? 1 : 0
    }
    return worst
  }
}

/** Less than this is rounding. */
const LEAST_STAND_OUT = 1e-6

/**
 * How far a shape stands out of a view mesh at worst, in its units; 0 for one that lies inside.
 * @example if (standsOutOf(shadow, view) > limit) retreat()
 */
export function standsOutOf(shape: TriangleSoup, view: TriangleSoup, samples = MOST_SAMPLES): number {
  const outside = outsideOf(view)
  const { points } = sampleSurface(shape.positions, shape.indices, samples)
  let worst = 0
  for (let at = 0; at < points.length; at += 3)
    worst = Math.max(worst, outside(points[at], points[at + 1], points[at + 2]).by)
  return worst
}
