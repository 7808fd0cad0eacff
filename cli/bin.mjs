#!/usr/bin/env node
import { fileURLToPath, pathToFileURL } from 'node:url'
import { isMainThread } from 'node:worker_threads'
import { compiledCommandLine } from './compiled.mjs'

// A call of many items begins this file again in its workers.
if (isMainThread) {
  const { main } = await load('main')
  process.exitCode = await main(process.argv.slice(2))
} else await load('item-worker')

/**
 * A module of the command line: compiled; as its source is where nothing can be written beside the sources.
 * @param {'main' | 'item-worker'} name
 */
async function load(name) {
  let folder
  try {
    folder = pathToFileURL(`${await compiledCommandLine(fileURLToPath(new URL('..', import.meta.url)))}/`)
  } catch {
    const { register } = await import('tsx/esm/api')
    register()
  }
  await import(folder ? new URL('node-assets.mjs', folder).href : './node-assets.ts')
  return import(folder ? new URL(`${name}.mjs`, folder).href : `./${name}.ts`)
}
