import { writeFileSync } from 'node:fs'
import { limitWeights } from '../core/geometry/skin/limit-weights.ts'
import { skinPoints } from '../core/geometry/skin/skin-points.ts'
import { smoothWeights } from '../core/geometry/skin/smooth-weights.ts'
import { emptyTable, holdByOne } from '../core/geometry/skin/weight-table.ts'
import { bendSurface, matricesOf, waysOf } from '../app/yard/bend-geometry.ts'
import type { SceneData } from '../app/workers/scene-data.ts'

/**
 * Smoothing, limiting and bending 100,000 corners with 24 bones, and what one step of a drag does with 20,000; each
 * beside the plainest loop that reads and writes as many numbers. Run with `npx tsx perf/bones.ts`; writes
 * perf/bones.md.
 */
const BONES = 24
const TURNS = 5

/** A long strip: corners in rows of `across`. */
function strip(corners: number, across: number) {
  const along = Math.floor(corners / across)
  const positions = Float32Array.from({ length: along * across * 3 }, (_, at) => {
    const corner = Math.floor(at / 3)
    return at % 3 === 0 ? Math.floor(corner / across) : at % 3 === 1 ? Math.sin(corner) * 0.1 : corner % across
  })
  const indices: number[] = []
  for (let x = 0; x + 1 < along; x++)
    for (let z = 0; z + 1 < across; z++) {
      const a = x * across + z
      indices.push(a, a + 1, a + across + 1, a, a + across + 1, a + across)
    }
  return { positions, indices: Uint32Array.from(indices), along }
}

function hardTable({ positions, along }: ReturnType<typeof strip>) {
  const table = emptyTable(positions.length / 3, BONES)
  for (let corner = 0; corner < table.corners; corner++)
    holdByOne(table, corner, Math.min(BONES - 1, Math.floor((positions[corner * 3] / along) * BONES)))
  return table
}

const matrices = Float64Array.from({ length: BONES * 16 }, (_, at) => (at % 5 === 0 ? 1 : (at % 7) * 0.01))

function plain(positions: Float32Array, weights: Float32Array): number {
  const out = new Float32Array(positions.length)
  for (let at = 0; at < out.length; at++) out[at] = positions[at] * weights[at % weights.length]
  return out[out.length - 1]
}

const milliseconds = (work: () => unknown): number => {
  const began = performance.now()
  work()
  return performance.now() - began
}
const middle = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]

const large = strip(100_000, 100)
const hard = hardTable(large)
const reach = large.along / BONES / 3
const soft = smoothWeights(large.positions, large.indices, hard, { reach, amount: 1 })

const small = strip(20_000, 100)
const smallTable = smoothWeights(small.positions, small.indices, hardTable(small), { reach: 3, amount: 1 })
const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
const bend: NonNullable<SceneData['bend']> = {
  bones: Array.from({ length: BONES }, (_, bone) => ({ name: `bone ${bone}`, above: bone - 1, at: [bone * 8, 0, 0] })),
  held: [
    {
      part: 'strip',
      bones: Array.from({ length: BONES }, (_, bone) => bone),
      rest: Float32Array.from({ length: BONES * 16 }, (_, at) => identity[at % 16]),
      surfaces: [smallTable],
    },
  ],
  carried: [],
}
const restNormals = small.positions.map((_, at) => (at % 3 === 1 ? 1 : 0))
const into = { positions: small.positions.slice(), normals: restNormals.slice() }
function drag(turn: number): void {
  const ways = waysOf(bend, new Map([['bone 3', { turnDegrees: [0, turn, 20], moved: [0, 0, 0] }]]))
  const own = matricesOf(bend.held[0], ways, identity)
  bendSurface({ positions: small.positions, normals: restNormals }, bend.held[0].surfaces[0], own, into)
}

const tasks: [string, number, () => unknown][] = [
  ['smooth', 100_000, () => smoothWeights(large.positions, large.indices, hard, { reach, amount: 1 })],
  ['limit to 4', 100_000, () => limitWeights(soft, { influences: 4, least: 0.005 })],
  ['bend once', 100_000, () => skinPoints(large.positions, soft, matrices)],
  ['a step of a drag', 20_000, () => drag(Math.random() * 40)],
]
const rows = tasks.map(([what, corners, work]) => {
  const [ours, loop]: [number[], number[]] = [[], []]
  const { positions, table } =
    corners === 100_000
      ? { positions: large.positions, table: soft }
      : { positions: small.positions, table: smallTable }
  work()
  for (let turn = 0; turn < TURNS; turn++) {
    ours.push(milliseconds(work))
    loop.push(milliseconds(() => plain(positions, table.weightOf)))
  }
  const [time, bare] = [middle(ours), middle(loop)]
  return {
    time,
    line:
      `| ${what} | ${corners.toLocaleString('en')} | ${time.toFixed(1)} | ${bare.toFixed(2)} | ` +
      `${(time / bare).toFixed(0)} |`,
  }
})
const whole = rows.slice(0, 3).reduce((sum, { time }) => sum + time, 0)
const text = `# Bones

Written by \`npx tsx perf/bones.ts\`, ${TURNS} times by turns; the middle one is told. ${BONES} bones in a row; borders between
them are spread over a third of a bone's length to each side. The plainest loop multiplies each place by a number. All
three of 100,000 together: ${whole.toFixed(0)} ms. Compare the ratios, not the times.

| what | corners | ms | plainest loop, ms | ratio |
|---|---:|---:|---:|---:|
${rows.map(({ line }) => line).join('\n')}
`
writeFileSync(new URL('bones.md', import.meta.url), text)
console.log(text)
