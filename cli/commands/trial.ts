import { gameNamed } from '../game.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { loadPack } from '../../core/trial/load-pack.ts'
import { parseCall, print, required, type Command } from '../command.ts'
import { namesFolder, readBytes } from '../bytes.ts'
import { readFolder } from '../files.ts'

export const trial: Command = {
  name: 'trial',
  usage: 'trial PACK.zip|FOLDER --rulebook ID|FILE [--over PACK.zip…]',
  summary:
    'Lets the stand-in loader read a pack, or files that lie loose in a folder, with packs below it whose files it does not have; prints its log and verdict.',
  async run(words) {
    const call = parseCall(words, { rulebook: { type: 'string' }, over: { type: 'string', multiple: true } })
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
    print(call, { loads: result.loads, log: result.log, items }, [
      ...result.log.map((line) => `${line.level.padEnd(9)} ${line.code} ${line.file}: ${line.message}`),
      result.loads ? 'It loads.' : 'It does not load.',
    ])
    return result.loads ? 0 : 1
  },
}
