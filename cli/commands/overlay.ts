import { basename } from 'node:path'
import { builtInRulebooks } from '../../core/game/load.ts'
import { gameOfPack } from '../../core/pack/open-pack.ts'
import { overlayOf } from '../../core/pack/overlay.ts'
import { readArchive } from '../../core/support/archive.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { plural } from '../../core/support/wording.ts'
import { readBytes } from '../bytes.ts'
import { parseCall, print, type Command } from '../command.ts'
import { gameNamed } from '../game.ts'

export const overlay: Command = {
  async run(words) {
    const call = parseCall(words, { rulebook: { type: 'string' } })
    if (call.positionals.length < 2)
      throw new PlainError('it takes two packs or more', 'overlay', 'Name the packs that lie in the game’s folder.')
    const packs = call.positionals.map((path) => ({ name: basename(path), files: readArchive(readBytes(path), path) }))
    const named = call.values['rulebook']
    const games = typeof named === 'string' ? [(await gameNamed(named)).game.rulebook] : builtInRulebooks()
    const ids = packs.map(({ name, files }) => ({ name, id: gameOfPack(files, games) }))
    const stranger = ids.find(({ id }) => id === null || id !== ids[0].id)
    const rulebook = games.find(({ id }) => id === ids[0].id)
    if (stranger || !rulebook)
      throw new PlainError(
        stranger?.id
          ? `it is for ${stranger.id}, and ${ids[0].name} for ${ids[0].id}`
          : 'it is for no game that is known',
        stranger?.name ?? ids[0].name,
        'Name packs of one game, and its rulebook where it is your own.',
      )
    const found = overlayOf(packs, rulebook)
    const contested = found.overlaid.filter(({ same }) => !same)
    print(call, found, [
      `Read in this order: ${found.order.join(', ')}`,
      ...found.overlaid.map(
        ({ path, packs: of, wins, same }) =>
          `${same ? 'same ' : 'wins '}${path}: ` +
          `${same ? of.join(' and ') : `${wins} over ${of.slice(0, -1).join(', ')}`}`,
      ),
      ...found.hidden.map((name) => `${name}: nothing of it is seen, other packs win every path`),
      ...found.warnings,
      `${plural(contested.length, 'path')} contested`,
    ])
    return contested.length > 0 || found.warnings.length > 0 ? 1 : 0
  },
}
