import type { SingleCommand } from '../../core/crate/commands'
import type { CrateItem } from '../../core/crate/schema'
import { placeOfStep } from '../../core/worklist/entry'
import { jsonRecordSchema, laidOver } from '../../core/support/json-value'

/** What of an item is copied to others: all its steps, one of them, or lines that one of them writes. */
export type Copied =
  { what: 'worklist' } | { what: 'step'; entry: string } | { what: 'lines'; entry: string; lines: readonly string[] }

/** The lines that a step writes into the entry; null where it is no such step. */
export function linesOf(item: CrateItem, entry: string): Record<string, unknown> | null {
  const parameters = item.worklist.find(({ id }) => id === entry)?.parameters
  return jsonRecordSchema.safeParse(parameters?.['fields']).data ?? null
}

/**
 * The changes that copy it to another item. A step that is there already takes the settings over; one that is not goes
 * where it belongs.
 * @param order ids of all steps in the order of the work
 */
export function copyTo(from: CrateItem, copied: Copied, to: CrateItem, order: readonly string[]): SingleCommand[] {
  if (copied.what === 'worklist') return [{ do: 'set-worklist', item: to.id, worklist: from.worklist }]
  const source = from.worklist.find(({ id }) => id === copied.entry)
  if (!source) return []
  const parameters =
    copied.what === 'step'
      ? source.parameters
      : {
          fields: Object.fromEntries(
            Object.entries(linesOf(from, copied.entry) ?? {}).filter(([line]) => copied.lines.includes(line)),
          ),
        }
  const present = to.worklist.findLast(({ step }) => step === source.step)
  if (present) {
    const settings = copied.what === 'step' ? parameters : laidOver(present.parameters, parameters)
    return [{ do: 'edit-step', item: to.id, entry: present.id, parameters: jsonRecordSchema.parse(settings) }]
  }
  const { step, on } = source
  return [
    {
      do: 'add-steps',
      item: to.id,
      at: placeOfStep(to.worklist, step, order),
      entries: [{ step, on, parameters: jsonRecordSchema.parse(parameters), reason: `Copied from ${from.name}.` }],
    },
  ]
}
