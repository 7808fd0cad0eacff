#!/usr/bin/env node
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { isMainThread } from 'node:worker_threads'
import { compiledCommandLine } from './compiled.mjs'
import { loadCompiled } from './load-compiled.mjs'

const words = process.argv.slice(2)
const { entry, end } = await load(isMainThread ? (words[0] ?? '') : 'item-worker')
// A call of many items begins this file again in its workers.
if (isMainThread) {
  process.exitCode = await entry.main(words)
  end()
} else {
  await entry.work()
  end()
}

/**
 * The command line: compiled; as its sources are where nothing can be written beside them.
 * @param {string} call what it is loaded for
 */
async function load(call) {
  let folder
  try {
    folder = await compiledCommandLine(fileURLToPath(new URL('..', import.meta.url)))
  } catch {
    const { register } = await import('tsx/esm/api')
    register()
    return { entry: await import('./entry.ts'), end: () => undefined }
  }
  const loaded = loadCompiled(folder, call)
  loaded.entry.takeValidated(join(folder, 'rulebooks'))
  return loaded
}
