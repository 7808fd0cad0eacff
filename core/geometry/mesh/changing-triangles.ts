import { cross, lengthOf, type Vector3 } from '../../maths/vectors.ts'
import { cutIntoHalfBlocks } from './half-blocks.ts'

/** Triangles between places that are moved, cut and taken away one after another. */
export class ChangingTriangles {
  readonly places: number[]
  readonly home: number[]
  triangles: number[]
  surfaces: number[]

  constructor(
    places: Float32Array,
    triangles: Uint32Array,
    surfaces: Uint32Array,
    readonly limit: number,
  ) {
    this.places = [...places]
    this.home = [...places]
    this.triangles = [...triangles]
    this.surfaces = [...surfaces]
    this.dropCollapsed()
  }

  cornersOf = (triangle: number): number[] => [
    this.triangles[triangle * 3],
    this.triangles[triangle * 3 + 1],
    this.triangles[triangle * 3 + 2],
  ]

  placeOf = (place: number): Vector3 => [this.places[place * 3], this.places[place * 3 + 1], this.places[place * 3 + 2]]

  lengthBetween(a: number, b: number): number {
    return lengthOf(between(this.placeOf(a), this.placeOf(b)))
  }

  /** The triangles at every place of some triangles and of those beside them. */
  trianglesAround(small: readonly number[]): Map<number, number[]> {
    const asked = new Set(small.flatMap((triangle) => this.cornersOf(triangle)))
    const around = new Map<number, number[]>()
    for (let triangle = 0; triangle < this.triangles.length / 3; triangle++)
      for (const place of this.cornersOf(triangle)) {
        if (!asked.has(place)) continue
        const known = around.get(place)
        if (known) known.push(triangle)
        else around.set(place, [triangle])
      }
    return around
  }

  /** Twice the area along the front of a triangle of three places. */
  areaOf(a: Vector3, b: Vector3, c: Vector3): Vector3 {
    return cross(between(a, b), between(a, c))
  }

  widthOf(triangle: number): number {
    const [a, b, c] = this.cornersOf(triangle)
    const longest = Math.max(this.lengthBetween(a, b), this.lengthBetween(b, c), this.lengthBetween(c, a))
    const area = lengthOf(this.areaOf(this.placeOf(a), this.placeOf(b), this.placeOf(c)))
    return longest > 0 ? area / longest : 0
  }

  put(triangle: number, corners: readonly number[]): void {
    corners.forEach((place, corner) => (this.triangles[triangle * 3 + corner] = place))
  }

  smallestSideOf = (triangle: number): number => this.smallestOf(this.cornersOf(triangle))

  smallestOf(triangles: readonly number[]): number {
    return Math.min(...cutIntoHalfBlocks(this.places, triangles).shortestSide)
  }

  dropCollapsed(): void {
    const kept: number[] = []
    for (let triangle = 0; triangle < this.triangles.length / 3; triangle++) {
      const [a, b, c] = this.cornersOf(triangle)
      if (a !== b && b !== c && c !== a) kept.push(triangle)
    }
    if (kept.length === this.triangles.length / 3) return
    this.triangles = kept.flatMap((triangle) => this.cornersOf(triangle))
    this.surfaces = kept.map((triangle) => this.surfaces[triangle])
  }
}

/**
 * From one place to another.
 * @example between([1, 2, 3], [1, 4, 3]) // [0, 2, 0]
 */
export const between = (a: Vector3, b: Vector3): Vector3 => [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
