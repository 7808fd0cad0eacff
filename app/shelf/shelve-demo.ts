import { addCrate, isTaken } from '../storage/crates'
import { markDemoShelved, wasDemoShelved } from '../storage/settings'
import { openCrateFile } from '../workers/clients'

/**
 * Puts the demo crates on the shelf the first time this browser sees them. Without them the shelf works all the same.
 */
export async function shelveDemos(paths: readonly string[]): Promise<void> {
  if (await wasDemoShelved()) return
  for (const path of paths) {
    const response = await fetch(path)
    if (!response.ok) return
    const opened = await openCrateFile(new Uint8Array(await response.arrayBuffer()), 'the demo crate')
    if ('crate' in opened && !(await isTaken(opened.crate.id))) await addCrate(opened.crate)
  }
  await markDemoShelved()
}
