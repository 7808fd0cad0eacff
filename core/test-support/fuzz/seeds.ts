import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { newCrate } from '../../crate/schema.ts'
import { writeCrateFile } from '../../crate/file.ts'
import { bringIn } from '../../crate/bring-in.ts'
import { kindOf } from '../../game/load.ts'
import { documentToGlb } from '../../item/io.ts'
import { isCompanionFile } from '../../intake/read-item.ts'
import type { SourceFile } from '../../intake/source-file.ts'
import { packItems } from '../../pack/pack-crate.ts'
import { exportDefaults, exportImage, type ExportFormat } from '../../pictures/export-image.ts'
import { writeArchive } from '../../support/archive.ts'
import { bmpFile } from '../binary-files.ts'
import { boxWith, grey } from '../mapped-boxes.ts'
import { mirroredGames } from '../mirrored-games.ts'
import { painted } from '../pictures.ts'
import { tarnAndTiller } from '../prepared-gate.ts'
import { demoSources } from '../sources.ts'

/** Whole files that mutants are made of: the first is what is read, the others lie beside it. */
export type Seed = readonly SourceFile[]

/** A file of text. */
export const text = (path: string, content: string): SourceFile => ({ path, bytes: new TextEncoder().encode(content) })

/** One picture in each form that is read. */
export async function pictureSeeds(): Promise<Seed[]> {
  const pixels = painted(16, 16)
  const made = async (format: ExportFormat, codec: 'bc1' | 'bc7' | 'none' | 'basis'): Promise<Seed> => [
    { path: `oak.${format}`, bytes: await exportImage(pixels, { ...exportDefaults(format), codec }) },
  ]
  const base64 = (path: string, content: string): Seed => [
    { path, bytes: Uint8Array.from(Buffer.from(content, 'base64')) },
  ]
  return [
    await made('png', 'none'),
    await made('tga', 'none'),
    [{ path: 'oak.tga', bytes: await exportImage(pixels, { ...exportDefaults('tga'), packed: true }) }],
    await made('dds', 'bc1'),
    await made('dds', 'bc7'),
    await made('ktx2', 'bc7'),
    await made('ktx2', 'basis'),
    demoSources('timetable_board'),
    demoSources('rain_hat').filter(({ path }) => path.endsWith('yellow.png')),
    [{ path: 'oak.bmp', bytes: bmpOf() }],
    base64('oak.webp', 'UklGRiIAAABXRUJQVlA4IBYAAAAwAQCdASoBAAEADsD+JaQAA3AAAAAA'),
    base64('oak.webp', 'UklGRhoAAABXRUJQVlA4TA0AAAAvAAAAEAcQERGIiP4HAA=='),
  ]
}

const bmpOf = (): Uint8Array => bmpFile(4, 4, 24, 0, [], new Array<number>(48).fill(90))

export const archiveSeeds = (): Seed[] => {
  const hat = demoSources('rain_hat').filter(({ path }) => !path.includes('lying'))
  return [[{ path: 'sources.zip', bytes: writeArchive(hat, 'zip-deflated') }]]
}

export async function crateSeeds(): Promise<Seed[]> {
  const [{ item, files }] = await bringIn(demoSources('rain_hat').slice(0, 3), 'prop', {}, [])
  const worklist = [{ id: 'step-1', step: 'set-size', on: true, parameters: { factor: 2 }, reason: 'Too small.' }]
  const crate = {
    ...newCrate('Otterby', { rulebook: tarnAndTiller, stock: null }, []),
    items: [{ ...item, worklist, waivers: [{ rule: 'over-budget', where: 'item', reason: 'seen' }] }],
  }
  const sources = new Map(files.map(({ sha256, file }) => [sha256, file.bytes]))
  return [[{ path: 'otterby.zip', bytes: writeCrateFile({ crate, sources }) }]]
}

export const rulebookSeeds = (): Seed[] => [
  [text('rulebook.json', JSON.stringify(tarnAndTiller))],
  [
    {
      path: 'game.zip',
      bytes: writeArchive([text('rulebook.json', JSON.stringify(mirroredGames[3]))], 'zip-deflated'),
    },
  ],
]

/** A pack of the built-in game, and one of other files. */
export async function packSeeds(): Promise<Seed[]> {
  const { document } = boxWith({ colour: grey(90) })
  const packed = async (rulebook: typeof tarnAndTiller): Promise<Seed> => {
    const { bytes } = await packItems([{ name: 'box', kind: kindOf(rulebook, 'prop'), document }], rulebook, 'Otterby')
    return [{ path: 'pack.zip', bytes }]
  }
  return [await packed(tarnAndTiller), await packed(mirroredGames[3])]
}

export const stateSeeds = async (): Promise<Seed[]> => [
  [{ path: 'box.glb', bytes: await documentToGlb(boxWith({ colour: grey(90) }).document) }],
]

/** Small files of a format from a corpus on this machine, with what lies beside them; none where it is not there. */
export function corpusSeeds(folder: string, ending: string, mostBytes = 60_000): Seed[] {
  if (!existsSync(folder)) return []
  const read = (path: string): SourceFile => ({
    path: path.slice(path.lastIndexOf('/') + 1),
    bytes: new Uint8Array(readFileSync(path)),
  })
  const isSmall = (path: string): boolean => statSync(path).isFile() && statSync(path).size < mostBytes
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((path) => path.toLowerCase().endsWith(`.${ending}`))
    .sort()
    .map((path) => join(folder, path))
    .filter(isSmall)
    .map((path) => {
      const beside = readdirSync(dirname(path))
        .map((name) => join(dirname(path), name))
        .filter((other) => isCompanionFile(other) && isSmall(other))
      return [read(path), ...beside.slice(0, 12).map(read)]
    })
}
