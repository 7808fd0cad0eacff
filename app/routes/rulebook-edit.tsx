import { data, useLoaderData } from 'react-router'
import type { Route } from './+types/rulebook-edit'
import { EditorScreen } from '../rulebooks/editor/editor-screen'
import { listShelf } from '../storage/crates'
import { getRulebook } from '../storage/rulebooks'

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  const [own, { crates }] = await Promise.all([getRulebook(params.rulebookId), listShelf()])
  if (!own) throw data('no such rulebook', { status: 404 })
  return { own, crates: crates.map(({ crate }) => crate) }
}

export default function RulebookEditRoute() {
  const { own, crates } = useLoaderData<typeof clientLoader>()
  return <EditorScreen key={own.key} own={own} crates={crates} />
}
