import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { basename, dirname, join, relative } from 'node:path'
import '../cli/node-assets.ts'
import { PlainError } from '../core/support/plain-error.ts'
import { judgeFile, type Judgement } from '../core/test-support/faithful/judge.ts'
import { traitFiles } from '../core/test-support/faithful/traits.ts'
import { verdictOf } from '../core/test-support/faithful/verdict.ts'

/**
 * Brings in files of other hands, prepares and packs each, compares the packed bytes with the source, and writes
 * docs/faithful.md. `npm run faithful` takes Debian's corpus; further folders are named after `--`: `npm run faithful
 * -- FOLDER…`.
 */
const CORPUS = '/usr/share/assimp/models'
/** Broken on purpose, points or lines only, or glTF 1: they are refused, or hold nothing to compare. */
const notMeshes =
  /invalid|\/glTF\/|BoxWithInfinites|IncorrectVertexArrays|IndexOutOfRange|MissingBin|RecursiveNodes|SchemaFailures|TestNoRootNode|wrongTypes|PrimitiveMode_(0[0-3]|0[7-9]|10)|point_cloud|testline|testpoints|points\.ply|pond\.0|issue623|cameras\.dae|lights\.dae|number_formats|transparentTest/
const isMesh = (path: string): boolean => /\.(glb|gltf|obj|dae|fbx|3ds|stl|ply)$/i.test(path)
const MOST_BYTES = 12e6

const walk = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? walk(join(folder, entry.name)) : [join(folder, entry.name)],
  )

/** Where the two differ and it was looked into which of them has it wrong. */
const looked: readonly [RegExp, string][] = [
  [
    /ConcavePolygon\.dae|concave_polygon\.obj|space_in_material_name\.obj/,
    'the other reader leaves 5 % of a polygon of 66 corners out; ours has the area of its outline (Newell), 0.2455',
  ],
  [/cubes_with_outofrange_float\.fbx/, 'a number of 75 digits, −0.4999…, is read as another by the other reader'],
  [
    /teapots\.DAE/,
    'it says that it is wholly clear, which several programs write for opaque; the other reader leaves it out ' +
      'of sight, ours shows it',
  ],
  [/box_longline\.obj/, 'one face runs round its four corners 237 times; the other reader keeps every turn, ours one'],
]

interface Row {
  file: string
  line: string
  state: 'right' | 'told' | 'looked into' | 'silent' | 'refused' | 'not compared'
}

const percent = (value: number | null | undefined): string =>
  value === null || value === undefined ? '' : (value * 100).toFixed(2)
const byte = (value: number | null | undefined): string =>
  value === null || value === undefined ? '' : value.toFixed(1)

function rowOf(file: string, judgement: Judgement): Row {
  const { difference: d, levels } = judgement
  const verdict = verdictOf(judgement)
  const reason = verdict.silent.length > 0 ? looked.find(([name]) => name.test(file))?.[1] : undefined
  const state =
    reason !== undefined
      ? 'looked into'
      : verdict.silent.length > 0
        ? 'silent'
        : d === null
          ? 'not compared'
          : verdict.told.length > 0
            ? 'told'
            : 'right'
  const worst = levels.map(({ name, apart, turned }) => `${name} ${percent(apart)} / ${percent(turned)}`).join(', ')
  const cells = [
    file,
    state,
    percent(d?.lost),
    percent(d?.added),
    percent(judgement.statedShift),
    percent(d?.volume),
    percent(d?.shading),
    byte(d?.colour),
    byte(d?.metalness),
    byte(d?.occlusion),
    byte(d?.glow),
    percent(judgement.motion),
    worst,
    judgement.loads ? 'yes' : 'no',
    [...verdict.silent, ...verdict.told, ...(reason === undefined ? [] : [reason])].join('; '),
  ]
  return { file, state, line: `| ${cells.join(' | ')} |` }
}

async function judge(file: string, files: ReadonlyMap<string, Uint8Array>, main: string): Promise<Row> {
  try {
    return rowOf(file, await judgeFile(main, files))
  } catch (error) {
    const why =
      error instanceof PlainError ? error.message : `stopped: ${error instanceof Error ? error.message : String(error)}`
    return {
      file,
      state: error instanceof PlainError ? 'refused' : 'silent',
      line:
        `| ${file} | ${error instanceof PlainError ? 'refused' : 'silent'} | | | | | | | | | | | | | ` +
        `${why.replaceAll('|', '/').slice(0, 160)} |`,
    }
  }
}

const rows: Row[] = []
for (const trait of traitFiles())
  rows.push(await judge(`trait: ${trait.name}`, trait.files, [...trait.files.keys()][0]))
for (const root of [CORPUS, ...process.argv.slice(2)].filter((folder) => existsSync(folder))) {
  for (const path of walk(root)
    .filter((each) => isMesh(each) && !notMeshes.test(each) && statSync(each).size < MOST_BYTES)
    .sort()) {
    const folder = dirname(path)
    const beside = readdirSync(folder).filter(
      (name) =>
        !isMesh(name) && statSync(join(folder, name)).isFile() && statSync(join(folder, name)).size < MOST_BYTES,
    )
    const files = new Map(
      [basename(path), ...beside].map((name) => [name, new Uint8Array(readFileSync(join(folder, name)))]),
    )
    rows.push(await judge(relative(root, path), files, basename(path)))
    process.stderr.write(`${rows.length} ${rows.at(-1)?.line ?? ''}\n`)
  }
}

const count = (state: Row['state']): number => rows.filter((row) => row.state === state).length
const text = `# What comes out is what came in

Written by \`npm run faithful\`. Every file is brought in, prepared as *Prepare for me* does, and packed. The source is read by readers that are not ours (the drawing
library's, assimp), the packed bytes by a reader of their own, pictures by Pillow; unit and axes are undone and the two are compared at 2,400 places. The files: small ones with one trait each, Debian's \`assimp-testmodels\`, and
the folders named in the call; last time the npm package \`@webxr-input-profiles/assets\`, unpacked.

${rows.length} files: ${count('right')} right, ${count('told')} differ and their report says so, ${count('looked into')} differ since the other reader has it wrong, ${count('silent')} differ in silence, ${count('not compared')} could not be read by another reader, ${count('refused')} refused.

Right: the surface within 0.1 % of the longest side plus the shift that a step states, the signed volume within 1 %, at most 2 % of the surface shaded by more than 15° otherwise
where the source has normals, colour, metal, occlusion and glow within 4 of 255, places while a clip runs within 0.5 %, no error of the glTF validator, and one word of check, of check on the
pack, and of the loader. Lengths and shares in %, the rest of 255; levels and shadow: furthest from the first level / facing the other way.

| file | verdict | lost | added | stated | volume | shading | colour | metal | occlusion | glow | motion | levels | loads | what differs |
|---|---|---|---|---|---|---|---|---|---|---|---|---|---|---|
${rows.map((row) => row.line).join('\n')}
`
writeFileSync(new URL('./faithful.md', import.meta.url), text)
console.log(
  `${rows.length} files: ${count('right')} right, ${count('told')} told, ${count('silent')} in silence, ` +
    `${count('not compared')} not compared, ${count('refused')} refused`,
)
process.exit(count('silent') > rows.length * 0.03 ? 1 : 0)
