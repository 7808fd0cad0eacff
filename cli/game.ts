import { existsSync } from 'node:fs'
import { basename } from 'node:path'
import { builtInGame, readGameFile } from '../core/crate/game-file.ts'
import type { BroughtGame } from '../core/crate/brought-game.ts'
import type { Crate } from '../core/crate/schema.ts'
import { builtInIds, laterRulebook } from '../core/game/load.ts'
import { PlainError } from '../core/support/plain-error.ts'
import { progressLine } from './command.ts'
import { readBytes } from './bytes.ts'

/**
 * The game that a call names: a built-in one by its id, or one in a file of the modder's own.
 * @throws PlainError when it is neither, or the file is wrong
 */
export async function gameNamed(word: string): Promise<BroughtGame> {
  if (builtInIds.includes(word)) return builtInGame(word)
  if (existsSync(word)) return readGameFile(readBytes(word), basename(word))
  throw new PlainError(
    'there is no built-in rulebook of that name, and no such file',
    word,
    `Built in: ${builtInIds.join(', ')}. Or name a JSON file.`,
  )
}

/** Says on standard error when a later rulebook of the crate’s game ships with the program. */
export function tellLaterRulebook({ rulebook }: Crate): void {
  const later = laterRulebook(rulebook)
  if (later)
    progressLine(`The crate carries ${rulebook.title} ${rulebook.version}; ${later.version} ships with the program.`)
}
