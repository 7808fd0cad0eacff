import type { Crate } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'

const games = new WeakMap<Crate, Game>()

/** A crate's game: the same value for the same crate, so that it can be compared. */
export function gameOf(crate: Crate): Game {
  const known = games.get(crate) ?? { rulebook: crate.rulebook, stock: crate.stock }
  games.set(crate, known)
  return known
}
