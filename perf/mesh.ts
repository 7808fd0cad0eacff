import { writeFileSync } from 'node:fs'
import { MeshoptSimplifier } from 'meshoptimizer/simplifier'
import { LatheGeometry, TorusKnotGeometry, Vector2, CylinderGeometry, type BufferGeometry } from 'three'
import { listViewParts } from '../core/item/parts.ts'
import { readPrimitive } from '../core/item/primitive-arrays.ts'
import type { CornerAttributes } from '../core/geometry/mesh/corner-attributes.ts'
import { measureFacing } from '../core/geometry/surface/facing.ts'
import { evenNormals } from '../core/geometry/surface/normals.ts'
import { flipTriangles, orientOutward } from '../core/geometry/mesh/orient.ts'
import { createRayCaster } from '../core/geometry/surface/ray-caster.ts'
import { reduceTriangles } from '../core/geometry/mesh/reduce.ts'
import { reductionLadder } from '../core/geometry/mesh/reduction-ladder.ts'
import { surfaceDifference } from '../core/geometry/surface/surface-distance.ts'
import { boulder } from './million-triangles.ts'

/**
 * Reduction, facing and levels beside the bare library on the same arrays, in one run: ratios, not times, are to be
 * compared. `npx tsx perf/mesh.ts` writes perf/mesh.md.
 */
interface Shape {
  positions: Float32Array
  normals: Float32Array
  uvs: Float32Array
  indices: Uint32Array
}

const gathered = (array: Float32Array, size: number, corners: Uint32Array): Float32Array => {
  const out = new Float32Array(corners.length * size)
  corners.forEach((corner, at) => out.set(array.subarray(corner * size, corner * size + size), at * size))
  return out
}

/** The boulder with smooth normals; its texture has a seam from pole to pole. */
function rock(triangles: number): Shape {
  const { positions, indices, uvs } = readPrimitive(listViewParts(boulder(triangles))[0].mesh.listPrimitives()[0])
  const made = evenNormals(positions, indices, 180)
  return {
    positions: gathered(positions, 3, made.oldCorner),
    normals: made.normals,
    uvs: gathered(uvs ?? new Float32Array(0), 2, made.oldCorner),
    indices: made.indices,
  }
}

const fromGeometry = (geometry: BufferGeometry): Shape => ({
  positions: geometry.getAttribute('position').array as Float32Array,
  normals: geometry.getAttribute('normal').array as Float32Array,
  uvs: geometry.getAttribute('uv').array as Float32Array,
  indices: Uint32Array.from(geometry.getIndex()?.array ?? []),
})

const attributesOf = ({ normals, uvs }: Shape): CornerAttributes =>
  new Map([
    ['NORMAL', { array: normals, size: 3, weight: 0.5, keep: 'unit length' as const }],
    ['TEXCOORD_0', { array: uvs, size: 2, weight: 1, keep: 'as it is' as const }],
  ])

const interleaved = ({ normals, uvs }: Shape): Float32Array =>
  Float32Array.from({ length: (normals.length / 3) * 5 }, (_, at) =>
    at % 5 < 3 ? normals[Math.floor(at / 5) * 3 + (at % 5)] : uvs[Math.floor(at / 5) * 2 + (at % 5) - 3],
  )

/** One call of the library as its documentation shows it, with seams held. */
const bareCall = (shape: Shape, attributes: Float32Array, triangles: number): Uint32Array =>
  MeshoptSimplifier.simplifyWithAttributes(
    shape.indices,
    shape.positions,
    3,
    attributes,
    5,
    [0.5, 0.5, 0.5, 1, 1],
    null,
    triangles * 3,
    1,
    ['LockBorder'],
  )[0]

async function timed<T>(work: () => T | Promise<T>): Promise<[T, number]> {
  const began = performance.now()
  const value = await work()
  return [value, performance.now() - began]
}

const lines: string[] = [
  '# Meshes: ours beside the bare library',
  '',
  `Made by \`npx tsx perf/mesh.ts\` on Node ${process.versions.node}. Compare ratios within one run, not times of two.`,
  '',
]
await MeshoptSimplifier.ready

const million = rock(1_000_000)
const packed = interleaved(million)
bareCall(rock(20_000), interleaved(rock(20_000)), 2000)
const ratios: number[] = []
let ours: { indices: Uint32Array } = { indices: new Uint32Array(0) }
let bare = new Uint32Array(0) as Uint32Array
let [bareTime, ourTime] = [0, 0]
for (let round = 0; round < 3; round++) {
  const [one, time] = await timed(() => bareCall(million, packed, 18_000))
  const [two, own] = await timed(() =>
    reduceTriangles({
      ...million,
      attributes: attributesOf(million),
      targetTriangles: 18_000,
      holdSeams: true,
      holdBorders: true,
    }),
  )
  ;[bare, bareTime, ours, ourTime] = [one, time, two, own]
  ratios.push(own / time)
}
ratios.sort((a, b) => a - b)
lines.push(
  '## Reduce 1,000,000 triangles to 18,000, seams held, tries included',
  '',
  '| | triangles | time |',
  '|---|---:|---:|',
  `| bare call | ${bare.length / 3} | ${bareTime.toFixed(0)} ms |`,
  `| ours | ${ours.indices.length / 3} | ${ourTime.toFixed(0)} ms |`,
  '',
  `Ratio over three rounds: ${ratios.map((ratio) => ratio.toFixed(2)).join(', ')} (wanted: at most 2.5).`,
  '',
)

const faces = rock(200_000)
const wrong = Uint8Array.from({ length: faces.indices.length / 3 }, (_, triangle) => (triangle % 3 === 0 ? 1 : 0))
const [orientation, turnTime] = await timed(() => {
  const indices = flipTriangles(faces.indices, wrong)
  return orientOutward(faces.positions, indices, createRayCaster(faces.positions, indices))
})
const turned = flipTriangles(flipTriangles(faces.indices, wrong), orientation.flip)
const { inwardShare } = measureFacing({
  positions: faces.positions,
  indices: turned,
  partOfTriangle: new Uint32Array(turned.length / 3),
  twoSided: new Uint8Array(turned.length / 3),
})
lines.push(
  '## Turn outward',
  '',
  `${faces.indices.length / 3} triangles, every third turned over: ${turnTime.toFixed(0)} ms (wanted: under ` +
    `2,000); afterwards ${(inwardShare * 100).toFixed(1)} % of what one sees are backs.`,
  '',
)

const shapes: Record<string, Shape> = {
  boulder: rock(100_000),
  knot: fromGeometry(new TorusKnotGeometry(1, 0.3, 600, 60)),
  'turned post': fromGeometry(
    new LatheGeometry(
      [
        [0.01, 0],
        [0.6, 0.1],
        [0.8, 0.5],
        [0.3, 0.8],
        [0.25, 1.6],
        [0.5, 1.7],
        [0.02, 1.75],
      ].map(([x, y]) => new Vector2(x, y)),
      400,
    ),
  ),
  cone: fromGeometry(new CylinderGeometry(0.5, 1, 2, 300, 100)),
  'rough cliff': rock(40_000),
}
lines.push(
  '## Distance from the source at the same count',
  '',
  'Symmetric, by 20,000 samples each way; in shares of the mean radius.',
  '',
  '| shape | triangles | bare worst | ours worst | bare mean | ours mean |',
  '|---|---:|---:|---:|---:|---:|',
)
let worse = 0
for (const [name, shape] of Object.entries(shapes)) {
  for (const share of [0.2, 0.03]) {
    const simple = bareCall(shape, interleaved(shape), Math.floor((shape.indices.length / 3) * share))
    const own = await reduceTriangles({
      ...shape,
      attributes: attributesOf(shape),
      targetTriangles: simple.length / 3,
      holdSeams: true,
      holdBorders: true,
    })
    const theirs = surfaceDifference(shape, { positions: shape.positions, indices: simple }, 20_000)
    const mine = surfaceDifference(shape, own, 20_000)
    if (mine.worst > theirs.worst || mine.mean > theirs.mean) worse++
    lines.push(
      `| ${name} | ${own.indices.length / 3} of ${simple.length / 3} | ${theirs.worst.toExponential(2)} | ` +
        `${mine.worst.toExponential(2)} | ${theirs.mean.toExponential(2)} | ${mine.mean.toExponential(2)} |`,
    )
  }
}
lines.push('', `Worse than the library in ${worse} of ${Object.keys(shapes).length * 2} cases.`, '')

const slider = rock(100_000)
const [levels, ladderTime] = await timed(() =>
  reductionLadder([{ ...slider, attributes: attributesOf(slider), scale: 1 }], 2, async () => undefined),
)
lines.push(
  '## Levels for dragging',
  '',
  `${levels.length} levels of ${slider.indices.length / 3} triangles, from ${levels[0].triangles} to ` +
    `${levels.at(-1)?.triangles}: made once, in the background, in ${ladderTime.toFixed(0)} ms. What the page ` +
    'takes to show one is in page.md.',
  '',
)

writeFileSync(new URL('./mesh.md', import.meta.url), lines.join('\n'))
