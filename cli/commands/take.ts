import { basename } from 'node:path'
import { contentsOf, takeOutOfArchive, textureOf } from '../../core/crate/take.ts'
import { writeCrateFile } from '../../core/crate/file.ts'
import { withSlots } from '../../core/crate/slots.ts'
import { newCrate } from '../../core/crate/schema.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { builtInRulebooks } from '../../core/game/load.ts'
import { builtInGame } from '../../core/crate/game-file.ts'
import type { BroughtGame } from '../../core/crate/brought-game.ts'
import { gameNamed } from '../game.ts'
import { openPack } from '../../core/pack/open-pack.ts'
import { encodePng } from '../../core/pictures/image-codecs.ts'
import { hasTransparency } from '../../core/pictures/pixels.ts'
import { readAnyImage } from '../../core/pictures/export-image.ts'
import { readCrateFile } from '../../core/crate/file.ts'
import { parseCall, print, type Command } from '../command.ts'
import { readBytes, writeBytes } from '../bytes.ts'

export const take: Command = {
  async run(words) {
    const call = parseCall(words, {
      item: { type: 'string' },
      texture: { type: 'string' },
      rulebook: { type: 'string' },
      out: { type: 'string' },
    })
    const named = call.values['rulebook']
    const brought = typeof named === 'string' ? await gameNamed(named) : null
    const games = [...(brought ? [brought.game.rulebook] : []), ...builtInRulebooks()]
    const [path] = call.positionals
    if (!path) throw new PlainError('no file was named', 'this call', 'Name a pack or a crate file.')
    const name = basename(path)
    const bytes = readBytes(path)
    const contents = contentsOf(bytes, name, games)
    if (!contents)
      throw new PlainError('it is neither a pack nor a crate file', name, 'Choose one that Gentle Crate wrote.')
    const { item, texture, out } = call.values
    if (typeof item !== 'string' && typeof texture !== 'string') {
      print(call, contents, [
        `${contents.title} (${contents.kind})`,
        ...contents.items.map((each) => `  item ${each.name} (${each.kind})`),
        ...contents.textures.map((each) => `  texture ${each}`),
      ])
      return 0
    }
    if (typeof out !== 'string') throw new PlainError('--out is missing', 'this call', 'Say where to write.')
    if (typeof texture === 'string') {
      const pixels = await readAnyImage(textureOf(bytes, name, texture).bytes, texture)
      writeBytes(out, encodePng(pixels, hasTransparency(pixels)))
      print(call, { out, width: pixels.width, height: pixels.height }, [`${out}: ${pixels.width} × ${pixels.height}`])
      return 0
    }
    const taken = await takeOutOfArchive(bytes, name, item as string, [], games)
    const sources = new Map(taken.files.map(({ sha256, file }) => [sha256, file.bytes]))
    const game = contents.kind === 'crate' ? readCrateFile(bytes, name) : null
    // A crate's game comes with it; a pack's is one of those that are known.
    const { id } = game ? game.crate.rulebook : openPack(bytes, name, games).rulebook
    const own = game ? null : brought?.game.rulebook.id === id ? brought : await builtInGame(id)
    const crate = { ...newCrate(taken.item.name, game?.crate ?? (own as BroughtGame).game, []), items: [taken.item] }
    const stock = game ? game.sources.get(game.crate.stock?.sha256 ?? '') : own?.stock
    if (crate.stock && stock) sources.set(crate.stock.sha256, stock)
    writeBytes(out, writeCrateFile({ crate: withSlots(crate), sources }))
    print(
      call,
      { out, item: taken.item.name, kind: taken.item.kind, sources: taken.item.sources.map((source) => source.path) },
      [`${taken.item.name} (${taken.item.kind}) → ${out}`],
    )
    return 0
  },
}
