import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { basename, dirname, extname, join, relative } from 'node:path'
import '../cli/node-assets.ts'
import { judgeMotion, writtenByAssimp } from '../core/test-support/faithful/judge-motion.ts'

/**
 * Brings in what moves or bends of Debian's `assimp-testmodels`, as it is where we read it and as another library
 * writes it, and compares source and packed bytes at ten times: `npm run faithful:motion` writes
 * docs/faithful-motion.md.
 */
const CORPUS = '/usr/share/assimp/models'
const MOST_BYTES = 6e6
/** What is larger takes minutes a file, at ten times each. */
const MOST_GLB_BYTES = 8e5
const readByOthers = /\.(glb|gltf|dae|fbx|x|smd|md5mesh|b3d|ms3d|iqm)$/i
const ours = /\.(glb|gltf)$/i

const walk = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? walk(join(folder, entry.name)) : [join(folder, entry.name)],
  )
const moves = (glb: Uint8Array): boolean => {
  const length = new DataView(glb.buffer, glb.byteOffset).getUint32(12, true)
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length))) as {
    animations?: unknown[]
    skins?: unknown[]
    meshes?: unknown[]
  }
  return (json.meshes?.length ?? 0) > 0 && (json.animations?.length ?? 0) + (json.skins?.length ?? 0) > 0
}

const rows: string[] = []
const count = { right: 0, told: 0, differ: 0, notTaken: 0 }
async function judge(name: string, files: ReadonlyMap<string, Uint8Array>, main: string): Promise<void> {
  const began = performance.now()
  try {
    const { clips, bones, apart, stated, said, loads, validatorErrors } = await judgeMotion(files, main)
    if (clips + bones === 0) return
    const sound = loads && validatorErrors.length === 0
    const right = sound && apart <= 0.005 + stated
    const told = sound && !right && said !== ''
    count[right ? 'right' : told ? 'told' : 'differ']++
    rows.push(
      `| ${name} | ${right ? 'right' : told ? `told: ${said}` : 'differs'} | ${clips} | ${bones} | ` +
        `${(apart * 100).toFixed(2)} | ${(stated * 100).toFixed(2)} | ${loads ? 'yes' : 'no'} | ` +
        `${[...new Set(validatorErrors)].join(', ') || 'none'} |`,
    )
  } catch (error) {
    count.notTaken++
    rows.push(
      `| ${name} | not taken | | | | | | ${error instanceof Error ? error.message.split('\n')[0].slice(0, 100) : ''} |`,
    )
  }
  process.stderr.write(`${((performance.now() - began) / 1000).toFixed(0)} s: ${rows.at(-1)}\n`)
}

const folders = [CORPUS, ...process.argv.slice(2)].filter((folder) => existsSync(folder))
for (const path of folders.flatMap((folder) => walk(folder).sort())) {
  if (!readByOthers.test(path) || /invalid|\/glTF\//.test(path) || statSync(path).size > MOST_BYTES) continue
  const beside = readdirSync(dirname(path))
    .map((file) => join(dirname(path), file))
    .filter((file) => statSync(file).isFile() && statSync(file).size < MOST_BYTES)
  const files = new Map(beside.map((file) => [basename(file), new Uint8Array(readFileSync(file))]))
  const name = path.startsWith(CORPUS) ? relative(CORPUS, path) : path.split('/').slice(-2).join('/')
  if (ours.test(path)) {
    if (!/"(skins|animations)"/.test(new TextDecoder('latin1').decode(files.get(basename(path))))) continue
    await judge(name, files, basename(path))
  }
  const alone = new Map([...files].filter(([file]) => file === basename(path) || /\.(bin|md5anim)$/i.test(file)))
  const written = await writtenByAssimp(alone, basename(path)).catch(() => null)
  if (!written || written.length > MOST_GLB_BYTES || !moves(written)) continue
  const glb = `${basename(path, extname(path))}.glb`
  await judge(`${name}, as GLB by assimp`, new Map([[glb, written]]), glb)
}

writeFileSync(
  new URL('./faithful-motion.md', import.meta.url),
  `# What moves comes out as it came in

Written by \`npm run faithful:motion\`. Files of Debian's \`assimp-testmodels\` that move or bend: glTF as it is, all that another library reads (assimp) as the GLB that it writes. Each is
prepared and packed for a game that takes motion and bones in one thing, at up to 240 keys a second and four bones at a corner. Source and packed bytes are read and skinned by the drawing library; surfaces are compared at 600 places at ten times of the first clip, or at rest where there is none.

${rows.length} files: ${count.right} right, ${count.told} differ and their report says by what, ${count.differ} differ, ${count.notTaken} were not taken. Right: within 0.5 % of the longest side and what a step states, loaded, no error of the glTF validator.

| file | verdict | clips | bones | furthest apart, % | stated, % | loads | validator errors |
|---|---|---|---|---|---|---|---|
${rows.join('\n')}
`,
)
process.stdout.write(`${rows.length} files: ${JSON.stringify(count)}\n`)
