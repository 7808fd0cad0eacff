import * as THREE from 'three'
import { MeshBVH, type HitPointInfo } from 'three-mesh-bvh'
import { byteOfLinear, type DrawnItem, type DrawnSurface, type Shown } from './surface.ts'

/** How two drawn items differ; lengths as a share of the first one's longest side. */
export interface Difference {
  /** Furthest place of the source from the result, and the other way round. */
  lost: number
  added: number
  /** (result − source) / source. */
  volume: number
  area: number
  /** Share of the surface whose normal differs by more than 15°; null where the source has no normals. */
  shading: number | null
  /** Share of the surface that faces the other way. */
  turned: number
  /** Mean difference, 0 to 255, in sRGB; null where nothing is to be compared. */
  colour: number | null
  opacity: number | null
  roughness: number | null
  metalness: number | null
  occlusion: number | null
  glow: number | null
}

const PLACES = 2400
const ANGLE = Math.cos((15 * Math.PI) / 180)

/** A repeatable stream of numbers from 0 to 1 (Mulberry32). */
function numbers(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
}

interface Whole {
  positions: Float32Array
  /** Surface and place in it of each triangle. */
  surfaceOf: Uint32Array
  placeOf: Uint32Array
  surfaces: DrawnSurface[]
  areas: Float64Array
  bvh: MeshBVH
}

const corner = (positions: Float32Array, triangle: number, which: number): THREE.Vector3 =>
  new THREE.Vector3().fromArray(positions, triangle * 9 + which * 3)

function wholeOf({ surfaces }: DrawnItem, into: THREE.Matrix4): Whole {
  const count = surfaces.reduce((sum, surface) => sum + surface.positions.length / 9, 0)
  const positions = new Float32Array(count * 9)
  const surfaceOf = new Uint32Array(count)
  const placeOf = new Uint32Array(count)
  let at = 0
  const mirrors = into.determinant() < 0
  if (mirrors) throw new Error('the fit mirrors')
  surfaces.forEach((surface, number) => {
    for (let place = 0; place < surface.positions.length / 9; place++, at++) {
      surfaceOf[at] = number
      placeOf[at] = place
      for (let which = 0; which < 3; which++)
        corner(surface.positions, place, which)
          .applyMatrix4(into)
          .toArray(positions, at * 9 + which * 3)
    }
  })
  const areas = new Float64Array(count)
  for (let triangle = 0; triangle < count; triangle++) {
    const [a, b, c] = [0, 1, 2].map((which) => corner(positions, triangle, which))
    areas[triangle] = b.sub(a).cross(c.sub(a)).length() / 2
  }
  const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(positions, 3))
  return { positions, surfaceOf, placeOf, surfaces, areas, bvh: new MeshBVH(geometry, { indirect: true }) }
}

export interface Extent {
  box: THREE.Box3
  longest: number
}

export function extentOf({ surfaces }: DrawnItem): Extent {
  const box = new THREE.Box3()
  for (const { positions } of surfaces)
    for (let at = 0; at < positions.length; at += 3) box.expandByPoint(new THREE.Vector3().fromArray(positions, at))
  const size = box.getSize(new THREE.Vector3())
  return { box, longest: Math.max(size.x, size.y, size.z) }
}

function volumeOf({ positions }: Whole, origin: THREE.Vector3): number {
  let volume = 0
  for (let triangle = 0; triangle < positions.length / 9; triangle++) {
    const [a, b, c] = [0, 1, 2].map((which) => corner(positions, triangle, which).sub(origin))
    volume += a.dot(b.cross(c)) / 6
  }
  return volume
}

interface Place {
  triangle: number
  b: number
  c: number
  point: THREE.Vector3
}

function placesOn(whole: Whole, count: number): Place[] {
  const random = numbers(7)
  const sums = new Float64Array(whole.areas.length)
  let total = 0
  whole.areas.forEach((area, at) => (sums[at] = total += area))
  return Array.from({ length: count }, () => {
    const wanted = random() * total
    let [low, high] = [0, sums.length - 1]
    while (low < high) {
      const middle = (low + high) >> 1
      if (sums[middle] < wanted) low = middle + 1
      else high = middle
    }
    let [b, c] = [random(), random()]
    if (b + c > 1) [b, c] = [1 - b, 1 - c]
    const [p, q, r] = [0, 1, 2].map((which) => corner(whole.positions, low, which))
    return {
      triangle: low,
      b,
      c,
      point: p
        .multiplyScalar(1 - b - c)
        .addScaledVector(q, b)
        .addScaledVector(r, c),
    }
  })
}

const faceNormal = ({ positions }: Whole, triangle: number): THREE.Vector3 =>
  new THREE.Triangle(
    corner(positions, triangle, 0),
    corner(positions, triangle, 1),
    corner(positions, triangle, 2),
  ).getNormal(new THREE.Vector3())

function normalAt(whole: Whole, { triangle, b, c }: Place, turn: THREE.Matrix3): THREE.Vector3 | null {
  const { normals } = whole.surfaces[whole.surfaceOf[triangle]]
  if (!normals) return null
  const place = whole.placeOf[triangle]
  return corner(normals, place, 0)
    .multiplyScalar(1 - b - c)
    .addScaledVector(corner(normals, place, 1), b)
    .addScaledVector(corner(normals, place, 2), c)
    .applyMatrix3(turn)
    .normalize()
}

function shownAt(whole: Whole, { triangle, b, c }: Place): Shown | null {
  const { shown, cut } = whole.surfaces[whole.surfaceOf[triangle]]
  const there = shown?.(whole.placeOf[triangle], b, c) ?? null
  // What is cut is there or not, wherever its threshold lies.
  return there && cut !== null ? { ...there, opacity: there.opacity >= cut ? 1 : 0 } : there
}

/**
 * The place of `to` that a place means: the nearest triangle that faces the same way and lies within `reach`
 * of the very nearest, so that what lies back to back is not mixed up.
 */
function meantPlace(to: Whole, point: THREE.Vector3, facing: THREE.Vector3, reach: number): Place | null {
  let best: { triangle: number; at: THREE.Vector3; score: number } | null = null
  const closest = to.bvh.closestPointToPoint(point, {} as HitPointInfo)
  if (!closest) return null
  const near = closest.distance + reach
  const triangle = new THREE.Triangle()
  const at = new THREE.Vector3()
  to.bvh.shapecast({
    intersectsBounds: (box) => box.distanceToPoint(point) <= near,
    intersectsTriangle: (_each, index) => {
      triangle.set(corner(to.positions, index, 0), corner(to.positions, index, 1), corner(to.positions, index, 2))
      triangle.closestPointToPoint(point, at)
      const distance = at.distanceTo(point)
      if (distance > near || triangle.getArea() === 0) return false
      const score = triangle.getNormal(new THREE.Vector3()).dot(facing) - distance / (near || 1)
      if (!best || score > best.score) best = { triangle: index, at: at.clone(), score }
      return false
    },
  })
  const found = best as { triangle: number; at: THREE.Vector3; score: number } | null
  if (!found) return null
  const weights = new THREE.Triangle(
    corner(to.positions, found.triangle, 0),
    corner(to.positions, found.triangle, 1),
    corner(to.positions, found.triangle, 2),
  ).getBarycoord(found.at, new THREE.Vector3())
  return weights ? { triangle: found.triangle, b: weights.y, c: weights.z, point: found.at } : null
}

/** Compares a result with its source; `into` brings the source into the result's space. */
export function compareItems(source: DrawnItem, result: DrawnItem, into: THREE.Matrix4, places = PLACES): Difference {
  const before = wholeOf(source, into)
  const after = wholeOf(result, new THREE.Matrix4())
  const extent = extentOf({ surfaces: [{ ...source.surfaces[0], positions: before.positions }] })
  const origin = extent.box.getCenter(new THREE.Vector3())
  const far = (from: Whole, to: Whole): number =>
    Math.max(
      ...placesOn(from, places).map(
        ({ point }) => to.bvh.closestPointToPoint(point, {} as HitPointInfo)?.distance ?? Infinity,
      ),
    ) / extent.longest
  const [volumeBefore, volumeAfter] = [volumeOf(before, origin), volumeOf(after, origin)]
  const area = (whole: Whole): number => whole.areas.reduce((sum, each) => sum + each, 0)
  const turn = new THREE.Matrix3().getNormalMatrix(into)
  let [shaded, wrong] = [0, 0]
  let [faced, turned] = [0, 0]
  const sums: Record<string, [number, number]> = {}
  const note = (what: string, difference: number): void => {
    sums[what] ??= [0, 0]
    sums[what][0] += difference
    sums[what][1]++
  }
  for (const place of placesOn(after, places)) {
    const there = meantPlace(before, place.point, faceNormal(after, place.triangle), extent.longest * 2e-3)
    if (!there) continue
    faced++
    if (faceNormal(after, place.triangle).dot(faceNormal(before, there.triangle)) < 0) turned++
    const [own, given] = [normalAt(after, place, new THREE.Matrix3()), normalAt(before, there, turn)]
    if (given && given.lengthSq() > 0.5) {
      shaded++
      if (!own || own.dot(given) < ANGLE) wrong++
    }
    compareShown(shownAt(before, there), shownAt(after, place), note)
  }
  const mean = (what: string): number | null => (sums[what] ? sums[what][0] / sums[what][1] : null)
  // A sheet has no volume worth speaking of; it is measured against what its box could hold.
  const least = extent.longest ** 3 * 1e-3
  return {
    lost: far(before, after),
    added: far(after, before),
    volume: (volumeAfter - volumeBefore) / Math.max(Math.abs(volumeBefore), least),
    area: area(after) / area(before) - 1,
    shading: shaded > 0 ? wrong / shaded : null,
    turned: faced > 0 ? turned / faced : 0,
    colour: mean('colour'),
    opacity: mean('opacity'),
    roughness: mean('roughness'),
    metalness: mean('metalness'),
    occlusion: mean('occlusion'),
    glow: mean('glow'),
  }
}

function compareShown(
  before: Shown | null,
  after: Shown | null,
  note: (what: string, difference: number) => void,
): void {
  if (!before) return
  if (!after) return note('colour', 255)
  const bytes = (a: readonly number[], b: readonly number[]): number =>
    (Math.abs(byteOfLinear(a[0]) - byteOfLinear(b[0])) +
      Math.abs(byteOfLinear(a[1]) - byteOfLinear(b[1])) +
      Math.abs(byteOfLinear(a[2]) - byteOfLinear(b[2]))) /
    3
  // What is cut away or hardly there has no colour.
  if (before.opacity > 0.1 && after.opacity > 0.1) note('colour', bytes(before.colour, after.colour))
  note('opacity', 255 * Math.abs(before.opacity - after.opacity))
  if (before.roughness !== null && after.roughness !== null)
    note('roughness', 255 * Math.abs(before.roughness - after.roughness))
  // A surface without a mixed map has no metal, no shade of its own and does not glow.
  if (before.metalness !== null) note('metalness', 255 * Math.abs(before.metalness - (after.metalness ?? 0)))
  if (before.occlusion !== null) note('occlusion', 255 * Math.abs(before.occlusion - (after.occlusion ?? 1)))
  if (before.glow !== null) note('glow', bytes(before.glow, after.glow ?? [0, 0, 0]))
}
