import { existsSync } from 'node:fs'
import { redirect, useLoaderData } from 'react-router'
import type { Route } from './+types/shelf'
import { newCrate } from '../../core/crate/schema'
import { orTell } from '../crate/keeping'
import { useOtherTabs } from '../crate/use-other-tabs'
import {
  addCrate,
  bringBack,
  eraseCrate,
  giveGame,
  listShelf,
  removeCrate,
  replaceCrate,
  type Shelved,
} from '../storage/crates'
import { dropResults } from '../storage/room'
import { askForLasting, usage, type Usage } from '../storage/usage'
import { dropForgottenSources } from '../storage/unused-sources'
import { shelfIntentSchema, type ShelfIntent } from '../shelf/intents'
import { shelveDemos } from '../shelf/shelve-demo'
import { Shelf } from '../shelf/shelf'

const DEMO_PATHS = ['/demo/otterby-landing.zip', '/demo/otterby-outfit.zip', '/demo/otterby-arrivals.zip']

/** The server only knows which demo crates ship beside the application. */
export function loader() {
  return {
    demos: DEMO_PATHS.filter((path) => ['build/client', 'public'].some((folder) => existsSync(`${folder}${path}`))),
  }
}

export async function clientLoader({
  serverLoader,
}: Route.ClientLoaderArgs): Promise<{ shelf: Shelved; usage: Usage }> {
  const { demos } = await serverLoader()
  if (demos.length > 0) await shelveDemos(demos)
  void dropForgottenSources()
  const [shelf, used] = await Promise.all([listShelf(), usage()])
  return { shelf, usage: used }
}
clientLoader.hydrate = true as const

export async function clientAction({ request }: Route.ClientActionArgs) {
  const intent = shelfIntentSchema.parse(await request.json())
  return orTell('the shelf', () => act(intent))
}

async function act(intent: ShelfIntent): Promise<Response | null> {
  switch (intent.intent) {
    case 'new':
      void askForLasting()
      return redirect(`/crate/${await addCrate(newCrate(intent.name, intent.game, []))}`)
    case 'add':
      void askForLasting()
      return redirect(
        `/crate/${intent.replaces ? (await replaceCrate(intent.crate)).crate.id : await addCrate(intent.crate)}`,
      )
    case 'give-game':
      return redirect(`/crate/${(await giveGame(intent.crate, intent.game)).crate.id}`)
    case 'remove':
      await removeCrate(intent.crate)
      return null
    case 'bring-back':
      await bringBack(intent.crate)
      return null
    case 'erase':
      await eraseCrate(intent.crate)
      return null
    case 'clean':
      await dropResults()
      return null
  }
}

export function HydrateFallback() {
  return <p className="p-6 text-ink-2">Opening the shelf…</p>
}

export default function ShelfRoute() {
  const { shelf, usage: used } = useLoaderData<typeof clientLoader>()
  useOtherTabs(null)
  return <Shelf shelf={shelf} usage={used} />
}
