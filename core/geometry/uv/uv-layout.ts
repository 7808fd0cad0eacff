import { lengthOfXyz } from '../../maths/vectors.ts'
import { triangleAreas } from '../surface/sample-surface.ts'
import { rasteriseUvs } from './uv-raster.ts'

/** A surface with UVs: 3 floats a corner for positions, 2 for UVs, 3 indices a triangle. */
export interface LaidSurface {
  positions: Float32Array
  uvs: Float32Array
  indices: Uint32Array
}

/** How surfaces lie on their texture. */
export interface UvLayout {
  /** 6 floats a triangle: its corners in UVs. */
  triangles: Float32Array
  /** For each triangle how much its UVs are drawn out, 1 being not at all. */
  stretch: Float32Array
  /**
   * For each triangle the square root of its UV area to its area: texels a unit follow by multiplying with the
   * texture's side.
   */
  density: Float32Array
  /** Share of the covered pixels that more than one triangle shows. */
  overlap: number
  /** Share of the square that is covered. */
  covered: number
}

const RASTER_PIXELS = 256

/**
 * Measures UVs: islands, overlaps, stretch (ratio of the two singular values of the map from surface to UVs) and
 * density.
 *
 * @example const { stretch, overlap } = measureUvs(surfaces)
 */
export function measureUvs(surfaces: readonly LaidSurface[]): UvLayout {
  const count = surfaces.reduce((sum, { indices }) => sum + indices.length / 3, 0)
  const layout: UvLayout = {
    triangles: new Float32Array(count * 6),
    stretch: new Float32Array(count),
    density: new Float32Array(count),
    overlap: 0,
    covered: 0,
  }
  const shown = new Uint8Array(RASTER_PIXELS ** 2)
  let at = 0
  for (const { positions, uvs, indices } of surfaces) {
    const areas = triangleAreas(positions, indices)
    for (let triangle = 0; triangle * 3 < indices.length; triangle++, at++) {
      const corners = [indices[triangle * 3], indices[triangle * 3 + 1], indices[triangle * 3 + 2]]
      corners.forEach((corner, each) => layout.triangles.set([uvs[corner * 2], uvs[corner * 2 + 1]], at * 6 + each * 2))
      const flat = flattened(positions, corners)
      const [du1, dv1] = [uvs[corners[1] * 2] - uvs[corners[0] * 2], uvs[corners[1] * 2 + 1] - uvs[corners[0] * 2 + 1]]
      const [du2, dv2] = [uvs[corners[2] * 2] - uvs[corners[0] * 2], uvs[corners[2] * 2 + 1] - uvs[corners[0] * 2 + 1]]
      layout.density[at] = areas[triangle] > 0 ? Math.sqrt(Math.abs(du1 * dv2 - du2 * dv1) / 2 / areas[triangle]) : 0
      layout.stretch[at] = stretchOf(flat, [du1, dv1, du2, dv2])
    }
    rasteriseUvs(
      uvs,
      indices,
      RASTER_PIXELS,
      RASTER_PIXELS,
      (pixel) => void (shown[pixel] = Math.min(255, shown[pixel] + 1)),
    )
  }
  const covered = shown.reduce((sum, times) => sum + (times > 0 ? 1 : 0), 0)
  layout.covered = covered / shown.length
  layout.overlap = covered === 0 ? 0 : shown.reduce((sum, times) => sum + (times > 1 ? 1 : 0), 0) / covered
  return layout
}

/** The two edges from a triangle's first corner, laid flat: x1, x2, y2 (y1 is 0). */
function flattened(positions: Float32Array, [a, b, c]: number[]): [number, number, number] {
  const edge = (to: number): number[] => [0, 1, 2].map((axis) => positions[to * 3 + axis] - positions[a * 3 + axis])
  const [first, second] = [edge(b), edge(c)]
  const length = lengthOfXyz(first[0], first[1], first[2])
  const along = length === 0 ? 0 : (first[0] * second[0] + first[1] * second[1] + first[2] * second[2]) / length
  return [length, along, Math.sqrt(Math.max(0, second[0] ** 2 + second[1] ** 2 + second[2] ** 2 - along ** 2))]
}

/**
 * Larger singular value of the map from surface to UVs over the smaller (Sander et al., “Texture mapping progressive
 * meshes”, 2001).
 */
function stretchOf([x1, x2, y2]: [number, number, number], [du1, dv1, du2, dv2]: number[]): number {
  if (x1 === 0 || y2 === 0) return 1
  const [ux, vx] = [du1 / x1, dv1 / x1]
  const [uy, vy] = [(du2 - ux * x2) / y2, (dv2 - vx * x2) / y2]
  const a = ux * ux + vx * vx
  const b = ux * uy + vx * vy
  const c = uy * uy + vy * vy
  const root = Math.sqrt(Math.max(0, (a - c) ** 2 + 4 * b * b))
  const [larger, smaller] = [Math.sqrt((a + c + root) / 2), Math.sqrt(Math.max(0, (a + c - root) / 2))]
  return smaller < larger * 1e-3 ? 1000 : larger / smaller
}

/**
 * The layout as a drawing to paint over: one closed path a triangle, in a square of that many pixels.
 * @example const drawing = layoutSvg(measureUvs(surfaces), 1024)
 */
export function layoutSvg({ triangles }: Pick<UvLayout, 'triangles'>, side: number): string {
  const number = (value: number): string => String(Math.round(value * side * 100) / 100)
  const paths: string[] = []
  for (let at = 0; at < triangles.length; at += 6) {
    const corner = (each: number): string =>
      `${number(triangles[at + each * 2])} ${number(triangles[at + each * 2 + 1])}`
    paths.push(`M${corner(0)}L${corner(1)}L${corner(2)}Z`)
  }
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}" viewBox="0 0 ${side} ${side}"><path ` +
    `fill="#dfeae3" fill-opacity="0.6" stroke="#1d5a4c" stroke-width="0.75" d="${paths.join('')}"/></svg>\n`
  )
}
