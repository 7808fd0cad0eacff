import { boxMesh } from './box-mesh.ts'
import { convexHull } from './convex-hull.ts'
import { pointsOf, rotationTo, squareTo, UNTURNED, type PlacedShape, type Triple } from './placed-shape.ts'
import { along, cross, dot, unit } from '../../maths/vectors.ts'

/** A flat thing gets a box of this share of its longest side, since a box without thickness stops nothing. */
const THINNEST_SHARE = 0.002
/** Corners that the hull of a tight box keeps at most: more find next to no smaller box. */
const HULL_POINTS = 160

interface Frame {
  axes: [Triple, Triple, Triple]
  low: Triple
  high: Triple
}

/**
 * The box along the axes round some points. @param positions 3 floats a point
 * @example fitBox(Float32Array.of(0, 0, 0, 2, 4, 6)).translation // [1, 2, 3]
 */
export function fitBox(positions: Float32Array): PlacedShape {
  return boxOf(
    extentsIn(pointsOf(positions), [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ]),
  )
}

/**
 * The turned box of least volume with one side on a face of the hull; within that side, on an edge of its outline
 * (Freeman and Shapira, “Determining the minimum-area encasing rectangle”, 1975, for the flat case).
 *
 * @example const { mesh, translation, rotation } = fitTurnedBox(positions)
 */
export function fitTurnedBox(positions: Float32Array): PlacedShape {
  const hull = convexHull(positions, HULL_POINTS)
  if (!hull) return fitBox(positions)
  const corners = pointsOf(hull.positions)
  let best = extentsIn(corners, [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ])
  for (let index = 0; index < hull.indices.length; index += 3) {
    const [a, b, c] = [0, 1, 2].map((corner) => corners[hull.indices[index + corner]])
    const normal = cross(along(b, [a, -1]), along(c, [a, -1]))
    if (dot(normal, normal) < 1e-18) continue
    const up = unit(normal)
    const [right, forward] = squareTo(up)
    const flat = corners.map((corner): [number, number] => [dot(corner, right), dot(corner, forward)])
    for (const angle of outlineAngles(flat)) {
      const across = along([0, 0, 0], [right, Math.cos(angle)], [forward, Math.sin(angle)])
      const tried = extentsIn(corners, [across, up, cross(across, up)])
      if (volumeOf(tried) < volumeOf(best) * (1 - 1e-6)) best = tried
    }
  }
  // What the hull left out still has to be inside.
  return boxOf(extentsIn(pointsOf(positions), best.axes))
}

function extentsIn(points: readonly Triple[], axes: Frame['axes']): Frame {
  const frame: Frame = { axes, low: [Infinity, Infinity, Infinity], high: [-Infinity, -Infinity, -Infinity] }
  for (const point of points) {
    for (let axis = 0; axis < 3; axis++) {
      const value = dot(point, axes[axis])
      if (value < frame.low[axis]) frame.low[axis] = value
      if (value > frame.high[axis]) frame.high[axis] = value
    }
  }
  return frame
}

const volumeOf = ({ low, high }: Frame): number => (high[0] - low[0]) * (high[1] - low[1]) * (high[2] - low[2])

function boxOf({ axes, low, high }: Frame): PlacedShape {
  const longest = Math.max(...high.map((value, axis) => value - low[axis]))
  const half = high.map((value, axis) => Math.max((value - low[axis]) / 2, (longest * THINNEST_SHARE) / 2)) as Triple
  const middle = along([0, 0, 0], ...axes.map((direction, axis) => [direction, (high[axis] + low[axis]) / 2] as const))
  const straight = axes[0][0] === 1 && axes[1][1] === 1
  return {
    mesh: boxMesh({ min: half.map((value) => -value) as Triple, max: half }),
    translation: middle,
    rotation: straight ? UNTURNED : rotationTo(...axes),
  }
}

/** Directions of the edges of the outline of flat points (Andrew’s monotone chain), each once within a quarter turn. */
function outlineAngles(points: readonly [number, number][]): number[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1])
  const half = (list: readonly [number, number][]): [number, number][] => {
    const chain: [number, number][] = []
    for (const point of list) {
      while (chain.length > 1 && turn(chain[chain.length - 2], chain[chain.length - 1], point) <= 0) chain.pop()
      chain.push(point)
    }
    return chain
  }
  const outline = [...half(sorted).slice(0, -1), ...half([...sorted].reverse()).slice(0, -1)]
  const angles = outline.map(([x, y], index) => {
    const [nx, ny] = outline[(index + 1) % outline.length]
    return Math.atan2(ny - y, nx - x)
  })
  return [
    ...new Set(angles.map((angle) => Number((((angle % (Math.PI / 2)) + Math.PI / 2) % (Math.PI / 2)).toFixed(5)))),
  ]
}

const turn = (a: readonly number[], b: readonly number[], c: readonly number[]): number =>
  (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
