import { gameNamed } from '../game.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { plural } from '../../core/support/wording.ts'
import { explain } from '../../core/trial/log-explanations.ts'
import { loadPack } from '../../core/trial/load-pack.ts'
import { parseCall, print, required, type Command } from '../command.ts'
import { namesFolder, readBytes } from '../bytes.ts'
import { readFolder } from '../folders.ts'

export const trial: Command = {
  async run(words) {
    const call = parseCall(words, {
      rulebook: { type: 'string' },
      over: { type: 'string', multiple: true },
      all: { type: 'boolean' },
    })
    if (call.positionals.length !== 1) throw new PlainError('it takes one pack', 'trial', 'Name a pack.')
    const [path] = call.positionals
    const { rulebook } = (await gameNamed(required(call, 'rulebook'))).game
    const below = call.list('over').map(readBytes)
    const result = loadPack(namesFolder(path) ? readFolder(path) : readBytes(path), rulebook, below)
    const items = result.items.map(({ name, triangles, solids, textures }) => ({
      name,
      triangles,
      solids: solids.length,
      textures,
    }))
    const log = result.log.map(explain)
    const harmless = log.filter((line) => line.harmless)
    // What was loaded is told in any case.
    const shown =
      call.values['all'] === true ? log : log.filter(({ harmless, code }) => !harmless || code === 'item.loaded')
    print(call, { loads: result.loads, log, items }, [
      ...shown.flatMap((line) => [
        `${line.level.padEnd(9)} ${line.code} ${line.file}: ${line.message}`,
        ...(line.level === 'told' ? [] : [`          ${line.says}`]),
      ]),
      ...(harmless.length > shown.filter((line) => line.harmless).length
        ? [`${plural(harmless.length, 'harmless message')}; --all shows them.`]
        : []),
      result.loads ? 'It loads.' : 'It does not load.',
    ])
    return result.loads ? 0 : 1
  },
}
