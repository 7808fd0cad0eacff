import { noise } from './noise.ts'

export type Point = [number, number, number]
export type Uv = [number, number]

/** Polygons with shared points, one UV for each corner: what an OBJ object holds. */
export interface PolygonMesh {
  points: Point[]
  uvs: Uv[]
  faces: { points: number[]; uvs: number[] }[]
}

export const emptyMesh = (): PolygonMesh => ({ points: [], uvs: [], faces: [] })

/** Adds a mesh to another, points moved by `place`. */
export function append(
  target: PolygonMesh,
  mesh: PolygonMesh,
  place: (point: Point) => Point = (point) => point,
): void {
  const pointBase = target.points.length
  const uvBase = target.uvs.length
  for (const point of mesh.points) target.points.push(place(point))
  for (const uv of mesh.uvs) target.uvs.push(uv)
  for (const face of mesh.faces) {
    target.faces.push({
      points: face.points.map((index) => index + pointBase),
      uvs: face.uvs.map((index) => index + uvBase),
    })
  }
}

interface GridBlock {
  /** Cells along each side. */
  cells: [number, number, number]
  /** Place of a point given in [0, 1]³. */
  at: (u: number, v: number, w: number) => Point
  /** UV of a face corner: which side (0–5) and its place in that side. */
  uvAt: (side: number, s: number, t: number) => Uv
}

/** A closed block of quads on a grid, wound so that its faces look outward when `at` keeps handedness. */
export function gridBlock({ cells, at, uvAt }: GridBlock): PolygonMesh {
  const mesh = emptyMesh()
  const pointOf = new Map<string, number>()
  const point = (i: number, j: number, k: number): number => {
    const key = `${i},${j},${k}`
    const known = pointOf.get(key)
    if (known !== undefined) return known
    pointOf.set(key, mesh.points.length)
    mesh.points.push(at(i / cells[0], j / cells[1], k / cells[2]))
    return mesh.points.length - 1
  }
  for (let axis = 0; axis < 3; axis++) {
    const first = (axis + 1) % 3
    const second = (axis + 2) % 3
    for (const far of [false, true]) {
      for (let a = 0; a < cells[first]; a++) {
        for (let b = 0; b < cells[second]; b++) {
          const corners: [number, number][] = [
            [a, b],
            [a + 1, b],
            [a + 1, b + 1],
            [a, b + 1],
          ]
          if (!far) corners.reverse()
          const face = { points: [] as number[], uvs: [] as number[] }
          for (const [ca, cb] of corners) {
            const grid: [number, number, number] = [0, 0, 0]
            grid[axis] = far ? cells[axis] : 0
            grid[first] = ca
            grid[second] = cb
            face.points.push(point(...grid))
            face.uvs.push(mesh.uvs.length)
            mesh.uvs.push(uvAt(axis * 2 + (far ? 1 : 0), ca / cells[first], cb / cells[second]))
          }
          mesh.faces.push(face)
        }
      }
    }
  }
  return mesh
}

/** Pulls a place in [0, 1]³ inward near the edges of the block, which rounds them. */
export function rounded(u: number, v: number, w: number, amount: number): Point {
  const near = [u, v, w].map((value) => Math.max(0, 1 - Math.min(value, 1 - value) / 0.12))
  const pull = (value: number, index: number): number => {
    const others = near.reduce((sum, each, other) => (other === index ? sum : sum + each), 0)
    return value + (0.5 - value) * amount * others
  }
  return [pull(u, 0), pull(v, 1), pull(w, 2)]
}

/** Moves a point by noise of its own place, so that neighbours stay joined. */
export function roughen([x, y, z]: Point, amount: number, scale: number): Point {
  const shift = (seed: number): number =>
    (noise(x * scale + seed, y * scale - seed, z * scale + seed * 3) - 0.5) * 2 * amount
  return [x + shift(1), y + shift(47), z + shift(91)]
}

/** A flat outline in x and z pushed out along y: two n-gons and a ring of quads. */
export function extrude(outline: [number, number][], yFrom: number, yTo: number, uvScale: number): PolygonMesh {
  const mesh = emptyMesh()
  const uv = (x: number, z: number): number => mesh.uvs.push([x * uvScale, z * uvScale]) - 1
  for (const y of [yFrom, yTo]) for (const [x, z] of outline) mesh.points.push([x, y, z])
  const count = outline.length
  const front = outline.map((_, index) => index)
  mesh.faces.push({ points: front, uvs: front.map((index) => uv(...outline[index])) })
  const back = outline.map((_, index) => count + index).reverse()
  mesh.faces.push({ points: back, uvs: back.map((index) => uv(...outline[index - count])) })
  for (let index = 0; index < count; index++) {
    const next = (index + 1) % count
    const corners = [next, index, count + index, count + next]
    mesh.faces.push({
      points: corners,
      uvs: corners.map((corner) =>
        uv(outline[corner % count][0], outline[corner % count][1] + (corner >= count ? 4 : 0)),
      ),
    })
  }
  return mesh
}

/** An upright cylinder or cone piece: quads round it, n-gon caps. */
export function turned(profile: [number, number][], sides: number, uvScale: [number, number]): PolygonMesh {
  const mesh = emptyMesh()
  for (const [radius, z] of profile) {
    for (let side = 0; side < sides; side++) {
      const angle = (side / sides) * Math.PI * 2
      mesh.points.push([Math.cos(angle) * radius, Math.sin(angle) * radius, z])
    }
  }
  const uv = (s: number, t: number): number => mesh.uvs.push([s * uvScale[0], t * uvScale[1]]) - 1
  for (let ring = 0; ring + 1 < profile.length; ring++) {
    for (let side = 0; side < sides; side++) {
      const next = (side + 1) % sides
      mesh.faces.push({
        points: [ring * sides + side, ring * sides + next, (ring + 1) * sides + next, (ring + 1) * sides + side],
        uvs: [
          uv(side / sides, ring),
          uv((side + 1) / sides, ring),
          uv((side + 1) / sides, ring + 1),
          uv(side / sides, ring + 1),
        ],
      })
    }
  }
  const cap = (ring: number, flip: boolean): void => {
    const points = Array.from({ length: sides }, (_, side) => ring * sides + side)
    if (flip) points.reverse()
    mesh.faces.push({
      points,
      uvs: points.map((point) => uv(0.5 + mesh.points[point][0] / 100, 0.5 + mesh.points[point][1] / 100)),
    })
  }
  cap(0, true)
  cap(profile.length - 1, false)
  return mesh
}
