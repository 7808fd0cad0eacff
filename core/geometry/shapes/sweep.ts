import { ShapeUtils, Vector2 } from 'three'
import { cross, dot, lengthOf, unit, type Vector3 } from '../../maths/vectors.ts'

/** What is drawn along a line: its outline across, first to the right, then up. */
export interface Section {
  outline: readonly (readonly [number, number])[]
  /** Whether its last point leads back to its first: a tube; otherwise a strip. */
  closed: boolean
  /** Whether it is round: light goes over its corners without an edge. */
  smooth: boolean
}

export interface Swept {
  positions: Float32Array
  normals: Float32Array
  uvs: Float32Array
  indices: Uint32Array
}

/**
 * A round section of so many sides.
 * @example const rope = roundSection(0.05, 8)
 */
export const roundSection = (diameter: number, sides: number): Section => ({
  outline: Array.from({ length: sides }, (_, side): [number, number] => {
    const angle = (2 * Math.PI * side) / sides
    return [(Math.cos(angle) * diameter) / 2, (Math.sin(angle) * diameter) / 2]
  }),
  closed: true,
  smooth: true,
})

/**
 * A flat section, as wide and as thick as is said.
 * @example const strap = flatSection(0.06, 0.01)
 */
export const flatSection = (width: number, thickness: number): Section => ({
  outline: [
    [width / 2, -thickness / 2],
    [width / 2, thickness / 2],
    [-width / 2, thickness / 2],
    [-width / 2, -thickness / 2],
  ],
  closed: true,
  smooth: false,
})

/**
 * A section drawn along a line, mapped: once round across, and along by as much as it is long, so that a picture keeps
 * its shape. Rings do not turn about the line more than it makes them (double reflection: Wang and others 2008). A
 * closed section is closed at both ends.
 * @param line points, at least two that differ
 *
 * @example sweep(roundSection(0.1, 8), hangingLine(a, b, 0.05, 24)).indices.length / 3
 */
export function sweep(section: Section, line: readonly Vector3[]): Swept {
  const rings = framesAlong(line)
  const outline = anticlockwise(section)
  const round = lengthsOf(outline, section.closed)
  const around = round[round.length - 1] || 1
  const sides = section.closed ? outline.length : outline.length - 1
  const swept: { positions: number[]; normals: number[]; uvs: number[]; indices: number[] } = {
    positions: [],
    normals: [],
    uvs: [],
    indices: [],
  }
  for (let side = 0; side < sides; side++) {
    const ends = [side, (side + 1) % outline.length] as const
    const base = swept.positions.length / 3
    for (const { at, right, up, along } of rings)
      ends.forEach((corner, end) => {
        const [x, y] = outline[corner]
        const [nx, ny] = normalAt(outline, section, side, corner)
        for (let axis = 0; axis < 3; axis++) {
          swept.positions.push(at[axis] + right[axis] * x + up[axis] * y)
          swept.normals.push(right[axis] * nx + up[axis] * ny)
        }
        swept.uvs.push(round[side + end] / around, along / around)
      })
    for (let ring = 0; ring + 1 < rings.length; ring++) {
      const [a, b] = [base + ring * 2, base + ring * 2 + 2]
      swept.indices.push(a, a + 1, b, a + 1, b + 1, b)
    }
  }
  if (section.closed) {
    cap(swept, outline, rings[0], -1)
    cap(swept, outline, rings[rings.length - 1], 1)
  }
  return {
    positions: Float32Array.from(swept.positions),
    normals: Float32Array.from(swept.normals),
    uvs: Float32Array.from(swept.uvs),
    indices: Uint32Array.from(swept.indices),
  }
}

interface Frame {
  at: Vector3
  ahead: Vector3
  right: Vector3
  up: Vector3
  /** Length of the line until there. */
  along: number
}

function framesAlong(line: readonly Vector3[]): Frame[] {
  const points = line.filter((point, number) => number === 0 || lengthOf(minus(point, line[number - 1])) > 1e-9)
  const steps = points.slice(1).map((point, number) => unit(minus(point, points[number])))
  const first = steps[0] ?? [0, 0, 1]
  // A strip lies flat where its line does: its right is level.
  const level = cross(first, [0, 1, 0])
  let right: Vector3 = lengthOf(level) > 1e-6 ? unit(level) : [1, 0, 0]
  let along = 0
  return points.map((at, number): Frame => {
    const [before, after] = [steps[number - 1] ?? first, steps[number] ?? steps[number - 1] ?? first]
    const bisecting: Vector3 = [before[0] + after[0], before[1] + after[1], before[2] + after[2]]
    const ahead = lengthOf(bisecting) > 1e-6 ? unit(bisecting) : after
    if (number > 0) {
      along += lengthOf(minus(at, points[number - 1]))
      right = turnedAlong(right, before)
    }
    // Square on the way ahead, as near as it was to the ring before.
    const off = dot(right, ahead)
    const square = unit([right[0] - ahead[0] * off, right[1] - ahead[1] * off, right[2] - ahead[2] * off])
    right = square
    return { at, ahead, right: square, up: cross(ahead, square), along }
  })
}

/** What is left of a direction across when the line goes another way: its part square on the new way. */
function turnedAlong(right: Vector3, way: Vector3): Vector3 {
  const off = dot(right, way)
  const square: Vector3 = [right[0] - way[0] * off, right[1] - way[1] * off, right[2] - way[2] * off]
  return lengthOf(square) > 1e-6 ? unit(square) : right
}

const minus = (a: readonly number[], b: readonly number[]): Vector3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]

/** The outline the way round that has its outside at the right hand. */
function anticlockwise({ outline, closed }: Section): [number, number][] {
  const points = outline.map(([x, y]): [number, number] => [x, y])
  const area = ShapeUtils.area(points.map(([x, y]) => new Vector2(x, y)))
  return closed && area < 0 ? points.reverse() : points
}

/** Lengths round an outline until each of its points, and to the end. */
function lengthsOf(outline: readonly (readonly [number, number])[], closed: boolean): number[] {
  const lengths = [0]
  const count = closed ? outline.length : outline.length - 1
  for (let side = 0; side < count; side++) {
    const [a, b] = [outline[side], outline[(side + 1) % outline.length]]
    lengths.push(lengths[side] + Math.hypot(b[0] - a[0], b[1] - a[1]))
  }
  return lengths
}

/** Which way the surface looks at a corner of a side. */
function normalAt(
  outline: readonly (readonly [number, number])[],
  { closed, smooth }: Section,
  side: number,
  corner: number,
): [number, number] {
  const count = outline.length
  const sideNormal = (at: number): [number, number] => {
    const [a, b] = [outline[at], outline[(at + 1) % count]]
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1
    return [(b[1] - a[1]) / length, (a[0] - b[0]) / length]
  }
  if (!smooth) return sideNormal(side)
  const other = corner === side ? side - 1 : side + 1
  const isEnd = !closed && (other < 0 || other >= count - 1)
  const [own, next] = [sideNormal(side), isEnd ? sideNormal(side) : sideNormal((other + count) % count)]
  const sum: [number, number] = [own[0] + next[0], own[1] + next[1]]
  const length = Math.hypot(...sum) || 1
  return [sum[0] / length, sum[1] / length]
}

function cap(
  swept: { positions: number[]; normals: number[]; uvs: number[]; indices: number[] },
  outline: readonly (readonly [number, number])[],
  { at, ahead, right, up }: Frame,
  way: 1 | -1,
): void {
  const base = swept.positions.length / 3
  const reach = Math.max(...outline.flatMap(([x, y]) => [Math.abs(x), Math.abs(y)])) || 1
  for (const [x, y] of outline) {
    for (let axis = 0; axis < 3; axis++) {
      swept.positions.push(at[axis] + right[axis] * x + up[axis] * y)
      swept.normals.push(ahead[axis] * way)
    }
    swept.uvs.push(0.5 + x / reach / 2, 0.5 + y / reach / 2)
  }
  const points = outline.map(([x, y]) => new Vector2(x, y))
  for (const [a, b, c] of ShapeUtils.triangulateShape(points, []))
    swept.indices.push(base + a, base + (way > 0 ? b : c), base + (way > 0 ? c : b))
}
