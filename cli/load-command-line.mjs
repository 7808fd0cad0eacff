import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { compiledCommandLine } from './compiled.mjs'
import { loadCompiled } from './load-compiled.mjs'

/**
 * The command line: compiled; as its sources are where nothing can be written beside them.
 * @param {string} call what it is loaded for
 */
export async function loadCommandLine(call) {
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
