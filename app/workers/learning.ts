import { withOwnStock } from '../../core/crate/own-stock'
import { rulebookText } from '../../core/crate/game-file'
import { gameWith } from '../../core/crate/brought-game'
import type { Rulebook } from '../../core/game/schema'
import { learnFrom, rulebookOf, type Learned } from '../../core/learn'
import { fieldSentence } from '../../core/learn/learn-entry-fields'
import { PlainError } from '../../core/support/plain-error'
import { addRulebook, getRulebook, putRulebookWithStock } from '../storage/rulebooks'
import type { GivenStock, LearnedReport } from './rulebook-messages'
import { filesSchema } from './source-messages'

/** What was learned last, until a rulebook is begun from it. */
let lastLearned: Learned | null = null

/** Measures files that a game accepts. */
export async function learnFiles(rawFiles: unknown, known: { path: string; metres: number }[]): Promise<LearnedReport> {
  lastLearned = await learnFrom(filesSchema.parse(rawFiles), known)
  const { base, lines, unread, meshes, entryFields } = lastLearned
  const said = entryFields.map((field) => ({ place: field.place, said: fieldSentence(field) }))
  return { base: base.title, lines, entryFields: said, unread, meshes }
}

/**
 * Keeps a rulebook of the lines that the modder keeps, some with other values; gives its key.
 * @param kept for each line its value, or undefined where it is dropped
 */
export async function beginLearned(
  kept: readonly ({ value: unknown } | null)[],
  id: string,
  title: string,
): Promise<string> {
  if (!lastLearned) throw new PlainError('what was learned is no longer at hand', 'the files', 'Bring them again.')
  const lines = lastLearned.lines.flatMap((line, number) => {
    const own = kept[number]
    return own ? [{ ...line, value: own.value }] : []
  })
  const { rulebook } = rulebookOf(lastLearned, lines, { id, title })
  return addRulebook(id, rulebookText(rulebook as Rulebook), null)
}

/** Puts files into the stock of one of the modder's own rulebooks. */
export async function giveStock(key: string, rawFiles: unknown): Promise<GivenStock> {
  const own = await getRulebook(key)
  if (!own?.rulebook) throw new PlainError(own?.fault ?? 'it is no longer kept', 'the rulebook', 'Mend it first.')
  const { game, added } = await withOwnStock(gameWith(own.rulebook, own.stock), filesSchema.parse(rawFiles))
  await putRulebookWithStock(key, rulebookText(game.game.rulebook), game.stock)
  return {
    objects: added.objects.length,
    textures: added.textures.length,
    donors: added.donors.length,
    skeletons: added.skeletons.length,
  }
}
