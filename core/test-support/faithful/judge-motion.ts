import { createRequire } from 'node:module'
import * as THREE from 'three'
import { validateBytes } from 'gltf-validator'
import { bringIn, startFrom } from '../../crate/bring-in.ts'
import { prepareItem } from '../../crate/prepare-item.ts'
import { kindOf, rulebookById } from '../../game/load.ts'
import { rulebookSchema, type Rulebook } from '../../game/schema.ts'
import { getRootExtras } from '../../item/extras.ts'
import { packItems } from '../../pack/pack-crate.ts'
import { loadPack } from '../../trial/load-pack.ts'
import { memoryStore } from '../../worklist/result-store.ts'
import { compareItems, extentOf } from './compare.ts'
import { readPackedItem } from './packed-item.ts'
import { readWithThree, type FileSet } from './source-by-three.ts'

/** What came of a thing that moves or bends, at ten times of its first clip. */
export interface MotionJudgement {
  clips: number
  bones: number
  /** Furthest that the packed surface lies from the source's at any of the times, as a share of the longest side. */
  apart: number
  /** How far a step says that it moved the surface, as a share of the longest side. */
  stated: number
  /** What the report says of a step that changes how it moves; empty where nothing does. */
  said: string
  loads: boolean
  validatorErrors: string[]
}

/** Ten times, none of them where keys like to stand. */
export const MOMENTS = [0, 0.07, 0.18, 0.29, 0.41, 0.52, 0.63, 0.74, 0.86, 0.97] as const

const PACKED = 'packed.glb'

/** A game that takes motion in one thing, and bones where it came with some, as much of both as a file may have. */
function roomyGame(hasBones: boolean): { rulebook: Rulebook; kind: Rulebook['kinds'][number] } {
  const own = structuredClone(rulebookById('tarn-and-tiller'))
  Object.assign(own.motion, {
    keysPerSecond: 240,
    longestSeconds: 3600,
    mostKeys: 5_000_000,
    startsAtZero: false,
    loopsClose: false,
  })
  const mover = kindOf(own, 'mover')
  Object.assign(mover, {
    levelsAsked: false,
    solids: null,
    bones: hasBones ? { most: 4096, influences: 4, rigidPartPerBone: false } : null,
    textureMemoryBytes: 1e9,
    mesh: { ...mover.mesh, triangles: 5_000_000, withSolids: null },
  })
  own.materials.largestCount = 1000
  own.files.archive.largestBytes = 1e9
  const rulebook = rulebookSchema.parse(own)
  return { rulebook, kind: kindOf(rulebook, 'mover') }
}

/**
 * Brings a file in, prepares and packs it, and compares source and packed bytes at ten times, both read and skinned by
 * the drawing library. */
export async function judgeMotion(files: FileSet, main: string): Promise<MotionJudgement> {
  const sources = [...files].map(([path, bytes]) => ({ path, bytes }))
  const brought = await bringIn(
    sources,
    'mover',
    { metresPerUnit: rulebookById('tarn-and-tiller').space.unit.metres },
    [],
  )
  const { item, document, files: own } = brought.find((each) => each.item.main === main) ?? brought[0]
  const facts = {
    clips: document.getRoot().listAnimations().length,
    bones: new Set(
      document
        .getRoot()
        .listSkins()
        .flatMap((skin) => skin.listJoints()),
    ).size,
  }
  const { rulebook, kind } = roomyGame(facts.bones > 0)
  const start = await startFrom(
    item,
    document,
    own.map(({ file }) => file),
    { rulebook, stock: null },
    async () => null,
  )
  const { worklist, result } = await prepareItem(start, { rulebook, kind, store: memoryStore() })
  const pack = await packItems([{ name: 'thing', kind, document: result.document }], rulebook, 'motion')
  const report = [
    ...worklist.map(({ reason }) => reason ?? ''),
    ...result.outcomes.flatMap((outcome) => (outcome.state === 'done' ? outcome.record.details : [])),
  ]
  const fit = new THREE.Matrix4().fromArray(
    getRootExtras(result.document.getRoot()).fit ?? new THREE.Matrix4().toArray(),
  )
  const [mesh] = readPackedItem(pack.bytes).glbs
  const packed = new Map([[PACKED, mesh.bytes]])
  let apart = 0
  for (const share of MOMENTS) {
    const moment = facts.clips > 0 ? share : null
    const source = await readWithThree(main, files, 1, moment)
    const { lost, added } = compareItems(source, await readWithThree(PACKED, packed, 1, moment), fit, 600)
    apart = Math.max(apart, lost, added)
    if (moment === null) break
  }
  const { issues } = (await validateBytes(mesh.bytes)) as { issues: { messages: { severity: number; code: string }[] } }
  const extent = extentOf(readPackedItem(pack.bytes).view).longest
  return {
    ...facts,
    apart,
    stated:
      Math.max(
        0,
        ...report.map((line) =>
          Number(/(?:moved by|moved further than|would lie up to) ([\d.]+) \w+/.exec(line)?.[1] ?? 0),
        ),
      ) / extent,
    said: !worklist.some(({ step, on }) => on && step === 'add-bend-rows')
      ? ''
      : (report.find((line) => /breaks by \d+° at one edge|error was let grow|is too fast in/.test(line)) ?? ''),
    loads: loadPack(pack.bytes, rulebook).loads,
    validatorErrors: issues.messages.filter(({ severity }) => severity === 0).map(({ code }) => code),
  }
}

interface Converter {
  FileList: new () => { AddFile: (name: string, bytes: Uint8Array) => void }
  ConvertFileList: (
    list: unknown,
    format: string,
  ) => { IsSuccess: () => boolean; GetFile: (index: number) => { GetContent: () => Uint8Array } }
}
let converter: Promise<Converter> | null = null

/** A file as GLB, written by another library, whatever it reads; null where it cannot. */
export async function writtenByAssimp(files: FileSet, main: string): Promise<Uint8Array | null> {
  converter ??= (createRequire(import.meta.url)('assimpjs') as () => Promise<Converter>)()
  const assimp = await converter
  const list = new assimp.FileList()
  for (const [path, bytes] of [...files].sort(([path]) => (path === main ? -1 : 1))) list.AddFile(path, bytes)
  const result = assimp.ConvertFileList(list, 'glb2')
  return result.IsSuccess() ? result.GetFile(0).GetContent().slice() : null
}
