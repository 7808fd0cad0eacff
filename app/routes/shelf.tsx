import { existsSync } from 'node:fs'
import { redirect, useLoaderData } from 'react-router'
import type { Route } from './+types/shelf'
import { newCrate } from '../../core/crate/schema'
import { orTell } from '../crate/keeping'
import { useOtherTabs } from '../crate/use-other-tabs'
import { addCrate, listCrates, removeCrate, replaceCrate, type KeptCrate } from '../storage/crates'
import { dropForgottenSources } from '../storage/unused-sources'
import { shelfIntentSchema } from '../shelf/intents'
import { shelveDemos } from '../shelf/shelve-demo'
import { Shelf } from '../shelf/shelf'

const DEMO_PATHS = ['/demo/otterby-landing.zip', '/demo/otterby-outfit.zip', '/demo/otterby-arrivals.zip']

/** The server only knows which demo crates ship beside the application. */
export function loader() {
  return {
    demos: DEMO_PATHS.filter((path) => ['build/client', 'public'].some((folder) => existsSync(`${folder}${path}`))),
  }
}

export async function clientLoader({ serverLoader }: Route.ClientLoaderArgs): Promise<{ crates: KeptCrate[] }> {
  const { demos } = await serverLoader()
  if (demos.length > 0) await shelveDemos(demos)
  void dropForgottenSources()
  return { crates: await listCrates() }
}
clientLoader.hydrate = true as const

export async function clientAction({ request }: Route.ClientActionArgs) {
  const intent = shelfIntentSchema.parse(await request.json())
  return orTell('the shelf', async () => {
    switch (intent.intent) {
      case 'new': {
        const taken = (await listCrates()).map(({ crate }) => crate.id)
        return redirect(`/crate/${await addCrate(newCrate(intent.name, intent.game, taken))}`)
      }
      case 'remove':
        await removeCrate(intent.crate)
        return null
      case 'add':
        return redirect(
          `/crate/${intent.replaces ? (await replaceCrate(intent.crate)).crate.id : await addCrate(intent.crate)}`,
        )
    }
  })
}

export function HydrateFallback() {
  return <p className="p-6 text-ink-2">Opening the shelf…</p>
}

export default function ShelfRoute() {
  const { crates } = useLoaderData<typeof clientLoader>()
  useOtherTabs(null)
  return <Shelf crates={crates} />
}
