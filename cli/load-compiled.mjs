import { createRequire } from 'node:module'
import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { Script } from 'node:vm'

/**
 * Runs the compiled command line, with the engine's own code of it kept beside it: turning some megabytes of JavaScript
 * into that takes longer than many a call. What is kept is of the functions that one command uses, so that there is one
 * for each.
 * @param {string} folder from `compiledCommandLine`
 * @param {string} call name of the command, or whatever it is loaded for
 * @returns what it exports, and what is to be called once the call has ended
 */
export function loadCompiled(folder, call) {
  const path = join(folder, 'command-line.cjs')
  const kept = join(folder, `${/^[a-z-]{1,40}$/.test(call) ? call : 'other'}.code`)
  // It is written in plain letters alone, which are read ten times as fast so.
  const script = new Script(readFileSync(path, 'latin1'), {
    filename: path,
    cachedData: existsSync(kept) ? readFileSync(kept) : undefined,
  })
  const module = { exports: {} }
  script.runInThisContext()(module.exports, createRequire(path), module, (name) => import(name))
  const end = () => {
    // Another engine's code is of no use.
    if (existsSync(kept) && script.cachedDataRejected === false) return
    const unfinished = `${kept}.${process.pid}.${performance.now()}`
    try {
      writeFileSync(unfinished, script.createCachedData())
      renameSync(unfinished, kept)
    } catch {
      // The next call is as slow as this one was.
      rmSync(unfinished, { force: true })
    }
  }
  return { entry: module.exports, end }
}
