import { fork, type ChildProcess } from 'node:child_process'
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { PlainError } from '../support/plain-error.ts'
import { isMeshFile, readItem } from '../intake/read-item.ts'
import { surveyDocument, type Survey } from '../intake/survey.ts'

/** Where Debian's package `assimp-testmodels` puts its files; they are never committed. */
const CORPUS = '/usr/share/assimp/models'
export const corpusIsPresent = (): boolean => existsSync(CORPUS)

/** Files of the corpus that are not valid meshes of today, and why: they have to be refused, or need not agree. */
const notValid: readonly [RegExp, string][] = [
  [/^glTF\//, 'glTF 1'],
  [/^invalid\//, 'broken on purpose'],
  [
    /BoxWithInfinites|IncorrectVertexArrays|IndexOutOfRange|MissingBin|RecursiveNodes|SchemaFailures|TestNoRootNode|wrongTypes/,
    'broken on purpose',
  ],
  [/Mesh_PrimitiveMode_(0[0-3]|0[7-9]|10)|point_cloud|testline|testpoints|points\.ply|pond\.0/, 'points or lines only'],
  [/cameras\.dae|lights\.dae/, 'no faces'],
  [/number_formats\.obj/, '“3.1+e2” is no number'],
  [/issue623\.ply/, 'its lines are torn'],
  [/transparentTest\.fbx/, 'copied as text'],
]

/** Where all other readers count differently, and what is right. */
const knownCounts: Readonly<Record<string, { triangles: number; why: string }>> = {
  'Collada/ConcavePolygon.dae': { triangles: 64, why: 'the other reader drops ears without area' },
  'Collada/library_animation_clips.dae': { triangles: 52, why: '26 quads, of which the other reader sees 6' },
  'OBJ/box_UTF16BE.obj': { triangles: 12, why: 'the other readers know no UTF-16' },
}

export interface CorpusFile {
  path: string
  format: string
  /** Why it need not come in; null for valid files. */
  notValid: string | null
}

/** Every mesh of the corpus. */
export function corpusFiles(): CorpusFile[] {
  const walk = (folder: string): string[] =>
    readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
      entry.isDirectory() ? walk(join(folder, entry.name)) : [join(folder, entry.name)],
    )
  return walk(CORPUS)
    .map((path) => relative(CORPUS, path))
    .filter(isMeshFile)
    .sort()
    .map((path) => ({
      path,
      format: formatOf(path),
      notValid: notValid.find(([pattern]) => pattern.test(path))?.[1] ?? null,
    }))
}

function formatOf(path: string): string {
  const ending = path.slice(path.lastIndexOf('.') + 1).toLowerCase()
  return ending === 'glb' || ending === 'gltf' ? 'glTF' : ending.toUpperCase()
}

export interface OwnReading {
  survey: Survey | null
  document: Awaited<ReturnType<typeof readItem>>['document'] | null
  /** The sentence, where it was refused. */
  refusal: string | null
  milliseconds: number
}

/** Reads a file of the corpus with what lies beside it. */
export async function readOurs(path: string): Promise<OwnReading> {
  const folder = join(CORPUS, dirname(path))
  const beside = readdirSync(folder).filter(
    (name) => statSync(join(folder, name)).isFile() && !isMeshFile(name) && statSync(join(folder, name)).size < 8e6,
  )
  const name = path.slice(path.lastIndexOf('/') + 1)
  const files = [name, ...beside].map((each) => ({
    path: each,
    bytes: new Uint8Array(readFileSync(join(folder, each))),
  }))
  const began = performance.now()
  try {
    const { document } = await readItem(name, files)
    return { document, survey: surveyDocument(document), refusal: null, milliseconds: performance.now() - began }
  } catch (error) {
    if (!(error instanceof PlainError)) throw error
    return { document: null, survey: null, refusal: error.message, milliseconds: performance.now() - began }
  }
}

const PATIENCE_MILLISECONDS = 10_000

/** Counts with readers that are not ours, in a process that is ended when it hangs. */
export class OtherReaders {
  private child: ChildProcess | null = null

  async counts(path: string): Promise<number[]> {
    this.child ??= await this.start()
    const { child } = this
    return new Promise((resolve) => {
      const done = (counts: number[]): void => {
        clearTimeout(timer)
        child.removeAllListeners()
        resolve(counts)
      }
      const giveUp = (): void => {
        child.kill('SIGKILL')
        this.child = null
        done([])
      }
      const timer = setTimeout(giveUp, PATIENCE_MILLISECONDS)
      child.once('message', (counts) => done(counts as number[]))
      child.once('exit', giveUp)
      child.send(join(CORPUS, path))
    })
  }

  end(): void {
    this.child?.kill()
  }

  private start(): Promise<ChildProcess> {
    const child = fork(new URL('./other-reader.mjs', import.meta.url), { stdio: ['ignore', 'ignore', 'ignore', 'ipc'] })
    return new Promise((resolve) => child.once('message', () => resolve(child)))
  }
}

/** Whether a count is confirmed: by another reader, or by the reason why all of them are wrong. */
export function isConfirmed(path: string, triangles: number, others: readonly number[]): boolean {
  return others.includes(triangles) || knownCounts[path]?.triangles === triangles
}

export const whyOthersDiffer = (path: string): string | null => knownCounts[path]?.why ?? null
