import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Rulebook } from '../core/game/schema.ts'
import { provideValidated } from '../core/game/validated.ts'
import './node-assets.ts'

export { main } from './main.ts'

/** Begins the other end of `itemWorkers` in this thread. */
export async function work(): Promise<void> {
  await import('./item-worker.ts')
}

/** The built-in rulebooks as they are once they are validated: what compiling keeps beside the code. */
export async function validateBuiltIns(): Promise<readonly Rulebook[]> {
  const { builtInRulebooks } = await import('../core/game/load.ts')
  return builtInRulebooks()
}

/** Takes built-in rulebooks as `validateBuiltIns` gave them, from a folder with one file each. */
export function takeValidated(folder: string): void {
  provideValidated((id) => JSON.parse(readFileSync(join(folder, `${id}.json`), 'utf8')) as Rulebook)
}
