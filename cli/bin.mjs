#!/usr/bin/env node
import { fileURLToPath, pathToFileURL } from 'node:url'
import { compiledCommandLine } from './compiled.mjs'

const run = await load()
process.exitCode = await run(process.argv.slice(2))

/** The compiled sources; the sources as they are where nothing can be written beside them. */
async function load() {
  let folder
  try {
    folder = pathToFileURL(`${await compiledCommandLine(fileURLToPath(new URL('..', import.meta.url)))}/`)
  } catch {
    const { register } = await import('tsx/esm/api')
    register()
  }
  await import(folder ? new URL('node-assets.mjs', folder).href : './node-assets.ts')
  const { main } = await import(folder ? new URL('main.mjs', folder).href : './main.ts')
  return main
}
