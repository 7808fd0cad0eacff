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

export async function clientLoader(): Promise<{ shelf: Shelved; usage: Usage }> {
  await shelveDemos()
  void dropForgottenSources()
  const [shelf, used] = await Promise.all([listShelf(), usage()])
  return { shelf, usage: used }
}

export async function clientAction({ request }: Route.ClientActionArgs) {
  const intent = shelfIntentSchema.parse(await request.json())
  return orTell('the shelf', () => act(intent))
}

async function act(intent: ShelfIntent): Promise<Response | null> {
  switch (intent.intent) {
    case 'new':
      void askForLasting()
      return redirect(`/crate/${await addCrate(newCrate(intent.name, intent.game, []))}`)
    case 'begin': {
      void askForLasting()
      const id = await addCrate(intent.crate)
      const [only, another] = intent.crate.items
      return redirect(
        another ? `/crate/${id}` : `/crate/${id}/item/${only.id}?stage=check&desk=prepared&begin=preparing`,
      )
    }
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

export default function ShelfRoute() {
  const { shelf, usage: used } = useLoaderData<typeof clientLoader>()
  useOtherTabs(null)
  return <Shelf shelf={shelf} usage={used} />
}
