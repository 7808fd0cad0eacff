import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { MeshoptSimplifier } from 'meshoptimizer/simplifier'
import { MeshoptTangents } from 'meshoptimizer/tangents'
import { BufferAttribute, BufferGeometry } from 'three'
import { MeshBVH } from 'three-mesh-bvh'
import type { Document } from '@gltf-transform/core'
import { bringIn, startKey } from '../core/crate/bring-in.ts'
import { copyDocument, documentToGlb } from '../core/item/io.ts'
import { mergedTriangles } from '../core/item/measure.ts'
import { listViewParts } from '../core/item/parts.ts'
import { readPrimitive } from '../core/item/primitive-arrays.ts'
import { kindOf, rulebookById } from '../core/game/load.ts'
import { stepById } from '../core/steps/registry.ts'
import { texturePixels } from '../core/operations/maps/texture-pixels.ts'
import { encodeBlocks } from '../core/pictures/codecs/block-codec.ts'
import { prepareWorklist } from '../core/worklist/prepare.ts'
import { memoryStore } from '../core/worklist/result-store.ts'
import type { SourceFile } from '../core/intake/source-file.ts'
import type { ReadOptions } from '../core/intake/reader.ts'
import { millionTriangles } from './million-triangles.ts'

/**
 * Each step's time beside the bare library call that does its heavy part, on the same arrays, in one run.
 * Only the ratios mean anything on another machine.
 */
const rulebook = rulebookById('tarn-and-tiller')
const kind = kindOf(rulebook, 'prop')

interface Row {
  step: string
  milliseconds: number
  bare: number | null
  library: string
}

const timed = async (work: () => unknown): Promise<number> => {
  const began = performance.now()
  await work()
  return performance.now() - began
}

/** The library's own work on the state before a step. */
async function bareCall(
  step: string,
  document: Document,
  parameters: Record<string, unknown>,
): Promise<[number, string] | null> {
  const parts = listViewParts(document)
  const arrays = parts.flatMap((part) => part.mesh.listPrimitives().map(readPrimitive))
  await Promise.all([MeshoptSimplifier.ready, MeshoptTangents.ready])
  const simplify = (share: number): void => {
    for (const { positions, indices, normals, uvs } of arrays) {
      const target = Math.max(3, Math.floor((indices.length * share) / 3) * 3)
      if (!uvs) MeshoptSimplifier.simplify(indices, positions, 3, target, 1)
      else
        MeshoptSimplifier.simplifyWithAttributes(
          indices,
          positions,
          3,
          normals ? interleave(normals, uvs) : uvs,
          normals ? 5 : 2,
          normals ? [0.5, 0.5, 0.5, 1, 1] : [1, 1],
          null,
          target,
          1,
        )
    }
  }
  const triangles = arrays.reduce((sum, each) => sum + each.indices.length / 3, 0)
  switch (step) {
    case 'weld':
      return [
        await timed(() => arrays.forEach(({ positions }) => MeshoptSimplifier.generatePositionRemap(positions, 3))),
        'meshoptimizer position remap',
      ]
    case 'turn-outward':
      return [
        await timed(() => {
          const { positions, indices } = mergedTriangles(parts)
          const geometry = new BufferGeometry()
            .setAttribute('position', new BufferAttribute(positions, 3))
            .setIndex(new BufferAttribute(indices, 1))
          return new MeshBVH(geometry, { indirect: true })
        }),
        'three-mesh-bvh build',
      ]
    case 'reduce-triangles':
      return [await timed(() => simplify(Number(parameters['targetTriangles']) / triangles)), 'meshoptimizer simplify']
    case 'even-normals':
      return [
        await timed(() => {
          for (const { positions, indices, uvs } of arrays) {
            const normals = MeshoptTangents.generateNormals(indices, positions, 3, 0.66)
            if (uvs)
              MeshoptTangents.generateTangents(
                null,
                expand(positions, indices, 3),
                3,
                normals,
                3,
                expand(uvs, indices, 2),
                2,
                ['Compatible'],
              )
          }
        }),
        'meshoptimizer normals and tangents',
      ]
    case 'levels-and-shadow':
      return [await timed(() => [0.45, 0.18, 0.225].forEach(simplify)), 'meshoptimizer simplify × 3']
    case 'compress-maps': {
      const maps = await Promise.all(document.getRoot().listTextures().map(texturePixels))
      return [
        await timed(async () => {
          for (const pixels of maps) await encodeBlocks(pixels, 'bc7')
        }),
        'block encoder, first level, BC7',
      ]
    }
    default:
      return null
  }
}

function interleave(normals: Float32Array, uvs: Float32Array): Float32Array {
  const corners = normals.length / 3
  const together = new Float32Array(corners * 5)
  for (let corner = 0; corner < corners; corner++) {
    together.set(normals.subarray(corner * 3, corner * 3 + 3), corner * 5)
    together.set(uvs.subarray(corner * 2, corner * 2 + 2), corner * 5 + 3)
  }
  return together
}

function expand(array: Float32Array, indices: Uint32Array, size: number): Float32Array {
  const expanded = new Float32Array(indices.length * size)
  indices.forEach((corner, index) => expanded.set(array.subarray(corner * size, corner * size + size), index * size))
  return expanded
}

async function measure(
  files: SourceFile[],
  reading: ReadOptions,
): Promise<{ reading: number; rows: Row[]; triangles: number }> {
  const began = performance.now()
  const [{ item, document, survey }] = await bringIn(files, 'prop', reading, [])
  const readingTime = performance.now() - began
  const options = { rulebook, kind, store: memoryStore(0) }
  const worklist = await prepareWorklist({ key: startKey(item), document }, options)
  const rows: Row[] = []
  let state = document
  for (const entry of worklist) {
    const bare = await bareCall(entry.step, state, entry.parameters)
    const next = copyDocument(state)
    const step = stepById(entry.step)
    const milliseconds = await timed(() =>
      step.run({ document: next, parameters: entry.parameters, rulebook, kind, progress: async () => undefined }),
    )
    rows.push({ step: step.title, milliseconds, bare: bare?.[0] ?? null, library: bare?.[1] ?? 'no library does this' })
    state = next
  }
  rows.push({
    step: 'Keeping the last state (GLB)',
    milliseconds: await timed(() => documentToGlb(state)),
    bare: null,
    library: '',
  })
  return { reading: readingTime, rows, triangles: survey.triangles }
}

const table = (title: string, { reading, rows }: Awaited<ReturnType<typeof measure>>): string[] => [
  `## ${title}`,
  '',
  `Reading: ${Math.round(reading)} ms. All steps: ` +
    `${Math.round(rows.reduce((sum, row) => sum + row.milliseconds, 0))} ms.`,
  '',
  '| step | ms | bare library call, ms | ratio | what was called |',
  '|---|---:|---:|---:|---|',
  ...rows.map(
    (row) =>
      `| ${row.step} | ${row.milliseconds.toFixed(0)} | ${row.bare === null ? '' : row.bare.toFixed(0)} | ` +
      `${row.bare === null ? '' : (row.milliseconds / Math.max(1, row.bare)).toFixed(1)} | ${row.library} |`,
  ),
  '',
]

const gateFolder = new URL('../demo/sources/boathouse_gate/', import.meta.url)
const gate = await measure(
  readdirSync(gateFolder)
    .sort()
    .map((path) => ({ path, bytes: new Uint8Array(readFileSync(new URL(path, gateFolder))) })),
  { metresPerUnit: 0.01, up: '+z' },
)
const million = await measure([{ path: 'million.glb', bytes: await millionTriangles() }], {})
const lines = [
  '# Steps beside bare library calls',
  '',
  `Written by \`npm run perf\` on Node ${process.version}. Compare the ratios, not the times.`,
  '',
  ...table(`Boathouse gate, ${gate.triangles.toLocaleString('en-GB')} triangles`, gate),
  ...table(`A mesh of ${million.triangles.toLocaleString('en-GB')} triangles`, million),
]
writeFileSync(new URL('./steps.md', import.meta.url), lines.join('\n'))
console.log(lines.join('\n'))
