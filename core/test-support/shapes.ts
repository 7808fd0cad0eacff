import type { TriangleSoup } from '../geometry/shapes/convex-hull.ts'

/** A grid of unit squares in the plane z = 0, each cut in two, facing +z; `height` lifts single points. */
export function sheet(across: number, up: number, height: (x: number, y: number) => number = () => 0): TriangleSoup {
  const row = across + 1
  const positions = Float32Array.from({ length: row * (up + 1) * 3 }, (_, at) => {
    const [x, y] = [Math.floor(at / 3) % row, Math.floor(Math.floor(at / 3) / row)]
    return [x, y, height(x, y)][at % 3]
  })
  const indices = Uint32Array.from(
    Array.from({ length: across * up }, (_, cell) => {
      const a = (cell % across) + Math.floor(cell / across) * row
      return [a, a + 1, a + row + 1, a, a + row + 1, a + row]
    }).flat(),
  )
  return { positions, indices }
}

/** A surface over a ring of `count` stations, closed with a twist where `half` is true. */
function twisted(
  count: number,
  across: number,
  point: (around: number, along: number) => [number, number, number],
  half: boolean,
): TriangleSoup {
  const positions = Float32Array.from(
    Array.from({ length: count * (across + 1) }, (_, at) =>
      point((Math.floor(at / (across + 1)) / count) * Math.PI * 2, ((at % (across + 1)) / across) * 2 - 1),
    ).flat(),
  )
  const corner = (station: number, along: number): number =>
    station < count ? station * (across + 1) + along : half ? across - along : along
  const indices = Uint32Array.from(
    Array.from({ length: count * across }, (_, cell) => {
      const [station, along] = [Math.floor(cell / across), cell % across]
      const [a, b, c, d] = [
        corner(station, along),
        corner(station, along + 1),
        corner(station + 1, along + 1),
        corner(station + 1, along),
      ]
      return [a, b, c, a, c, d]
    }).flat(),
  )
  return { positions, indices }
}

/** A band with half a turn in it: one side, one border. */
export const moebiusStrip = (count = 40): TriangleSoup =>
  twisted(
    count,
    2,
    (around, along) => {
      const radius = 2 + (along / 2) * Math.cos(around / 2)
      return [radius * Math.cos(around), (along / 2) * Math.sin(around / 2), radius * Math.sin(around)]
    },
    true,
  )

/**
 * A closed tube that comes back to itself inside out (figure-eight immersion of the Klein bottle): one side, no border.
 */
export function kleinSheet(count = 40, across = 16): TriangleSoup {
  const point = (u: number, v: number): [number, number, number] => {
    const radius = 3 + Math.cos(u / 2) * Math.sin(v) - Math.sin(u / 2) * Math.sin(2 * v)
    return [
      radius * Math.cos(u),
      Math.sin(u / 2) * Math.sin(v) + Math.cos(u / 2) * Math.sin(2 * v),
      radius * Math.sin(u),
    ]
  }
  const positions = Float32Array.from(
    Array.from({ length: count * across }, (_, at) =>
      point((Math.floor(at / across) / count) * Math.PI * 2, ((at % across) / across) * Math.PI * 2),
    ).flat(),
  )
  // After one round v has become -v.
  const corner = (station: number, around: number): number =>
    station < count ? station * across + (around % across) : (across - (around % across)) % across
  const indices = Uint32Array.from(
    Array.from({ length: count * across }, (_, cell) => {
      const [station, around] = [Math.floor(cell / across), cell % across]
      const [a, b, c, d] = [
        corner(station, around),
        corner(station, around + 1),
        corner(station + 1, around + 1),
        corner(station + 1, around),
      ]
      return [a, b, c, a, c, d]
    }).flat(),
  )
  return { positions, indices }
}

/** Several soups as one. */
export function together(...soups: readonly TriangleSoup[]): TriangleSoup {
  const positions = Float32Array.from(soups.flatMap((soup) => [...soup.positions]))
  let first = 0
  const indices = soups.flatMap((soup) => {
    const own = Array.from(soup.indices, (index) => index + first)
    first += soup.positions.length / 3
    return own
  })
  return { positions, indices: Uint32Array.from(indices) }
}

/**
 * A closed tube of `sides` round and `rings` up whose quads are cut this way and that, and whose points are pushed in
 * and out.
 */
export function dentedTube(sides: number, rings: number, dent: number): TriangleSoup {
  const positions = Float32Array.from(
    Array.from({ length: sides * rings }, (_, at) => {
      const [ring, side] = [Math.floor(at / sides), at % sides]
      const radius = 1 + dent * Math.sin(side * 12.9898 + ring * 78.233)
      return [
        radius * Math.cos((side / sides) * Math.PI * 2),
        ring * 0.4,
        radius * Math.sin((side / sides) * Math.PI * 2),
      ]
    }).flat(),
  )
  const indices = Uint32Array.from(
    Array.from({ length: sides * (rings - 1) }, (_, cell) => {
      const [ring, side] = [Math.floor(cell / sides), cell % sides]
      const [a, b] = [ring * sides + side, ring * sides + ((side + 1) % sides)]
      const [c, d] = [b + sides, a + sides]
      return cell % 3 === 0 ? [a, c, b, a, d, c] : [a, d, b, b, d, c]
    }).flat(),
  )
  return { positions, indices }
}
