import { useFetcher, useRouteLoaderData } from 'react-router'
import type { Command } from '../../core/crate/commands'
import { PlainError } from '../../core/support/plain-error'
import type { Game } from '../../core/game/game'
import type { Rulebook } from '../../core/game/schema'
import type { Aside } from '../storage/asides'
import type { KeptCrate } from '../storage/stored-crate'
import type { CrateIntent } from './intents'
import { gameOf } from './game-of'
import { wasKept, whileKeeping } from './keeping'

/** What the address of a crate loads. */
export interface OpenedCrate extends KeptCrate {
  /** Pieces of it that could not be read. */
  asides: Aside[]
}

let lastTicket = 0

/** The crate of this address, its rulebook, and a way to change it. */
export function useCrate(): OpenedCrate & {
  rulebook: Rulebook
  /** The rulebook with where its stock is kept: what workers are given. */
  game: Game
  /** Tells whether the change was kept; why not was said to the modder. */
  send: (command: Command) => Promise<boolean>
  undo: () => Promise<boolean>
  redo: () => Promise<boolean>
} {
  const kept = useRouteLoaderData<OpenedCrate>('routes/crate')
  const fetcher = useFetcher()
  if (!kept) throw new PlainError('there is no crate here', 'this page', 'Go back to the shelf.')
  const submit = async (intent: (ticket: string) => CrateIntent): Promise<boolean> => {
    const ticket = String(++lastTicket)
    await whileKeeping(
      fetcher.submit(JSON.stringify(intent(ticket)), {
        method: 'post',
        action: `/crate/${kept.crate.id}`,
        encType: 'application/json',
      }),
    )
    return wasKept(ticket)
  }
  return {
    ...kept,
    rulebook: kept.crate.rulebook,
    game: gameOf(kept.crate),
    send: (command) => submit((ticket) => ({ intent: 'command', command, ticket })),
    undo: () => submit((ticket) => ({ intent: 'undo', ticket })),
    redo: () => submit((ticket) => ({ intent: 'redo', ticket })),
  }
}
