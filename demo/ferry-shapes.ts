import { emptyMesh, type PolygonMesh } from './solid-shapes.ts'

/** Half width of a hull at a place along it and a height, both in [0, 1]. */
function halfBeam(along: number, up: number): number {
  const plan = Math.sin(Math.PI * Math.min(1, 0.12 + along * 0.88)) ** 0.55
  return plan * (0.35 + 0.65 * up ** 0.6)
}

/**
 * A curved hull, open at the top: bow at +y, Z up.
 * @param length from stern to bow
 * @param rows rows of quads along it, and half as many up each side
 */
export function hull(length: number, beam: number, depth: number, rows: number): PolygonMesh {
  const mesh = emptyMesh()
  const ups = Math.max(3, Math.round(rows / 2))
  const columns = ups * 2 + 1
  for (let row = 0; row <= rows; row++) {
    const along = row / rows
    for (let column = 0; column < columns; column++) {
      const side = (column - ups) / ups
      const up = Math.abs(side)
      const sheer = 0.12 * (along - 0.4) ** 2
      mesh.points.push([
        Math.sign(side) * halfBeam(along, up) * up ** 0.4 * beam * 0.5,
        (along - 0.5) * length,
        (up + sheer) * depth,
      ])
      mesh.uvs.push([along, column / (columns - 1)])
    }
  }
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column + 1 < columns; column++) {
      const a = row * columns + column
      const face = [a, a + 1, a + columns + 1, a + columns].reverse()
      mesh.faces.push({ points: face, uvs: face })
    }
  }
  return mesh
}
