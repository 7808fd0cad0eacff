import type { Rulebook } from '../game/schema.ts'
import { mirroredGames } from './mirrored-games.ts'
import { tarnAndTiller } from './prepared-gate.ts'

const leftHanded: Rulebook = {
  ...tarnAndTiller,
  id: 'left-handed',
  space: { ...tarnAndTiller.space, up: '+z', forward: '-x', handedness: 'left' },
}
const inCollada = mirroredGames.find(({ files }) => files.mesh.writer === 'dae') ?? tarnAndTiller

/**
 * A game, the same with its axes turned and mirrored, and one whose files are COLLADA: what holds must hold in each.
 */
export const variousGames: [string, Rulebook][] = [tarnAndTiller, leftHanded, inCollada].map((game) => [game.id, game])
