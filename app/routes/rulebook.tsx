import { data, useLoaderData } from 'react-router'
import type { Route } from './+types/rulebook'
import { builtInRulebooks } from '../../core/game/load'
import { RulebookPage } from '../rulebooks/rulebook-page'

export function clientLoader({ params }: Route.ClientLoaderArgs) {
  const rulebook = builtInRulebooks().find((each) => each.id === params.rulebookId)
  if (!rulebook) throw data('no such rulebook', { status: 404 })
  return { rulebook }
}

export default function RulebookRoute() {
  const { rulebook } = useLoaderData<typeof clientLoader>()
  return <RulebookPage rulebook={rulebook} />
}
