import { existsSync } from 'node:fs'
import { useLoaderData } from 'react-router'
import type { Route } from './+types/shelf'
import { newCrate } from '../../core/crate/schema'
import { rulebookById } from '../../core/rulebook/load'
import { addCrate, listCrates, removeCrate, type KeptCrate } from '../storage/crates'
import { shelfIntentSchema } from '../shelf/intents'
import { shelveDemo } from '../shelf/shelve-demo'
import { Shelf } from '../shelf/shelf'

const DEMO_PATH = '/demo/otterby-landing.zip'

/** The server only knows whether a demo crate ships beside the application. */
export function loader() {
  const ships = ['build/client', 'public'].some((folder) => existsSync(`${folder}${DEMO_PATH}`))
  return { demo: ships ? DEMO_PATH : null }
}

export async function clientLoader({ serverLoader }: Route.ClientLoaderArgs): Promise<{ crates: KeptCrate[] }> {
  const { demo } = await serverLoader()
  if (demo) await shelveDemo(demo)
  return { crates: await listCrates() }
}
clientLoader.hydrate = true as const

export async function clientAction({ request }: Route.ClientActionArgs) {
  const intent = shelfIntentSchema.parse(await request.json())
  switch (intent.intent) {
    case 'new': {
      const taken = (await listCrates()).map(({ crate }) => crate.id)
      const crate = newCrate(intent.name, rulebookById(intent.rulebook), taken)
      await addCrate(crate)
      return { opened: crate.id }
    }
    case 'remove':
      await removeCrate(intent.crate)
      return { opened: null }
    case 'add':
      await addCrate(intent.crate)
      return { opened: intent.crate.id }
  }
}

export function HydrateFallback() {
  return <p className="p-6 text-ink-2">Opening the shelf…</p>
}

export default function ShelfRoute() {
  const { crates } = useLoaderData<typeof clientLoader>()
  return <Shelf crates={crates} />
}
