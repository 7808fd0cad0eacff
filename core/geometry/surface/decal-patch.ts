import { cross, dot, lengthOfXyz, unit } from '../../maths/vectors.ts'
import { dropCollapsed, weldCorners } from '../mesh/weld.ts'

/** A patch of surface: 3 floats a corner for positions and normals, 3 indices a triangle. */
export interface PatchSurface {
  positions: Float32Array
  normals: Float32Array
  indices: Uint32Array
}

/** Where a picture lies: its middle, the directions of its right and up (unit), and its size in the same units. */
export interface DecalPlane {
  middle: readonly number[]
  right: readonly number[]
  up: readonly number[]
  outward: readonly number[]
  width: number
  height: number
}

/** The part of a surface that a picture covers. Each new corner is a mix of three old ones of one triangle. */
export interface DecalPatch {
  positions: Float32Array
  normals: Float32Array
  uvs: Float32Array
  indices: Uint32Array
  /** The old corner that counts most in each new one: bones and weights are its. */
  oldCorner: Uint32Array
}

type Corner = { place: number[]; normal: number[]; u: number; v: number; old: number }

/**
 * A plane to project along: facing as the picked triangles do on average, its up as near to `worldUp` as it can be,
 * turned about its own normal.
 * @param marks 1 for each picked triangle
 *
 * @example const plane = planeOver(surface, growPick(positions, indices, seed, 'flat', 20), [0, 1, 0], 0)
 */
export function planeOver(
  { positions, indices }: PatchSurface,
  marks: Uint8Array,
  worldUp: readonly number[],
  turnDegrees: number,
): Omit<DecalPlane, 'width' | 'height'> | null {
  const facing = [0, 0, 0]
  const middle = [0, 0, 0]
  let total = 0
  for (let triangle = 0; triangle < marks.length; triangle++) {
    if (!marks[triangle]) continue
    const corners = [0, 1, 2].map((each) =>
      Array.from(positions.subarray(indices[triangle * 3 + each] * 3, indices[triangle * 3 + each] * 3 + 3)),
    )
    const normal = cross(
      corners[1].map((value, axis) => value - corners[0][axis]),
      corners[2].map((value, axis) => value - corners[0][axis]),
    )
    const area = lengthOfXyz(normal[0], normal[1], normal[2]) / 2
    total += area
    for (let axis = 0; axis < 3; axis++) {
      facing[axis] += normal[axis]
      middle[axis] += (area * (corners[0][axis] + corners[1][axis] + corners[2][axis])) / 3
    }
  }
  if (total === 0 || lengthOfXyz(facing[0], facing[1], facing[2]) < total * 1e-6) return null
  const outward = unit(facing)
  // A floor or a ceiling has no up of its own: there the picture's up is where the item faces.
  const hint = Math.abs(dot(outward, worldUp)) > 0.95 ? [worldUp[1], worldUp[2], worldUp[0]] : worldUp
  const flatRight = unit(cross(hint, outward))
  const flatUp = cross(outward, flatRight)
  const [cosine, sine] = [Math.cos((turnDegrees * Math.PI) / 180), Math.sin((turnDegrees * Math.PI) / 180)]
  const right = flatRight.map((value, axis) => value * cosine + flatUp[axis] * sine)
  return { middle: middle.map((value) => value / total), right, up: cross(outward, right), outward }
}

/**
 * Copies what of the picked triangles lies under the picture, cut at its edges, and lifts it along the surface's
 * normals.
 * @param window the part of the picture that is not clear, in its UVs: nothing outside it is copied
 *
 * @example const patch = cutPatch(surface, marks, plane, 0.002, { left: 0, top: 0, right: 1, bottom: 1 })
 */
export function cutPatch(
  surface: PatchSurface,
  marks: Uint8Array,
  plane: DecalPlane,
  lift: number,
  window: { left: number; top: number; right: number; bottom: number },
): DecalPatch {
  const corners: Corner[] = []
  const triangles: number[] = []
  for (let triangle = 0; triangle < marks.length; triangle++) {
    if (!marks[triangle]) continue
    let polygon = [0, 1, 2].map((each) => project(surface, surface.indices[triangle * 3 + each], plane))
    polygon = clip(polygon, (corner) => corner.u - window.left)
    polygon = clip(polygon, (corner) => window.right - corner.u)
    polygon = clip(polygon, (corner) => corner.v - window.top)
    polygon = clip(polygon, (corner) => window.bottom - corner.v)
    if (polygon.length < 3) continue
    const first = corners.length
    corners.push(...polygon)
    for (let corner = 1; corner + 1 < polygon.length; corner++)
      triangles.push(first, first + corner, first + corner + 1)
  }
  const places = Float32Array.from(
    corners.flatMap(({ place, normal }) => place.map((value, axis) => value + normal[axis] * lift)),
  )
  const normals = Float32Array.from(corners.flatMap(({ normal }) => normal))
  // Triangles were cut one by one; where they meet their corners are one again.
  const welded = weldCorners(places, [{ array: normals, size: 3 }], {
    position: Math.max(plane.width, plane.height) * 1e-6,
    attribute: 1e-4,
  })
  const kept = Array.from(welded.oldCorner, (corner) => corners[corner])
  return {
    positions: Float32Array.from(
      Array.from(welded.oldCorner).flatMap((corner) => Array.from(places.subarray(corner * 3, corner * 3 + 3))),
    ),
    normals: Float32Array.from(kept.flatMap(({ normal }) => normal)),
    uvs: Float32Array.from(kept.flatMap(({ u, v }) => [u, v])),
    indices: dropCollapsed(
      Uint32Array.from(triangles, (corner) => welded.newCorner[corner]),
      Uint32Array.from(kept.keys()),
    ),
    oldCorner: Uint32Array.from(kept, ({ old }) => old),
  }
}

function project(
  { positions, normals }: PatchSurface,
  corner: number,
  { middle, right, up, width, height }: DecalPlane,
): Corner {
  const place = Array.from(positions.subarray(corner * 3, corner * 3 + 3))
  const from = place.map((value, axis) => value - middle[axis])
  return {
    place,
    normal: unit(Array.from(normals.subarray(corner * 3, corner * 3 + 3))),
    u: dot(from, right) / width + 0.5,
    v: 0.5 - dot(from, up) / height,
    old: corner,
  }
}

/** Keeps the side of a polygon where `inside` is not negative (Sutherland and Hodgman, 1974). */
function clip(polygon: readonly Corner[], inside: (corner: Corner) => number): Corner[] {
  const kept: Corner[] = []
  for (let index = 0; index < polygon.length; index++) {
    const corner = polygon[index]
    const next = polygon[(index + 1) % polygon.length]
    const [here, there] = [inside(corner), inside(next)]
    if (here >= 0) kept.push(corner)
    if (here >= 0 === there >= 0) continue
    kept.push(between(corner, next, here / (here - there)))
  }
  return kept
}

function between(first: Corner, second: Corner, share: number): Corner {
  const mix = (a: number, b: number): number => a + (b - a) * share
  return {
    place: first.place.map((value, axis) => mix(value, second.place[axis])),
    normal: unit(first.normal.map((value, axis) => mix(value, second.normal[axis]))),
    u: mix(first.u, second.u),
    v: mix(first.v, second.v),
    old: share < 0.5 ? first.old : second.old,
  }
}
