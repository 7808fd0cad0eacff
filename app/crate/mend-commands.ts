import type { SingleCommand } from '../../core/crate/commands'
import type { CrateItem } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import type { Mend } from '../../core/rules/rule'
import { canonicalJson } from '../../core/support/hashing'
import type { WorklistEntry } from '../../core/worklist/entry'
import { jsonRecordSchema, laidOver } from '../../core/support/json-value'
import { mendSettings, proposeStep, type Ask } from '../workers/bench-client'

/**
 * The step of an item that a mend is about and that says all of it already; null where the mend would change something.
 */
export function stepThatSaysSo(
  { worklist }: Pick<CrateItem, 'worklist'>,
  { step, parameters }: Mend,
): WorklistEntry | null {
  const present = worklist.findLast((entry) => entry.step === step && entry.on)
  if (!present) return null
  return canonicalJson(laidOver(present.parameters, parameters)) === canonicalJson(present.parameters) ? present : null
}

/** What a finding's mend changes in an item: a step is put in, or more is said in the one that is there. */
export async function mendCommands(
  item: CrateItem,
  { step, parameters }: Mend,
  game: Game,
  ask: Ask,
): Promise<SingleCommand[]> {
  const present = item.worklist.findLast((entry) => entry.step === step && entry.on)
  if (!present) return [{ do: 'add-steps', item: item.id, ...(await proposeStep(item, game, step, parameters, ask)) }]
  return [
    {
      do: 'edit-step',
      item: item.id,
      entry: present.id,
      parameters: jsonRecordSchema.parse(
        laidOver(present.parameters, await mendSettings(item, game, present.id, parameters, ask)),
      ),
    },
  ]
}
