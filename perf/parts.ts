import { writeFileSync } from 'node:fs'
import '../cli/node-assets.ts'
import { documentToGlb } from '../core/item/io.ts'
import { bringIn } from '../core/crate/bring-in.ts'
import { tryAlone } from '../core/crate/try-alone.ts'
import { gameNamed } from '../cli/game.ts'
import { ball, documentOf } from '../core/test-support/meshes.ts'

/**
 * Prepare, pack and trial of things that have the same number of triangles in 1, 10, 100 and 1,000 parts, by turns:
 * `npx tsx perf/parts.ts [TIMES]`.
 */
const times = Number(process.argv[2] ?? 3)
const TRIANGLES = 20_000
const counts = [1, 10, 100, 1000]
const { game, stock } = await gameNamed('tarn-and-tiller')

/** So many balls in rows, with so many triangles in all. */
async function thingOf(parts: number): Promise<{ path: string; bytes: Uint8Array }> {
  // A ball of n rings has 4n(n − 1) triangles.
  const rings = Math.max(2, Math.round((1 + Math.sqrt(1 + TRIANGLES / parts)) / 2))
  const side = Math.ceil(Math.cbrt(parts))
  const radius = 0.5 / side
  const place = (index: number): number[] => [
    ((index % side) + 0.5) / side,
    ((Math.floor(index / side) % side) + 0.5) / side,
    (Math.floor(index / side / side) + 0.5) / side,
  ]
  const document = documentOf(
    Object.fromEntries(
      Array.from({ length: parts }, (_, index) => [`part_${index}`, ball(radius * 0.9, rings, place(index))]),
    ),
  )
  // One material for all: what is compared is the number of parts.
  const [material, ...others] = document.getRoot().listMaterials()
  for (const mesh of document.getRoot().listMeshes())
    for (const primitive of mesh.listPrimitives()) primitive.setMaterial(material)
  for (const other of others) other.dispose()
  return { path: 'thing.glb', bytes: await documentToGlb(document) }
}

const things = new Map<number, { path: string; bytes: Uint8Array }>()
for (const count of counts) things.set(count, await thingOf(count))

interface Run {
  seconds: number
  triangles: number
  steps: number
  loads: boolean
}

async function once(count: number): Promise<Run> {
  const file = things.get(count)
  if (!file) throw new RangeError(`no thing of ${count} parts`)
  const [brought] = await bringIn([file], 'prop', {}, [])
  const { seconds, triangles, worklist, loads } = await tryAlone(brought, game, {
    kind: 'prop',
    bytesOf: async (sha256) => (sha256 === game.stock?.sha256 ? stock : null),
  })
  return { seconds, triangles, steps: worklist.length, loads }
}

await once(counts[0])
const runs = new Map<number, Run[]>(counts.map((count) => [count, []]))
for (let turn = 0; turn < times; turn++)
  for (const count of counts) {
    runs.get(count)?.push(await once(count))
    process.stderr.write(`${turn + 1} of ${times}: ${count} parts\n`)
  }

const middle = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]
const rows = counts.map((count) => {
  const all = runs.get(count) ?? []
  return { count, ...all[0], seconds: middle(all.map(({ seconds }) => seconds)) }
})
const [first] = rows
const text = `# Parts

Written by \`npx tsx perf/parts.ts\`: balls with about ${TRIANGLES.toLocaleString('en-GB')} triangles in all, prepared, packed and tried as *Prepare
for me* does, ${times === 1 ? 'once each after a warm-up' : `${times} times by turns; the middle one is told`}.

| parts | triangles | steps | loads | time, s | of one part's |
|---:|---:|---:|---|---:|---:|
${rows
  .map(
    ({ count, triangles, steps, loads, seconds }) =>
      `| ${count.toLocaleString('en-GB')} | ${triangles.toLocaleString('en-GB')} | ${steps} | ${loads ? 'yes' : 'no'} ` +
      `| ${seconds.toFixed(1)} | ${(seconds / first.seconds).toFixed(2)} |`,
  )
  .join('\n')}
`
writeFileSync('perf/parts.md', text)
console.log(text)
process.exit(0)
