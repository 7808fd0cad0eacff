import type { Crate } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import type { Rulebook } from '../../core/game/schema'

const games = new WeakMap<Rulebook, Game>()

/** A crate's game: the same value as long as it has the same rulebook and stock, so that it can be compared. */
export function gameOf({ rulebook, stock }: Pick<Crate, 'rulebook' | 'stock'>): Game {
  const known = games.get(rulebook)
  if (known && known.stock === stock) return known
  const game = { rulebook, stock }
  games.set(rulebook, game)
  return game
}
