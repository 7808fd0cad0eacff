import { createContext, useContext, useMemo } from 'react'
import type { Command } from '../../core/crate/commands'
import type { Game } from '../../core/game/game'
import { useCrate } from '../crate/use-crate'
import { useSteady } from '../ui/use-steady'

/**
 * What the cells of all rows share. It stays the same value while items change: of a hundred rows only those of which
 * something came are drawn again.
 */
export interface FleetHome {
  crateId: string
  game: Game
  send: (command: Command) => Promise<boolean>
}

export const FleetHomeContext = createContext<FleetHome | null>(null)

/** For whoever holds the rows: asks for the crate once, in place of all cells. */
export function useNewFleetHome(): FleetHome {
  const { crate, game, send } = useCrate()
  const steadySend = useSteady(send)
  return useMemo(() => ({ crateId: crate.id, game, send: steadySend }), [crate.id, game, steadySend])
}

/** For a cell. @throws Error outside of a table of items */
export function useFleetHome(): FleetHome {
  const home = useContext(FleetHomeContext)
  if (!home) throw new Error('a cell of the items stands outside of their table')
  return home
}
