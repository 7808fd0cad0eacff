import { Outlet } from 'react-router'
import type { Route } from './+types/crate'
import { loadPanelSizes } from '../crate/panels'
import { CrateKeys } from '../search/crate-keys'
import { CrateBar } from '../crate/crate-bar'
import { useOtherTabs } from '../crate/use-other-tabs'
import { orTell } from '../crate/keeping'
import { crateIntentSchema } from '../crate/intents'
import { shelveDemos } from '../shelf/shelve-demo'
import { listAsides } from '../storage/asides'
import { commandCrate, getCrate, redoCrate, undoCrate } from '../storage/crates'

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  // An address of the demo may be the first that a browser opens.
  await Promise.all([shelveDemos(), loadPanelSizes()])
  const kept = await getCrate(params.crateId)
  // Opening it has set aside what of it cannot be read.
  return { ...kept, asides: await listAsides(params.crateId) }
}

export async function clientAction({ request, params }: Route.ClientActionArgs) {
  const intent = crateIntentSchema.parse(await request.json())
  return orTell(intent.ticket, () => {
    if (intent.intent === 'undo') return undoCrate(params.crateId)
    if (intent.intent === 'redo') return redoCrate(params.crateId)
    return commandCrate(params.crateId, intent.command)
  })
}

export default function CrateRoute({ params }: Route.ComponentProps) {
  useOtherTabs(params.crateId)
  return (
    <div className="flex h-screen min-h-[600px] flex-col">
      <CrateBar keys={<CrateKeys />} />
      <Outlet />
    </div>
  )
}
