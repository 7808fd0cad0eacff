import { existsSync } from 'node:fs'
import { basename, join, resolve } from 'node:path'
import { newCrate } from '../../core/crate/schema.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { parseCall, print, required, type Command } from '../command.ts'
import { writeCrate } from '../crate-out.ts'
import { gameNamed } from '../game.ts'

export const init: Command = {
  async run(words) {
    const call = parseCall(words, { rulebook: { type: 'string' }, name: { type: 'string' } })
    if (call.positionals.length !== 1) throw new PlainError('it takes one folder', 'init', 'Name a folder.')
    const [folder] = call.positionals
    if (existsSync(join(folder, 'crate.json')))
      throw new PlainError('there is a crate in it already', folder, 'Choose another folder.')
    const { game, stock } = await gameNamed(required(call, 'rulebook'))
    const name = typeof call.values['name'] === 'string' ? call.values['name'] : basename(resolve(folder))
    const crate = newCrate(name, game, [])
    const sources = new Map(game.stock && stock ? [[game.stock.sha256, stock]] : [])
    writeCrate(folder.endsWith('/') ? folder : `${folder}/`, { crate, sources })
    print(call, { folder, id: crate.id, name: crate.name, rulebook: `${game.rulebook.id} ${game.rulebook.version}` }, [
      `${folder}: an empty crate for ${game.rulebook.title} ${game.rulebook.version}.`,
      `Next: gentle-crate prepare MODEL.glb --out ${folder}`,
    ])
    return 0
  },
}
