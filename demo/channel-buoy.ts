import { noise } from './noise.ts'
import { turned, type Point } from './solid-shapes.ts'

/** Outline of the buoy in millimetres: a float, and a spar that tapers. */
const outline: [number, number][] = [
  [60, 0],
  [420, 60],
  [520, 180],
  [520, 330],
  [430, 430],
  [150, 470],
  [96, 640],
  [84, 1000],
  [70, 1400],
  [54, 1800],
  [120, 1820],
  [120, 1960],
  [50, 1980],
]

/** The Channel buoy: binary STL in millimetres, Z up; no UVs, no material, and dents where quads were cut badly. */
export function buoyStl(): Uint8Array {
  const mesh = turned(outline, 28, [1, 1])
  const dented = mesh.points.map(([x, y, z]): Point => {
    const dent = 1 - 0.05 * noise(x / 90 + 7, y / 90, z / 140)
    return [x * dent, y * dent, z]
  })
  const triangles: Point[][] = mesh.faces.flatMap(({ points }, number) => {
    const corners = points.map((point) => dented[point])
    if (corners.length === 4)
      return number % 3 === 0
        ? [
            [corners[0], corners[1], corners[2]],
            [corners[0], corners[2], corners[3]],
          ]
        : [
            [corners[1], corners[2], corners[3]],
            [corners[1], corners[3], corners[0]],
          ]
    return corners.slice(2).map((corner, index) => [corners[0], corners[index + 1], corner])
  })
  const bytes = new Uint8Array(84 + triangles.length * 50)
  bytes.set(new TextEncoder().encode('solid channel buoy, millimetres'))
  const view = new DataView(bytes.buffer)
  view.setUint32(80, triangles.length, true)
  triangles.forEach((triangle, number) =>
    triangle.forEach((point, corner) =>
      point.forEach((value, axis) => view.setFloat32(84 + number * 50 + 12 + corner * 12 + axis * 4, value, true)),
    ),
  )
  return bytes
}
