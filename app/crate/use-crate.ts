import { useFetcher, useRouteLoaderData } from 'react-router'
import type { Command } from '../../core/crate/commands'
import { PlainError } from '../../core/support/plain-error'
import { rulebookById } from '../../core/game/load'
import type { Rulebook } from '../../core/game/schema'
import type { KeptCrate } from '../storage/crates'
import type { CrateIntent } from './intents'

/** The crate of this address, its rulebook, and a way to change it. */
export function useCrate(): KeptCrate & {
  rulebook: Rulebook
  send: (command: Command) => Promise<void>
  undo: () => Promise<void>
  redo: () => Promise<void>
} {
  const kept = useRouteLoaderData<KeptCrate>('routes/crate')
  const fetcher = useFetcher()
  if (!kept) throw new PlainError('there is no crate here', 'this page', 'Go back to the shelf.')
  const submit = (intent: CrateIntent): Promise<void> =>
    fetcher.submit(JSON.stringify(intent), {
      method: 'post',
      action: `/crate/${kept.crate.id}`,
      encType: 'application/json',
    })
  return {
    ...kept,
    rulebook: rulebookById(kept.crate.rulebook.id),
    send: (command) => submit({ intent: 'command', command }),
    undo: () => submit({ intent: 'undo' }),
    redo: () => submit({ intent: 'redo' }),
  }
}
