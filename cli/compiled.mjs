import { existsSync, mkdirSync, readFileSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { loadCompiled } from './load-compiled.mjs'

/**
 * How long what an earlier state of the sources was compiled to is kept: a call that still runs may load more of it.
 */
const KEPT_MILLISECONDS = 24 * 60 * 60 * 1000

/**
 * The command line as plain JavaScript: compiled when a source has changed since, taken as it stands otherwise, so that
 * a checkout needs no build step and a call does not begin by translating hundreds of files.
 * @param {string} root folder of the checkout
 * @returns {Promise<string>} folder for `loadCompiled`, with `rulebooks`, those that are built in, once validated
 * @throws where nothing can be written beside the sources
 */
export async function compiledCommandLine(root) {
  const home = join(root, '.cache', 'cli')
  const state = stateOf(root)
  const known = folderFor(home, state)
  if (known !== null) return known
  mkdirSync(home, { recursive: true })
  const { createHash, randomUUID } = await import('node:crypto')
  const { build } = await import('esbuild')
  const folder = join(home, createHash('sha256').update(state).digest('hex').slice(0, 16))
  // Two calls may compile at once, even of one process.
  const unfinished = `${folder}.${randomUUID()}`
  /** Packages that are imported in the midst of a call. */
  const asked = new Set()
  await build({
    entryPoints: [join(root, 'cli/entry.ts')],
    bundle: true,
    // What is imported in the midst of a call begins there: nothing else of the one file is run.
    format: 'cjs',
    platform: 'node',
    charset: 'ascii',
    minifyWhitespace: true,
    minifySyntax: true,
    // Some packages are modules for bundlers alone; what they are otherwise cannot be taken in.
    mainFields: ['module', 'main'],
    target: 'node20',
    outfile: join(unfinished, 'command-line.cjs'),
    // What stands beside a source is found from where that source was, not from where it was compiled to.
    define: { 'import.meta.url': JSON.stringify(pathToFileURL(join(root, 'cli/entry.ts')).href) },
    // Packages of plain JavaScript are taken in, so that a call reads few files; those with code or data of their own
    // stay where they are.
    plugins: [{ name: 'packages', setup: choosePackages(asked) }],
    logLevel: 'error',
  })
  askLoader(join(unfinished, 'command-line.cjs'), asked)
  await keepRulebooks(unfinished)
  writeFileSync(join(unfinished, STATE), state)
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
 * Packages of plain JavaScript, without files of their own beside them. Those that know each other's classes go
 * together: two copies of a class are two classes.
 */
const takenIn =
  /^(?:zod|fflate|re2js|saxes|xmlchars|jsonc-parser|earcut|property-graph|ktx-parse|three-mesh-bvh|three|fzstd|quickhull3d|@noble|@gltf-transform|fast-png|iobuffer|jpeg-js|meshoptimizer|@jsquash)(?:\/|$)/

/**
 * Makes one function of what was compiled. Code that an engine has kept does not know how to import: whoever runs it
 * does that.
 * @param {string} path of what was compiled
 * @param {ReadonlySet<string>} asked names of the packages that it imports
 */
function askLoader(path, asked) {
  const text = readFileSync(path, 'latin1').replace(/\bimport\("([^"]+)"\)/g, (written, name) =>
    asked.has(name) ? `importPackage("${name}")` : written,
  )
  writeFileSync(path, `(function (exports, require, module, importPackage) {${text}\n})`, 'latin1')
}

/** @returns {(build: import('esbuild').PluginBuild) => void} */
const choosePackages = (asked) => (build) => {
  // It loads a library of pictures of many megabytes, and is asked for by what we never use of another package.
  build.onResolve({ filter: /^ndarray-pixels$/, namespace: 'file' }, ({ path }) => ({ path, namespace: 'when-asked' }))
  // Those that are used for nothing are not loaded for what they might do by being loaded.
  build.onResolve({ filter: /^[^./]/ }, ({ path, kind }) => {
    if (kind === 'entry-point' || takenIn.test(path)) return undefined
    if (kind === 'dynamic-import') asked.add(path)
    return { path, external: true, sideEffects: false }
  })
  build.onLoad({ filter: /./, namespace: 'when-asked' }, ({ path }) => ({
    contents: ['getPixels', 'savePixels']
      .map((name) => `export const ${name} = async (...all) => (await import('${path}')).${name}(...all)`)
      .join('\n'),
  }))
}

/** Keeps the built-in rulebooks beside what was compiled as they are once they are validated. */
async function keepRulebooks(folder) {
  const { entry } = loadCompiled(folder, 'other')
  mkdirSync(join(folder, 'rulebooks'))
  for (const rulebook of await entry.validateBuiltIns())
    writeFileSync(join(folder, 'rulebooks', `${rulebook.id}.json`), JSON.stringify(rulebook))
}

/** The sources that something was compiled of. */
const STATE = 'state.txt'

/**
 * Where the sources as they are now lie compiled; null where they do not. The one that was made last is asked first.
 */
function folderFor(home, state) {
  if (!existsSync(home)) return null
  // Those that are still being made have longer names.
  const folders = readdirSync(home)
    .filter((name) => /^[0-9a-f]{16}$/.test(name))
    .map((name) => join(home, name, STATE))
    .filter((path) => existsSync(path))
    .sort((a, b) => statSync(b).mtimeMs - statSync(a).mtimeMs)
  const own = folders.find((path) => readFileSync(path, 'utf8') === state)
  return own ? dirname(own) : null
}

/** What tells the sources as they are now: it changes when one is written, added or taken away. */
function stateOf(root) {
  const lines = []
  const note = (path) => {
    const { mtimeMs, size } = statSync(path)
    lines.push(`${path} ${mtimeMs} ${size}`)
  }
  // Nearly a thousand files are looked at in each call: paths are put together by hand.
  const noteAll = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      const { name } = entry
      if (entry.isDirectory()) noteAll(`${folder}/${name}`)
      else if (/\.(ts|mjs|json)$/.test(name) && !name.endsWith('.test.ts')) note(`${folder}/${name}`)
    }
  }
  noteAll(join(root, 'cli'))
  noteAll(join(root, 'core'))
  note(join(root, 'package-lock.json'))
  return lines.join('\n')
}
