import { useFetcher, useRouteLoaderData } from 'react-router'
import type { Command } from '../../core/crate/commands'
import type { Crate } from '../../core/crate/schema'
import { PlainError } from '../../core/support/plain-error'
import type { Game } from '../../core/game/game'
import type { Rulebook } from '../../core/game/schema'
import type { KeptCrate } from '../storage/crates'
import type { CrateIntent } from './intents'
import { whileKeeping } from './keeping'

/** The crate of this address, its rulebook, and a way to change it. */
export function useCrate(): KeptCrate & {
  rulebook: Rulebook
  /** The rulebook with where its stock is kept: what workers are given. */
  game: Game
  send: (command: Command) => Promise<void>
  undo: () => Promise<void>
  redo: () => Promise<void>
} {
  const kept = useRouteLoaderData<KeptCrate>('routes/crate')
  const fetcher = useFetcher()
  if (!kept) throw new PlainError('there is no crate here', 'this page', 'Go back to the shelf.')
  const submit = (intent: CrateIntent): Promise<void> =>
    whileKeeping(
      fetcher.submit(JSON.stringify(intent), {
        method: 'post',
        action: `/crate/${kept.crate.id}`,
        encType: 'application/json',
      }),
    )
  return {
    ...kept,
    rulebook: kept.crate.rulebook,
    game: gameOf(kept.crate),
    send: (command) => submit({ intent: 'command', command }),
    undo: () => submit({ intent: 'undo' }),
    redo: () => submit({ intent: 'redo' }),
  }
}

const games = new WeakMap<Crate, Game>()

/** The same value for the same crate, so that it can be compared. */
function gameOf(crate: Crate): Game {
  const known = games.get(crate) ?? { rulebook: crate.rulebook, stock: crate.stock }
  games.set(crate, known)
  return known
}
