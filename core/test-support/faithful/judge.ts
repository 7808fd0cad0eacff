import * as THREE from 'three'
import { validateBytes } from 'gltf-validator'
import { bringIn, startFrom } from '../../crate/bring-in.ts'
import { getRootExtras } from '../../item/extras.ts'
import { inspectPack } from '../../inspect/inspect-pack.ts'
import { packItems } from '../../pack/pack-crate.ts'
import type { Finding } from '../../rules/rule.ts'
import { guessKind } from '../../game/guess-kind.ts'
import { kindOf, rulebookById } from '../../game/load.ts'
import { loadPack } from '../../trial/load-pack.ts'
import type { LogLine } from '../../trial/log.ts'
import { prepareItem } from '../../crate/prepare-item.ts'
import { memoryStore } from '../../worklist/result-store.ts'
import { compareItems, extentOf, type Difference } from './compare.ts'
import { readPackedItem } from './packed-item.ts'
import { readWithAssimp } from './source-by-assimp.ts'
import { readWithThree, type FileSet } from './source-by-three.ts'
import { triangleCount, type DrawnItem } from './surface.ts'

/** What came of one file, from its bytes to the packed bytes. */
export interface Judgement {
  file: string
  /** Null where the source could not be compared; `why` says it. */
  difference: Difference | null
  /**
   * Furthest that the packed item lies from the source while the first clip runs, as a share of the longest side; null
   * without one.
   */
  motion: number | null
  /** Levels and shadow against the first level: furthest apart, and share that faces the other way. */
  levels: { name: string; apart: number; turned: number }[]
  /** How far a step says that it moved the surface, as a share of the longest side. */
  statedShift: number
  report: string[]
  findings: Finding[]
  log: LogLine[]
  loads: boolean
  opinions: Opinions
  /** The packed bytes. */
  pack: Uint8Array
  validatorErrors: string[]
  steps: string[]
  triangles: { source: number; packed: number }
  seconds: number
}

export interface JudgeOptions {
  kind?: string
  metresPerUnit?: number
}

const rulebook = rulebookById('tarn-and-tiller')

/** The drawing library cuts large polygons as fans, concave or not. */
const hasLargePolygons = (obj: Uint8Array | undefined): boolean =>
  /^f(?:[ \t]+[^\s#]+){5}/m.test(new TextDecoder('latin1').decode(obj))
const byAssimp = (main: string, files: FileSet): boolean =>
  /\.(dae|fbx|3ds)$/i.test(main) || (/\.obj$/i.test(main) && hasLargePolygons(files.get(main)))

/** The other reader that is best at a format. */
const readOther = (main: string, files: FileSet, mostPixels: number): Promise<DrawnItem> =>
  byAssimp(main, files) ? readWithAssimp(main, files, mostPixels) : readWithThree(main, files, mostPixels)

/** Brings a file in, prepares it as *Prepare for me* does, packs it, and compares the packed bytes with the source. */
export async function judgeFile(main: string, files: FileSet, options: JudgeOptions = {}): Promise<Judgement> {
  const began = performance.now()
  const sources = [...files].map(([path, bytes]) => ({ path, bytes }))
  const brought = await bringIn(
    sources,
    options.kind ?? 'prop',
    options.metresPerUnit === undefined ? {} : { metresPerUnit: options.metresPerUnit },
    [],
  )
  const { item: asked, document, files: own } = brought.find((each) => each.item.main === main) ?? brought[0]
  // What comes with motion of its parts goes where parts may move.
  const kind = options.kind === undefined ? guessKind(document, rulebook).kind : kindOf(rulebook, options.kind)
  const item = { ...asked, kind: kind.id }
  const start = await startFrom(
    item,
    document,
    own.map(({ file }) => file),
    { rulebook, stock: null },
    async () => null,
  )
  const run = { rulebook, kind, store: memoryStore() }
  const { worklist, result, findings } = await prepareItem(start, run)
  const pack = await packItems([{ name: 'thing', kind, document: result.document }], rulebook, 'faithful')
  const trial = loadPack(pack.bytes, rulebook)
  const opinions = opinionsOf(findings, await inspectedFindings(pack.bytes), trial.loads, trial.log)
  const report = [
    ...worklist.map((entry) => entry.reason ?? ''),
    ...result.outcomes.flatMap((outcome) =>
      outcome.state === 'done' ? outcome.record.details : outcome.state === 'failed' ? [outcome.message] : [],
    ),
    ...findings.map((finding) => finding.message),
  ]
  const packed = readPackedItem(pack.bytes)
  const fit = new THREE.Matrix4().fromArray(
    getRootExtras(result.document.getRoot()).fit ?? new THREE.Matrix4().toArray(),
  )
  const extent = extentOf(packed.view)
  let difference: Difference | null = null
  let source: DrawnItem | null = null
  let motion: number | null = null
  try {
    source = await readOther(main, files, packed.largestColourMap)
    if (triangleCount(source) === 0) throw new Error('the other reader found nothing that is drawn')
    const fits = byAssimp(main, files) ? freeFits(source, packed.view) : [fit]
    difference = compareItems(source, packed.view, fits[0])
    // Of 3DS the other reader chains turns about several axes the other way round, and nothing says which is right.
    if (kind.motionAsked && !/\.3ds$/i.test(main) && document.getRoot().listAnimations().length > 0)
      motion = await motionApart(main, files, pack.bytes, fits, comparedShares(report))
  } catch (error) {
    report.push(`not compared: ${error instanceof Error ? error.message : String(error)}`)
  }
  const identity = new THREE.Matrix4()
  const levels = [
    ...[...packed.levels].map(([level, drawn]) => ({ name: `level ${level}`, drawn })),
    { name: 'shadow', drawn: packed.shadow },
  ]
    .filter(({ drawn }) => triangleCount(drawn) > 0)
    .map(({ name, drawn }) => {
      const between = compareItems(packed.view, drawn, identity)
      return { name, apart: Math.max(between.lost, between.added), turned: between.turned }
    })
  const validatorErrors: string[] = []
  for (const { path, bytes } of packed.glbs) {
    const { issues } = await validateBytes(bytes)
    for (const issue of issues.messages)
      if (issue.severity === 0) validatorErrors.push(`${path}: ${issue.code} ${issue.pointer ?? ''}`)
  }
  return {
    file: main,
    difference,
    motion,
    levels,
    report,
    findings,
    log: trial.log,
    loads: trial.loads,
    pack: pack.bytes,
    validatorErrors,
    opinions,
    steps: worklist.map(({ step }) => step),
    statedShift:
      Math.max(
        0,
        ...report.map((line) =>
          Number(/(?:moved by|moved further than|would lie up to) ([\d.]+) \w+/.exec(line)?.[1] ?? 0),
        ),
      ) / extent.longest,
    triangles: { source: source ? triangleCount(source) : 0, packed: triangleCount(packed.view) },
    seconds: (performance.now() - began) / 1000,
  }
}

/** What check says of the item, what it says of the packed file, and what the loader says: one word each. */
export interface Opinions {
  item: Opinion
  pack: Opinion
  loader: Opinion
}
type Opinion = 'refused' | 'complaint' | 'silent'

const inspectedFindings = async (bytes: Uint8Array): Promise<Finding[]> => {
  const report = await inspectPack(bytes, 'pack.zip', rulebook)
  return [...report.findings, ...report.items.flatMap((item) => item.findings)]
}

function opinionsOf(
  item: readonly Finding[],
  pack: readonly Finding[],
  loads: boolean,
  log: readonly LogLine[],
): Opinions {
  const opinion = (findings: readonly Finding[]): Opinion =>
    findings.some(({ severity }) => severity === 'blocks')
      ? 'refused'
      : findings.some(({ severity }) => severity === 'risky')
        ? 'complaint'
        : 'silent'
  return {
    item: opinion(item),
    pack: opinion(pack),
    loader: !loads ? 'refused' : log.some(({ level }) => level === 'complaint') ? 'complaint' : 'silent',
  }
}

const SHARES = [0.13, 0.37, 0.61, 0.89]

/**
 * How much of the source's clip, and of what it became, is compared: what was told to be led back or played twice is
 * not.
 */
function comparedShares(report: readonly string[]): { source: number; packed: number } {
  const said = report.join(' ')
  if (said.includes('goes back the way it came')) return { source: 1, packed: 0.5 }
  return said.includes('The last quarter of ') ? { source: 0.75, packed: 0.75 } : { source: 1, packed: 1 }
}

/** Compares source and packed item at times of the first clip, each by its own reader. */
async function motionApart(
  main: string,
  files: FileSet,
  pack: Uint8Array,
  fits: readonly THREE.Matrix4[],
  compared: { source: number; packed: number },
): Promise<number> {
  const most = fits.map(() => 0)
  for (const share of SHARES) {
    const source = await (byAssimp(main, files) ? readWithAssimp : readWithThree)(
      main,
      files,
      1,
      share * compared.source,
    )
    const packed = readPackedItem(pack, share * compared.packed).view
    fits.forEach((into, at) => {
      const { lost, added } = compareItems(source, packed, into, 600)
      most[at] = Math.max(most[at], lost, added)
    })
  }
  // Of turns that fit equally well at rest, such as a box's, only one is right while it moves.
  return Math.min(...most)
}

/** Fits that differ by less are kept for what moves. */
const EQUALLY_WELL = 0.002

/**
 * For readers that turn and scale by themselves: turns about right angles, with scale and shift, that bring the
 * surfaces together, the best first; between equal ones, as of a cube, the colours decide.
 */
function freeFits(source: DrawnItem, result: DrawnItem): THREE.Matrix4[] {
  const [from, to] = [extentOf(source), extentOf(result)]
  const scale = to.longest / from.longest
  const candidates: THREE.Matrix4[] = []
  for (let x = 0; x < 3; x++) {
    for (let y = 0; y < 3; y++) {
      for (const signs of [0, 1, 2, 3]) {
        if (x === y) continue
        const [a, b] = [
          new THREE.Vector3().setComponent(x, signs & 1 ? -1 : 1),
          new THREE.Vector3().setComponent(y, signs & 2 ? -1 : 1),
        ]
        candidates.push(new THREE.Matrix4().makeBasis(a, b, a.clone().cross(b)))
      }
    }
  }
  const middle = to.box.getCenter(new THREE.Vector3())
  const fits = candidates.map((turn) => {
    const fit = turn.clone().scale(new THREE.Vector3(scale, scale, scale))
    const box = from.box.clone().applyMatrix4(fit)
    fit.premultiply(new THREE.Matrix4().makeTranslation(middle.clone().sub(box.getCenter(new THREE.Vector3()))))
    const difference = compareItems(source, result, fit, 120)
    return {
      fit,
      score:
        Math.max(difference.lost, difference.added) +
        (difference.shading ?? 0) * 0.01 +
        (difference.colour ?? 0) * 1e-5,
    }
  })
  const best = fits.sort((a, b) => a.score - b.score)[0].score
  return fits.filter(({ score }) => score - best < EQUALLY_WELL).map(({ fit }) => fit)
}
