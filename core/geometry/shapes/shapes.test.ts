import { describe, expect, it } from 'vitest'
import { boxMesh, enclosedVolume } from './box-mesh.ts'
import { chosenHull, convexHull, outsideConvex, type TriangleSoup } from './convex-hull.ts'
import { ball } from '../../test-support/meshes.ts'
import { numbers } from '../../test-support/pictures.ts'
import { fitBox, fitTurnedBox } from './box.ts'
import { massOrHull, massProperties } from './mass.ts'
import { placedMesh, turned, turnOfDegrees, type PlacedShape, type Triple } from './placed-shape.ts'
import { cylinderMesh, fitBall, fitCapsule, fitCylinder } from './round.ts'
import { splitIntoHulls } from './split.ts'
import { standOut } from './stand-out.ts'

const box = (min: Triple, max: Triple): TriangleSoup => boxMesh({ min, max })
const join = (...soups: TriangleSoup[]): TriangleSoup => {
  let first = 0
  const indices: number[] = []
  for (const soup of soups) {
    for (const corner of soup.indices) indices.push(corner + first)
    first += soup.positions.length / 3
  }
  return {
    positions: Float32Array.from(soups.flatMap((soup) => [...soup.positions])),
    indices: Uint32Array.from(indices),
  }
}
const turnedBy = (soup: TriangleSoup, degrees: Triple, moved: Triple): TriangleSoup =>
  placedMesh({ mesh: soup, translation: moved, rotation: turnOfDegrees(degrees) } as PlacedShape)
/** Two boxes that share a face: an L of 4 × 1 × 1 lying and 1 × 3 × 1 standing. */
const ell = join(box([0, 0, 0], [4, 1, 1]), box([0, 1, 0], [1, 4, 1]))
const cloud = (count: number, seed: number, at: (u: number, v: number, w: number) => Triple): Float32Array => {
  const next = numbers(seed)
  return Float32Array.from(Array.from({ length: count }, () => at(next(), next(), next())).flat())
}
const five: [string, TriangleSoup][] = [
  ['ball', ball(1, 24)],
  ['cylinder', cylinderMesh(1, 2)],
  ['turned box', turnedBy(box([-3, -0.5, -1], [3, 0.5, 1]), [20, 35, 50], [1, 2, 3])],
  ['L', ell],
  [
    'egg',
    {
      ...ball(1, 24),
      positions: ball(1, 24).positions.map((value, at) => (at % 3 === 1 ? value * 1.7 + 0.2 * value * value : value)),
    },
  ],
]

describe('hulls', () => {
  it.each(five)(
    'of 32 points enclose every corner of the %s within the error they state, and hold 95 % of the full hull at 64',
    (_, soup) => {
      const full = convexHull(soup.positions, 4096) as TriangleSoup
      const some = chosenHull(soup.positions, 32, 0)
      expect(some?.mesh.positions.length).toBeLessThanOrEqual(32 * 3)
      expect(outsideConvex(some?.mesh as TriangleSoup, soup.positions)).toBeLessThanOrEqual((some?.error ?? 0) + 1e-6)
      const more = chosenHull(soup.positions, 64, 0)
      expect(enclosedVolume(more?.mesh as TriangleSoup)).toBeGreaterThanOrEqual(enclosedVolume(full) * 0.95)
    },
  )
  it('take the fewest points that an error asks for', () => {
    const { positions } = ball(1, 24)
    const [rough, fine] = [chosenHull(positions, 200, 0.2), chosenHull(positions, 200, 0.03)]
    expect(rough?.error).toBeLessThanOrEqual(0.2)
    expect(fine?.error).toBeLessThanOrEqual(0.03)
    expect(rough?.mesh.positions.length ?? 0).toBeLessThan((fine?.mesh.positions.length ?? 0) / 2)
  })
})

describe('fitted shapes', () => {
  it('a turned box is as small as the box it was fitted to, however that stands; the straight one is larger', () => {
    for (const degrees of [
      [0, 0, 0],
      [30, 0, 0],
      [20, 35, 50],
      [-10, 80, 5],
    ] as Triple[]) {
      const given = turnedBy(box([-3, -0.5, -1], [3, 0.5, 1]), degrees, [4, 5, 6])
      const fitted = fitTurnedBox(given.positions)
      expect(enclosedVolume(fitted.mesh)).toBeCloseTo(12, 2)
      expect(outsideConvex(placedMesh(fitted), given.positions)).toBeLessThan(1e-4)
      expect(enclosedVolume(fitBox(given.positions).mesh)).toBeGreaterThanOrEqual(12 - 1e-3)
    }
  })
  it('a ball holds every point and is no more than 1 % larger than it must be', () => {
    const points = cloud(300, 4, (u, v) => [
      Math.cos(u * 7) * Math.sin(v * 3) * 2 + 5,
      Math.cos(v * 3) * 2,
      Math.sin(u * 7) * Math.sin(v * 3) * 2,
    ])
    const { translation, mesh } = fitBall(points)
    const radius = Math.max(...mesh.positions)
    for (let at = 0; at < points.length; at += 3)
      expect(
        Math.hypot(points[at] - translation[0], points[at + 1] - translation[1], points[at + 2] - translation[2]),
      ).toBeLessThanOrEqual(radius + 1e-5)
    expect(radius).toBeLessThan(2.02)
  })
  it('a capsule and a cylinder of a leaning rod lie along it, and hold it', () => {
    const rod = turnedBy(cylinderMesh(0.4, 3), [0, 0, 40], [1, 1, 0])
    for (const fitted of [fitCapsule(rod.positions), fitCylinder(rod.positions)]) {
      const axis = turned([0, 1, 0], fitted.rotation)
      expect(
        Math.abs(axis[0] * -Math.sin((40 * Math.PI) / 180) + axis[1] * Math.cos((40 * Math.PI) / 180)),
      ).toBeGreaterThan(0.999)
      const radius = Math.max(...fitted.mesh.positions.filter((_, at) => at % 3 === 0))
      expect(radius).toBeGreaterThan(0.39)
      expect(radius).toBeLessThan(0.43)
      for (let at = 0; at < rod.positions.length; at += 3) {
        const off = [0, 1, 2].map((each) => rod.positions[at + each] - fitted.translation[each])
        const along = off.reduce((sum, value, each) => sum + value * axis[each], 0)
        expect(Math.sqrt(Math.max(0, off.reduce((sum, value) => sum + value * value, 0) - along * along))).toBeLessThan(
          radius + 1e-4,
        )
      }
    }
  })
})

describe('a split into hulls', () => {
  it('of an L leaves its inner corner free, in as many hulls and points as asked', async () => {
    const hulls = await splitIntoHulls(ell, { mostHulls: 2, mostPoints: 16, concavity: 0.01 })
    expect(hulls.length).toBe(2)
    for (const hull of hulls) expect(hull.positions.length).toBeLessThanOrEqual(48)
    const volume = hulls.reduce((sum, hull) => sum + enclosedVolume(hull), 0)
    expect(volume).toBeGreaterThan(6.6)
    // Its hull alone would hold 11.5; the two pieces 7.
    expect(volume).toBeLessThan(8.4)
    expect(Math.min(...hulls.map((hull) => outsideConvex(hull, Float32Array.from([3, 3, 0.5]))))).toBeGreaterThan(0.5)
  })
})

describe('mass', () => {
  it('and its centre are known of a cube, a cylinder and an L', () => {
    const cube = massProperties(box([1, 1, 1], [3, 3, 3]))
    expect(cube?.volume).toBeCloseTo(8)
    cube?.centre.forEach((value) => expect(value).toBeCloseTo(2))
    const can = massProperties(turnedBy(cylinderMesh(1, 2), [0, 0, 90], [5, 0, 0]))
    // Twelve sides hold 3 · sin 30° · … = 12 · ½ · sin 30° of the circle's π.
    expect(can?.volume).toBeCloseTo(12 * 0.5 * Math.sin(Math.PI / 6) * 4, 4)
    expect(can?.centre[0]).toBeCloseTo(5)
    const angle = massProperties(ell)
    expect(angle?.volume).toBeCloseTo(7)
    expect(angle?.centre[0]).toBeCloseTo((4 * 2 + 3 * 0.5) / 7, 5)
    expect(angle?.centre[1]).toBeCloseTo((4 * 0.5 + 3 * 2.5) / 7, 5)
    expect(angle?.centre[2]).toBeCloseTo(0.5, 5)
  })
  it('of an open sheet is its hull’s, or none', () => {
    const open = { ...box([0, 0, 0], [2, 2, 2]), indices: box([0, 0, 0], [2, 2, 2]).indices.slice(12) }
    expect(massOrHull(open)?.volume).toBeGreaterThan(4)
    expect(
      massOrHull({ positions: Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]), indices: Uint32Array.from([0, 1, 2]) }),
    ).toBeNull()
  })
})

describe('where a shape stands out', () => {
  it('is measured outside and inside, with the places', () => {
    const view = box([0, 0, 0], [2, 2, 2])
    const out = standOut(view, box([0, 0, 0], [2.5, 2, 2]), 0.25)
    expect(out.outside).toBeCloseTo(0.5, 2)
    expect(out.outsideAt[0]).toBeCloseTo(2.5)
    const within = standOut(view, box([0.3, 0.3, 0.3], [1.7, 1.7, 1.7]), 0.25)
    expect(within.outside).toBe(0)
    expect(within.inside).toBeCloseTo(0.3, 2)
  })
})
