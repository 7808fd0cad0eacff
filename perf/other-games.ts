import { writeFileSync } from 'node:fs'
import { kindOf, rulebookById } from '../core/game/load.ts'
import { gameMesh } from '../core/pack/game-mesh.ts'
import { itemPaths } from '../core/game/item-paths.ts'
import { meshWriters } from '../core/pack/writers/mesh/index.ts'
import { foldIntoColour } from '../core/pictures/fold.ts'
import { gatherTriangles } from '../core/operations/meshes/trays.ts'
import { ball, documentOf } from '../core/test-support/meshes.ts'
import { painted, wavyNormals } from '../core/test-support/pictures.ts'
import { loadPartList } from '../core/trial/loaders/mesh/part-list.ts'

/**
 * What only some games ask, beside the plainest loop that does the job: 24,000 half-blocks, and five maps of 1024²
 * folded into one. Run with `npx tsx perf/other-games.ts`; writes perf/other-games.md.
 */
const TURNS = 5
const parish = rulebookById('pegboard-parish')
const kind = kindOf(parish, 'plotpiece')
const document = documentOf({ ball: ball(120, 55) })
const paths = itemPaths(parish, kind, 'ball', null)

/** Triangles cut across their longest side, the numbers written as they come. */
function plainHalves(): number {
  const { positions, indices } = gatherTriangles(document)
  const lines: string[] = []
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [0, 1, 2].map((step) => positions.subarray(indices[at + step] * 3, indices[at + step] * 3 + 3))
    const way = [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
    const share =
      (way[0] * (c[0] - a[0]) + way[1] * (c[1] - a[1]) + way[2] * (c[2] - a[2])) /
      (way[0] ** 2 + way[1] ** 2 + way[2] ** 2)
    const foot = way.map((value, axis) => a[axis] + value * share)
    lines.push(JSON.stringify([...foot, ...b, ...c]), JSON.stringify([...foot, ...c, ...a]))
  }
  return lines.join('\n').length
}

async function ourHalves(): Promise<number> {
  const mesh = await gameMesh(document, 'ball', kind, parish, paths)
  const { files } = await meshWriters[parish.files.mesh.writer]({ document: mesh, path: paths.mesh, rulebook: parish })
  const { nodes } = loadPartList({
    path: paths.mesh,
    bytes: files[0].bytes,
    archive: new Map(),
    beside: { item: 'ball' },
    rulebook: parish,
  })
  return nodes.reduce(
    (sum, { primitives }) => sum + primitives.reduce((all, each) => all + each.indices.length / 3, 0),
    0,
  )
}

const side = 1024
const colour = painted(side, side)
const normal = wavyNormals(side, true)
const [occlusion, roughness, metalness] = [2, 3, 4].map((seed) => painted(side, side, seed))

const ourFold = () =>
  foldIntoColour(
    colour,
    {
      occlusion: { picture: occlusion, channel: 0 },
      normal,
      roughness: { picture: roughness, channel: 1 },
      metalness: { picture: metalness, channel: 2 },
    },
    { occlusion: 0.8, relief: 0.7, shine: 0.5, lightDegrees: 120, heightDegrees: 45 },
  )

/** Each pixel multiplied by what the other maps say, on bytes. */
function plainFold(): Uint8Array {
  const data = colour.data.slice()
  for (let at = 0; at < data.length; at += 4) {
    const shade = (occlusion.data[at] / 255) * (normal.data[at + 2] / 255)
    const shine = (1 - roughness.data[at + 1] / 255) ** 2 * (0.5 + metalness.data[at + 2] / 510)
    for (let channel = 0; channel < 3; channel++)
      data[at + channel] = Math.min(255, data[at + channel] * shade + 255 * shine * 0.2)
  }
  return data
}

const timed = async (work: () => unknown): Promise<number> => {
  const began = performance.now()
  await work()
  return performance.now() - began
}
const middle = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]

const count = await ourHalves()
const works: [string, () => unknown, () => unknown][] = [
  [
    `${count.toLocaleString('en-GB')} half-blocks: turned into the game’s space, cut, written and loaded again`,
    ourHalves,
    plainHalves,
  ],
  ['five maps of 1024 × 1024 folded into the colour', ourFold, plainFold],
]
const rows: string[] = []
for (const [title, ours, plain] of works) {
  const times: [number[], number[]] = [[], []]
  await ours()
  await plain()
  for (let turn = 0; turn < TURNS; turn++) {
    times[0].push(await timed(ours))
    times[1].push(await timed(plain))
  }
  const [mine, theirs] = times.map(middle)
  rows.push(`| ${title} | ${mine.toFixed(0)} | ${theirs.toFixed(0)} | ${(mine / theirs).toFixed(1)} |`)
}
const text = `# What only some games ask

Written by \`npx tsx perf/other-games.ts\`, ${TURNS} times by turns; the middle one is told. The plainest loop cuts across
the longest side and writes corners as they come, or multiplies bytes. Compare the ratios, not the times.

| what | ms | plainest loop, ms | ratio |
|---|---:|---:|---:|
${rows.join('\n')}
`
writeFileSync('perf/other-games.md', text)
console.log(text)
