import { z } from 'zod'
import { addCrate, isTaken } from '../storage/crates'
import { markDemoShelved, wasDemoShelved } from '../storage/settings'
import { tellError } from '../ui/notify'
import { openCrateFile } from '../workers/clients'

/** What lies beside the application where the demo was made: the names of its crate files. */
const demosSchema = z.array(z.string().regex(/^[a-z0-9-]+\.zip$/))

async function fetched(path: string): Promise<Response | null> {
  const response = await fetch(path).catch(() => null)
  return response?.ok === true ? response : null
}

/**
 * Puts the demo crates on the shelf the first time this browser sees them. Without them, or
 * without room for them, the shelf works all the same.
 */
export function shelveDemos(): Promise<void> {
  shelving ??= shelve()
    .catch(tellError)
    .finally(() => {
      shelving = null
    })
  return shelving
}

/** Loaders that run beside each other wait for the same. */
let shelving: Promise<void> | null = null

async function shelve(): Promise<void> {
  if (await wasDemoShelved()) return
  const demos = demosSchema.safeParse(await (await fetched('/demo/index.json'))?.json().catch(() => null))
  if (!demos.success) return
  for (const name of demos.data) {
    const response = await fetched(`/demo/${name}`)
    if (!response) return
    const opened = await openCrateFile(new Uint8Array(await response.arrayBuffer()), 'the demo crate')
    if ('crate' in opened && !(await isTaken(opened.crate.id))) await addCrate(opened.crate)
  }
  await markDemoShelved()
}
