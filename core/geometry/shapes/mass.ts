import { convexHull, type TriangleSoup } from './convex-hull.ts'
import type { Triple } from './placed-shape.ts'

export interface MassProperties {
  /** In cubed units; never negative. */
  volume: number
  /** Centre of mass at even density. */
  centre: Triple
}

/**
 * Volume and centre of mass of what triangles enclose, as sums over the tetrahedra to the origin
 * (Mirtich, “Fast and accurate computation of polyhedral mass properties”, 1996, section 2).
 * @returns null when they enclose nothing
 */
export function massProperties({ positions, indices }: TriangleSoup): MassProperties | null {
  let volume = 0
  const moment = [0, 0, 0]
  for (let index = 0; index < indices.length; index += 3) {
    const [a, b, c] = [indices[index] * 3, indices[index + 1] * 3, indices[index + 2] * 3]
    const [ax, ay, az] = [positions[a], positions[a + 1], positions[a + 2]]
    const [bx, by, bz] = [positions[b], positions[b + 1], positions[b + 2]]
    const [cx, cy, cz] = [positions[c], positions[c + 1], positions[c + 2]]
    const six = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)
    volume += six / 6
    moment[0] += (six / 24) * (ax + bx + cx)
    moment[1] += (six / 24) * (ay + by + cy)
    moment[2] += (six / 24) * (az + bz + cz)
  }
  if (Math.abs(volume) < 1e-12) return null
  return { volume: Math.abs(volume), centre: moment.map((value) => value / volume) as Triple }
}

/**
 * Mass properties of a mesh; of its hull where the mesh itself encloses nothing, as open sheets do.
 * @example const centre = massOrHull(mesh)?.centre
 */
export function massOrHull(soup: TriangleSoup): MassProperties | null {
  const own = massProperties(soup)
  const hull = convexHull(soup.positions, 256)
  const most = hull ? massProperties(hull) : null
  // An open mesh can add up to more than its hull, or to next to nothing.
  if (!own || !most || own.volume > most.volume * 1.001 || own.volume < most.volume * 0.01) return most ?? own
  return own
}
