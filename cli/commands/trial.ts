import { gameNamed } from '../game.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { loadPack } from '../../core/trial/load-pack.ts'
import { parseCall, print, required, type Command } from '../command.ts'
import { readBytes } from '../bytes.ts'

export const trial: Command = {
  name: 'trial',
  usage: 'trial PACK.zip --rulebook ID|FILE',
  summary: 'Lets the stand-in loader read a pack; prints its log and verdict.',
  async run(words) {
    const call = parseCall(words, { rulebook: { type: 'string' } })
    if (call.positionals.length !== 1) throw new PlainError('it takes one pack', 'trial', 'Name a pack.')
    const result = loadPack(readBytes(call.positionals[0]), (await gameNamed(required(call, 'rulebook'))).game.rulebook)
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
