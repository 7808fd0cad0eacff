import { addCrate, listCrates } from '../storage/crates'
import { markDemoShelved, wasDemoShelved } from '../storage/settings'
import { openCrateFile } from '../workers/clients'

/** Puts the demo crate on the shelf the first time this browser sees it. Without it the shelf works all the same. */
export async function shelveDemo(path: string): Promise<void> {
  if (await wasDemoShelved()) return
  const response = await fetch(path)
  if (!response.ok) return
  const crate = await openCrateFile(new Uint8Array(await response.arrayBuffer()), 'the demo crate')
  if (!(await listCrates()).some((kept) => kept.crate.id === crate.id)) await addCrate(crate)
  await markDemoShelved()
}
