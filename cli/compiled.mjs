import { createHash, randomUUID } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'

/**
 * How long what an earlier state of the sources was compiled to is kept: a call that still runs may load more of it.
 */
const KEPT_MILLISECONDS = 24 * 60 * 60 * 1000

/**
 * The command line as plain JavaScript: compiled when a source has changed since, taken as it stands otherwise, so that
 * a checkout needs no build step and a call does not begin by translating hundreds of files.
 * @param {string} root folder of the checkout
 * @returns {Promise<string>} folder with `main.mjs`, `item-worker.mjs` and `node-assets.mjs`
 * @throws where nothing can be written beside the sources
 */
export async function compiledCommandLine(root) {
  const home = join(root, '.cache', 'cli')
  const folder = join(home, stateOf(root))
  if (existsSync(folder)) return folder
  mkdirSync(home, { recursive: true })
  const { build } = await import('esbuild')
  // Two calls may compile at once, even of one process.
  const unfinished = `${folder}.${randomUUID()}`
  await build({
    entryPoints: ['main', 'item-worker', 'node-assets'].map((name) => join(root, `cli/${name}.ts`)),
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    // Some packages are modules for bundlers alone; what they are otherwise cannot be taken in.
    mainFields: ['module', 'main'],
    target: 'node20',
    outdir: unfinished,
    outExtension: { '.js': '.mjs' },
    // What stands beside a source is found from where that source was, not from where it was compiled to.
    define: { 'import.meta.url': JSON.stringify(pathToFileURL(join(root, 'cli/main.ts')).href) },
    // Packages of plain JavaScript are taken in, so that a call reads few files; those with code or data of their own
    // stay where they are.
    plugins: [{ name: 'packages', setup: leaveOutside }],
    logLevel: 'error',
  })
  try {
    renameSync(unfinished, folder)
  } catch (error) {
    rmSync(unfinished, { recursive: true, force: true })
    // Another call was faster.
    if (!existsSync(folder)) throw error
  }
  for (const entry of readdirSync(home))
    if (Date.now() - statSync(join(home, entry)).mtimeMs > KEPT_MILLISECONDS)
      rmSync(join(home, entry), { recursive: true, force: true })
  return folder
}

/**
 * Packages of plain JavaScript, without files of their own beside them. Those that know each other's classes go together:
 * two copies of a class are two classes.
 */
const takenIn =
  /^(?:zod|fflate|re2js|saxes|xmlchars|jsonc-parser|earcut|property-graph|ktx-parse|three-mesh-bvh|three|fzstd|quickhull3d|@noble|@gltf-transform)(?:\/|$)/

/** @param {import('esbuild').PluginBuild} build */
function leaveOutside(build) {
  build.onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
    kind === 'entry-point' || takenIn.test(path) ? undefined : { path, external: true },
  )
}

/** A name for the sources as they are now: it changes when one is written, added or taken away. */
function stateOf(root) {
  const state = createHash('sha256')
  const note = (path) => {
    const { mtimeMs, size } = statSync(path)
    state.update(`${path} ${mtimeMs} ${size}\n`)
  }
  for (const folder of ['cli', 'core'])
    for (const file of readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' }).sort())
      if (/\.(ts|mjs|json)$/.test(file) && !/\.test\.ts$/.test(file)) note(join(root, folder, file))
  note(join(root, 'package-lock.json'))
  return state.digest('hex').slice(0, 16)
}
