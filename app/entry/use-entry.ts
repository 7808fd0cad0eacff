import { z } from 'zod'
import { useMemo } from 'react'
import { completeEntry } from '../../core/game/catalogue/complete-entry'
import { entryFaults, type EntryFault } from '../../core/game/catalogue/entry-faults'
import { fieldsOfKind } from '../../core/game/catalogue/fields'
import { saidOver } from '../../core/game/catalogue/merge-entry'
import { laidOver } from '../../core/support/json-value'
import { gameName } from '../../core/crate/game-names'
import type { CrateItem } from '../../core/crate/schema'
import type { Kind, Rulebook } from '../../core/game/schema'
import { nameFaults } from '../../core/game/catalogue/name-faults'
import { kindOf } from '../../core/game/load'
import type { ItemEntry } from '../../core/item/entry'
import { useCrate } from '../crate/use-crate'
import { useEntryReport } from '../queries/item-queries'
import type { EntryReport } from '../workers/entry-messages'

export const WRITE = 'write-entry'

const settingsSchema = z.object({
  from: z.string().catch(''),
  fields: z.record(z.string(), z.json()).catch({}),
  rows: z.record(z.string(), z.record(z.string(), z.json()).nullable()).catch({}),
})
export type EntrySettings = z.infer<typeof settingsSchema>

/** What the desk of an entry shows and changes. */
export interface EntryHands {
  report: EntryReport
  /** What the step that writes it says, without what is usual. */
  settings: EntrySettings
  /** As it will be packed, with what was said just now. */
  said: ItemEntry
  /** What is wrong with it by itself, told at once. */
  faults: EntryFault[]
  /** Says more; null takes a line out. */
  say: (change: { fields?: EntrySettings['fields']; rows?: EntrySettings['rows'] }) => void
  /** Says all anew. */
  write: (settings: EntrySettings) => void
}

/** The entry of an item: from its result, with what was said since over it; null until the item has run. */
export function useEntry(item: CrateItem): EntryHands | null {
  const { rulebook, game, send } = useCrate()
  const report = useEntryReport(item, game)
  const entry = item.worklist.findLast(({ step, on }) => step === WRITE && on)
  const settings = useMemo(() => settingsSchema.parse(entry?.parameters ?? {}), [entry])
  const kind = kindOf(rulebook, item.kind)
  const said = useMemo<ItemEntry | null>(() => {
    if (!report) return null
    const before = report.fromSource ?? { fields: {}, rows: [], events: [] }
    const known = new Set(fieldsOfKind(rulebook, kind).map(({ key }) => key))
    return completeEntry(
      { ...report.said, whole: before.whole, ...saidOver(before, settings, rulebook, known) },
      { rulebook, kind, itemName: gameName(item, rulebook), looks: report.names.look },
    )
  }, [report, settings, rulebook, kind, item])
  const faults = useMemo(
    () => (said && report ? faultsOf(said, rulebook, kind, report, settings.fields) : []),
    [said, report, rulebook, kind, settings],
  )
  if (!report || !said) return null
  const write = (next: EntrySettings): void =>
    void (entry
      ? send({ do: 'edit-step', item: item.id, entry: entry.id, parameters: { ...next } })
      : send({
          do: 'add-steps',
          item: item.id,
          at: item.worklist.length,
          entries: [{ step: WRITE, on: true, parameters: { ...next }, reason: null }],
        }))
  return {
    report,
    settings,
    said,
    faults,
    write,
    say: (change) => write(settingsSchema.parse(laidOver(settings, change))),
  }
}

/** What is wrong with an entry by itself: its lines, and names that lead to nothing of the item. */
export const faultsOf = (
  said: Pick<ItemEntry, 'fields' | 'rows'>,
  rulebook: Rulebook,
  kind: Kind,
  { names }: EntryReport,
  written: ItemEntry['fields'],
): EntryFault[] => [
  ...entryFaults(said, rulebook, kind, names.look, written),
  ...nameFaults(said, rulebook, kind, names),
]
