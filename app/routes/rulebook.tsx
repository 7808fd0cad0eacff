import { data, redirect, useLoaderData } from 'react-router'
import type { Route } from './+types/rulebook'
import { builtInRulebooks } from '../../core/game/load'
import { RulebookPage } from '../rulebooks/rulebook-page'
import { getRulebook } from '../storage/rulebooks'

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  const builtIn = builtInRulebooks().find((each) => each.id === params.rulebookId)
  if (builtIn) return { rulebook: builtIn, ownKey: null }
  const own = await getRulebook(params.rulebookId)
  if (!own) throw data('no such rulebook', { status: 404 })
  if (!own.rulebook) throw redirect(`/rulebooks/${own.key}/edit`)
  return { rulebook: own.rulebook, ownKey: own.key }
}

export default function RulebookRoute() {
  const { rulebook, ownKey } = useLoaderData<typeof clientLoader>()
  return <RulebookPage rulebook={rulebook} ownKey={ownKey} />
}
