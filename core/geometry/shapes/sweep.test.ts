import { describe, expect, it } from 'vitest'
import type { Vector3 } from '../../maths/vectors.ts'
import { enclosedVolume } from './box-mesh.ts'
import { hangingLine } from './hanging-line.ts'
import { flatSection, roundSection, sweep, type Section, type Swept } from './sweep.ts'

const apart = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((value, axis) => value - b[axis]))
const lengthOf = (line: readonly Vector3[]): number =>
  line.slice(1).reduce((sum, at, number) => sum + apart(at, line[number]), 0)

describe('a hanging line', () => {
  it.each([
    [[0, 5, 0], [8, 5, 0], 0.05],
    [[0, 5, 0], [8, 9, 3], 0.1],
    [[2, 1, -4], [2.5, 7, -4], 0.4],
    [[0, 9, 0], [0, 2, 0], 0.2],
  ] as [Vector3, Vector3, number][])(
    'from %j to %j, %d longer, is as long as that and ends where it should',
    (from, to, slack) => {
      const line = hangingLine(from, to, slack, 400)
      expect(line[0]).toEqual(from)
      expect(line[400]).toEqual(to)
      expect(lengthOf(line) / (apart(from, to) * (1 + slack))).toBeCloseTo(1, 2)
      // Rings stand at even distances, so that a picture is not drawn out.
      const pieces = line
        .slice(1)
        .map((at, number) => apart(at, line[number]))
        .sort((a, b) => a - b)
      expect(pieces[399] / pieces[200]).toBeLessThan(1.3)
      // Where it hangs straight down and up again, the one piece at the turn is shorter.
      expect(pieces[200] / pieces[1]).toBeLessThan(1.3)
    },
  )
  it('hangs as a catenary: its lowest point half way, as low as the book has it', () => {
    // For a = 10 and 12 across: length 2a·sinh(0.6), sag a·(cosh(0.6) − 1).
    const length = 20 * Math.sinh(0.6)
    const line = hangingLine([0, 0, 0], [12, 0, 0], length / 12 - 1, 100)
    expect(line[50][0]).toBeCloseTo(6, 6)
    expect(line[50][1]).toBeCloseTo(-10 * (Math.cosh(0.6) - 1), 6)
  })
  it('is straight where it is taut', () => {
    expect(hangingLine([0, 0, 0], [4, 2, 0], 0, 2)).toEqual([
      [0, 0, 0],
      [2, 1, 0],
      [4, 2, 0],
    ])
  })
})

/** Triangles whose winding does not look the way their corners' normals do. */
function insideOut({ positions, normals, indices }: Swept): number {
  let found = 0
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [0, 1, 2].map((corner) => [
      ...positions.subarray(indices[at + corner] * 3, indices[at + corner] * 3 + 3),
    ])
    const [u, v] = [b.map((value, axis) => value - a[axis]), c.map((value, axis) => value - a[axis])]
    const across = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
    const normal = normals.subarray(indices[at] * 3, indices[at] * 3 + 3)
    if (across.reduce((sum, value, axis) => sum + value * normal[axis], 0) < 0) found++
  }
  return found
}

describe('a section drawn along a line', () => {
  const straight = hangingLine([0, 0, 0], [10, 0, 0], 0, 4)
  const bent: Vector3[] = [
    [0, 0, 0],
    [3, 1, 0],
    [5, 4, 2],
    [5, 4, 6],
    [2, 0, 8],
  ]
  it('holds as much as its area times its length, and looks outward', () => {
    expect(enclosedVolume(sweep(flatSection(2, 0.5), straight))).toBeCloseTo(10, 5)
    expect(enclosedVolume(sweep(roundSection(1, 64), straight))).toBeCloseTo((Math.PI / 4) * 10, 1)
    for (const line of [straight, bent])
      for (const section of [flatSection(0.4, 0.1), roundSection(0.4, 7)])
        expect(insideOut(sweep(section, line))).toBe(0)
  })
  it('is drawn the right way round whichever way its outline is', () => {
    const outline: [number, number][] = [
      [0, 0],
      [0.4, 0],
      [0.4, 0.1],
      [0.1, 0.1],
      [0.1, 0.5],
      [0, 0.5],
    ]
    for (const given of [outline, [...outline].reverse()]) {
      const swept = sweep({ outline: given, closed: true, smooth: false }, straight)
      expect(enclosedVolume(swept)).toBeCloseTo(0.08 * 10, 4)
      expect(insideOut(swept)).toBe(0)
    }
  })
  it('is mapped so that a picture keeps its shape along it', () => {
    const { uvs, positions, indices } = sweep(flatSection(2, 0.5), bent)
    // Once round is 5 spans: as much goes along for each 5 spans of length.
    const along = [...uvs].filter((_, at) => at % 2 === 1)
    expect(Math.max(...along)).toBeCloseTo(lengthOf(bent) / 5, 4)
    expect(positions.length / 3).toBe(uvs.length / 2)
    expect(Math.max(...indices)).toBeLessThan(positions.length / 3)
  })
  it('a strip is open, one side of triangles, without caps', () => {
    const strip: Section = {
      outline: [
        [-0.5, 0],
        [0, 0.1],
        [0.5, 0],
      ],
      closed: false,
      smooth: true,
    }
    expect(sweep(strip, straight).indices.length / 3).toBe(2 * 2 * 4)
  })
})
