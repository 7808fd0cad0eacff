import type { BroughtGame } from '../core/crate/brought-game.ts'
import { presetFor, readingOf, type Preset } from '../core/crate/preset.ts'
import { refusalOf, type PlannedItem } from '../core/crate/plan-items.ts'
import type { PreparedOne, PrepareWish } from '../core/crate/prepare-one.ts'
import { identifierFor, type Crate, type CrateItem } from '../core/crate/schema.ts'
import { kindOf } from '../core/game/load.ts'
import type { ReadOptions } from '../core/intake/reader.ts'
import { fileName } from '../core/intake/source-file.ts'
import { PlainError, plainMessage } from '../core/support/plain-error.ts'
import { progressLine } from './command.ts'
import type { JobAnswers } from './item-jobs.ts'
import type { ItemWorkers } from './item-workers.ts'

/** What a call says of all the files that it brings. */
export interface PrepareCall extends Omit<PrepareWish, 'preset' | 'before'> {
  presets: readonly Preset[]
  reading: ReadOptions
  name?: string
  /** Whether each is packed as well. */
  pack?: boolean
}

/** What came of one file: the items that it became, or why it became none. */
export interface OfFile {
  main: string
  prepared: JobAnswers['prepare']
  refused: string | null
}

/**
 * Prepares every planned item in the workers; one that cannot be read holds up no other.
 * @param before items that are there already
 */
export async function prepareMany(
  plan: readonly PlannedItem[],
  { game }: BroughtGame,
  { presets, reading, name, pack, ...said }: PrepareCall,
  workers: ItemWorkers,
  before: readonly CrateItem[] = [],
): Promise<OfFile[]> {
  let done = 0
  const of = plan.length
  return Promise.all(
    plan.map(async (planned): Promise<OfFile> => {
      const preset = presetFor(presets, planned.main)
      const kind = said.kind ?? preset?.kind
      const options = {
        ...readingOf(preset, reading),
        models: kind === undefined ? undefined : kindOf(game.rulebook, kind).models,
      }
      try {
        const prepared = await workers.run(
          {
            do: 'prepare',
            planned,
            reading: options,
            wish: { ...said, preset, before: before.filter(({ main }) => main === planned.main) },
            wantedName: name,
            pack,
          },
          (fraction, doing) => {
            if (of === 1) progressLine(`${Math.round(fraction * 100)} % ${doing}`.trim())
          },
        )
        progressLine(`${++done} of ${of} ${fileName(planned.main)}${preset ? `, by “${preset.title}”` : ''}`)
        return { main: planned.main, prepared, refused: null }
      } catch (error) {
        const refused = error instanceof PlainError ? refusalOf(planned.main, error) : plainMessage(error)
        progressLine(`${++done} of ${of} ${refused}`)
        return { main: planned.main, prepared: [], refused }
      }
    }),
  )
}

/**
 * Puts prepared items into a crate, in the order of their files: one of a name that the crate has already from that
 * file, or from none of these, is that one prepared anew.
 * @param sources gets the files of each
 * @returns the items as they stand in the crate
 */
export function putIntoCrate(
  crate: Crate,
  sources: Map<string, Uint8Array>,
  prepared: readonly PreparedOne[],
): { item: CrateItem; of: PreparedOne }[] {
  const placed = new Set<string>()
  return prepared.map((of) => {
    for (const { sha256, file } of of.files) sources.set(sha256, file.bytes)
    const alike = crate.items.filter(({ id, name }) => name === of.item.name && !placed.has(id))
    const known = alike.find(({ main }) => main === of.item.main) ?? alike.at(0)
    const id =
      known?.id ??
      identifierFor(
        of.item.name,
        crate.items.map((item) => item.id),
      )
    const item: CrateItem = { ...of.item, id }
    placed.add(id)
    if (known) crate.items[crate.items.indexOf(known)] = item
    else crate.items.push(item)
    return { item, of }
  })
}
