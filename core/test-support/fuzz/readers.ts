import { bringIn } from '../../crate/bring-in.ts'
import { readCrateFile } from '../../crate/file.ts'
import { readGameFile } from '../../crate/game-file.ts'
import { salvageCrate } from '../../crate/salvage.ts'
import { contentsOf, takeOutOfArchive } from '../../crate/take.ts'
import { isArchive, unpackSources } from '../../intake/archives.ts'
import { readItem } from '../../intake/read-item.ts'
import type { SourceFile } from '../../intake/source-file.ts'
import { inspectPack } from '../../inspect/inspect-pack.ts'
import { readArchive } from '../../support/archive.ts'
import { loadPack } from '../../trial/load-pack.ts'
import { mirroredGames } from '../mirrored-games.ts'
import { tarnAndTiller } from '../prepared-gate.ts'
import {
  colladaSeeds,
  fbxSeeds,
  file3dsSeeds,
  glbSeeds,
  gltfSeeds,
  mtlSeeds,
  objSeeds,
  plySeeds,
  stlSeeds,
} from './mesh-seeds.ts'
import {
  archiveSeeds,
  corpusSeeds,
  crateSeeds,
  packSeeds,
  pictureSeeds,
  rulebookSeeds,
  stateSeeds,
  type Seed,
} from './seeds.ts'

/** Something that reads files of strangers, and whole files to make mutants of. */
export interface FuzzedReader {
  name: string
  seeds: () => Seed[] | Promise<Seed[]>
  /** Further seeds from a corpus, for long runs. */
  corpus?: string
  /** It says what is wrong in what it returns, and refuses nothing. */
  neverRefuses?: true
  /** Reads the first file; the others lie beside it. */
  read: (files: readonly SourceFile[]) => unknown
}

const asMesh = (files: readonly SourceFile[]): Promise<unknown> => readItem(files[0].path, files)
const games = [tarnAndTiller, mirroredGames[3]]

const mesh = (name: string, ending: string, seeds: FuzzedReader['seeds']): FuzzedReader => ({
  name,
  seeds,
  corpus: ending,
  read: asMesh,
})

/** Every reader of files that are not ours, or may have been damaged. */
export const fuzzedReaders: readonly FuzzedReader[] = [
  mesh('GLB', 'glb', glbSeeds),
  mesh('glTF', 'gltf', gltfSeeds),
  mesh('OBJ', 'obj', objSeeds),
  {
    name: 'MTL',
    seeds: mtlSeeds,
    neverRefuses: true,
    read: ([material, ...rest]) => readItem(rest[0].path, [...rest, material]),
  },
  mesh('FBX', 'fbx', fbxSeeds),
  mesh('COLLADA', 'dae', colladaSeeds),
  mesh('3DS', '3ds', file3dsSeeds),
  mesh('STL', 'stl', stlSeeds),
  mesh('PLY', 'ply', plySeeds),
  { name: 'pictures', seeds: pictureSeeds, read: asMesh },
  {
    name: 'archives of sources',
    seeds: archiveSeeds,
    read: (files) =>
      bringIn(
        unpackSources([...files]).filter((file) => !isArchive(file)),
        'prop',
        {},
        [],
      ),
  },
  { name: 'item states', seeds: stateSeeds, read: (files) => readItem(files[0].path, files, { asState: true }) },
  { name: 'crate files', seeds: crateSeeds, read: ([file]) => readCrateFile(file.bytes, file.path) },
  {
    name: 'crate records',
    seeds: async () => (await crateSeeds()).map(([file]) => [recordOf(file)]),
    neverRefuses: true,
    read: ([file]) => salvageCrate(parsed(file.bytes), 'otterby', null),
  },
  { name: 'rulebooks', seeds: rulebookSeeds, read: ([file]) => readGameFile(file.bytes, file.path) },
  {
    name: 'packs, checked',
    seeds: packSeeds,
    neverRefuses: true,
    read: ([file]) => inspectPack(file.bytes, file.path, gameOf(file.bytes)),
  },
  {
    name: 'packs, taken from',
    seeds: packSeeds,
    async read([file]) {
      for (const { name } of contentsOf(file.bytes, file.path, games)?.items ?? [])
        await takeOutOfArchive(file.bytes, file.path, name, [], games)
    },
  },
  {
    name: 'packs, loaded in Trial',
    seeds: packSeeds,
    neverRefuses: true,
    read: ([file]) => loadPack(file.bytes, gameOf(file.bytes)),
  },
]

const recordOf = (file: SourceFile): SourceFile => ({
  path: 'crate.json',
  bytes: readArchive(file.bytes, file.path).get('crate.json') as Uint8Array,
})

function parsed(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(bytes))
  } catch {
    return null
  }
}

/** The second pack of the seeds holds meshes as text. */
const gameOf = (bytes: Uint8Array): (typeof games)[number] =>
  new TextDecoder('latin1').decode(bytes).includes('.obj') ? games[1] : games[0]

/** Where further whole files may lie; a package of Debian's, never committed. */
const CORPUS = '/usr/share/assimp/models'

/** The whole files of a reader. @param withCorpus whether those of a corpus on this machine are taken too */
export const seedsOf = async ({ seeds, corpus }: FuzzedReader, withCorpus: boolean): Promise<Seed[]> => [
  ...(await seeds()),
  ...(withCorpus && corpus ? corpusSeeds(CORPUS, corpus) : []),
]
