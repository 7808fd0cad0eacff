import { withOwnStock } from '../../core/crate/own-stock.ts'
import { writeGameFile } from '../../core/crate/game-file.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { plural } from '../../core/support/wording.ts'
import { writeBytes } from '../bytes.ts'
import { parseCall, print, required, type Command } from '../command.ts'
import { gatherGameFiles } from '../files.ts'
import { gameNamed } from '../game.ts'

export const stock: Command = {
  async run(words) {
    const call = parseCall(words, { out: { type: 'string' }, host: { type: 'string', multiple: true } })
    const [name, ...things] = call.positionals
    if (name === undefined || things.length === 0)
      throw new PlainError('it takes a rulebook and files', 'stock', 'Name both.')
    const out = required(call, 'out')
    const { game, added, passedOver } = await withOwnStock(
      await gameNamed(name),
      gatherGameFiles(things),
      call.list('host'),
    )
    const bytes = writeGameFile(game)
    writeBytes(out, bytes)
    const { objects, textures, donors, skeletons } = added
    print(call, { out, bytes: bytes.length, added, passedOver }, [
      ...objects.map(({ id, title, role }) => `object   ${id} (${title}), ${role}`),
      ...textures.map(({ path, role }) => `texture  ${path}, ${role}`),
      ...donors.map(({ id, title }) => `donor    ${id} (${title})`),
      ...skeletons.map(({ id, bones }) => `skeleton ${id}, ${plural(bones.length, 'bone')}`),
      ...passedOver.map((path) => `no use   ${path}`),
      `${out}: ${plural(objects.length, 'object')}, ${plural(textures.length, 'texture')}, ` +
        `${plural(donors.length, 'donor')}, ${plural(skeletons.length, 'skeleton')}`,
    ])
    return 0
  },
}
