import { setSlot, withSlots } from './slots.ts'
import { keptFileSchema } from '../game/game.ts'
import { answerChangeSchema } from '../questions/question.ts'
import { rulebookSchema } from '../game/schema.ts'
import { z } from 'zod'
import { presetsSchema } from './preset.ts'
import { axisNameSchema } from '../maths/axes.ts'
import { jsonRecordSchema } from '../support/json-value.ts'
import { PlainError } from '../support/plain-error.ts'
import { newEntryId, worklistEntrySchema, worklistSchema, type WorklistEntry } from '../worklist/entry.ts'
import {
  identifierFor,
  itemSchema,
  readingSchema,
  sourceReferenceSchema,
  waiverSchema,
  type Crate,
  type CrateItem,
} from './schema.ts'

const text = z.string().min(1).max(200)
/** What is said anew of a source; null takes back what was said. */
const readingChangeSchema = z.object({
  metresPerUnit: z.number().positive().nullable().optional(),
  up: axisNameSchema.nullable().optional(),
  forward: axisNameSchema.nullable().optional(),
  links: z.record(z.string(), z.string()).optional(),
})

const newEntry = worklistEntrySchema.omit({ id: true })

const MOST_AT_ONCE = 5000

const single = z.discriminatedUnion('do', [
  z.object({ do: z.literal('rename-crate'), name: text }),
  z.object({ do: z.literal('set-game'), rulebook: rulebookSchema, stock: keptFileSchema.nullable() }),
  z.object({ do: z.literal('set-presets'), presets: presetsSchema }),
  z.object({ do: z.literal('add-items'), items: z.array(itemSchema).min(1) }),
  z.object({ do: z.literal('remove-item'), item: z.string() }),
  z.object({ do: z.literal('rename-item'), item: z.string(), name: text }),
  z.object({ do: z.literal('set-kind'), item: z.string(), kind: text }),
  z.object({ do: z.literal('set-slot'), item: z.string(), slot: z.string().min(1).max(32) }),
  /** What of an answer is no step: those are set or put in by their own commands. */
  z.object({
    do: z.literal('answer'),
    item: z.string(),
    question: z.string().min(1).max(64),
    answer: z.string().min(1).max(200),
    change: answerChangeSchema.omit({ step: true }),
  }),
  z.object({ do: z.literal('set-reading'), item: z.string(), reading: readingChangeSchema }),
  z.object({ do: z.literal('add-sources'), item: z.string(), sources: z.array(sourceReferenceSchema).min(1) }),
  z.object({
    do: z.literal('replace-sources'),
    item: z.string(),
    main: z.string().min(1),
    sources: z.array(sourceReferenceSchema).min(1),
  }),
  z.object({ do: z.literal('link-texture'), item: z.string(), written: z.string(), path: z.string().nullable() }),
  z.object({ do: z.literal('set-worklist'), item: z.string(), worklist: worklistSchema }),
  z.object({
    do: z.literal('add-steps'),
    item: z.string(),
    entries: z.array(newEntry).min(1),
    at: z.number().int().min(0),
  }),
  z.object({ do: z.literal('remove-step'), item: z.string(), entry: z.string() }),
  z.object({ do: z.literal('move-step'), item: z.string(), entry: z.string(), to: z.number().int().min(0) }),
  z.object({ do: z.literal('switch-step'), item: z.string(), entry: z.string(), on: z.boolean() }),
  z.object({
    do: z.literal('edit-step'),
    item: z.string(),
    entry: z.string(),
    parameters: jsonRecordSchema,
  }),
  z.object({ do: z.literal('waive'), item: z.string(), waiver: waiverSchema }),
  z.object({ do: z.literal('unwaive'), item: z.string(), rule: z.string(), where: z.string() }),
])
export type SingleCommand = z.infer<typeof single>

/** Everything that can be done to a crate, one thing or several together: each is one undo. */
export const commandSchema = z.union([
  single,
  z.object({ do: z.literal('several'), commands: z.array(single).min(1).max(MOST_AT_ONCE) }),
])
export type Command = z.infer<typeof commandSchema>

/**
 * The crate after a command; the one given is not changed.
 * @throws PlainError when the item or step is no longer there
 *
 * @example const after = applyCommand(crate, { do: 'remove-item', item: 'gate' })
 */
export function applyCommand(crate: Crate, command: Command): Crate {
  return withSlots(command.do === 'several' ? command.commands.reduce(changed, crate) : changed(crate, command))
}

function changed(crate: Crate, command: SingleCommand): Crate {
  switch (command.do) {
    case 'rename-crate':
      return { ...crate, name: command.name }
    case 'set-game':
      return { ...crate, rulebook: command.rulebook, stock: command.stock }
    case 'set-presets':
      return { ...crate, presets: command.presets }
    case 'add-items':
      return { ...crate, items: [...crate.items, ...withFreeIds(command.items, crate)] }
    case 'remove-item':
      return { ...crate, items: crate.items.filter((item) => item.id !== command.item) }
    case 'set-slot':
      return setSlot(crate, command.item, command.slot)
    default:
      return withItem(crate, command.item, (item) => changeItem(item, command))
  }
}

/** Items with ids that none of the crate's has: another tab may have brought some meanwhile. */
function withFreeIds(items: readonly CrateItem[], crate: Crate): CrateItem[] {
  const taken = crate.items.map(({ id }) => id)
  return items.map((item) => {
    const id = taken.includes(item.id) ? identifierFor(item.id, taken) : item.id
    taken.push(id)
    return { ...item, id }
  })
}

type ItemCommand = Exclude<
  SingleCommand,
  { do: 'rename-crate' | 'set-game' | 'set-presets' | 'add-items' | 'remove-item' | 'set-slot' }
>

function changeItem(item: CrateItem, command: ItemCommand): CrateItem {
  switch (command.do) {
    case 'rename-item':
      return { ...item, name: command.name }
    case 'set-kind':
      return { ...item, kind: command.kind, answers: { ...item.answers, kind: command.kind } }
    case 'answer': {
      const { reading, kind } = command.change
      return {
        ...item,
        kind: kind ?? item.kind,
        reading: { ...item.reading, ...reading },
        answers: { ...item.answers, [command.question]: command.answer },
      }
    }
    case 'set-reading':
      return {
        ...item,
        reading: readingSchema.parse(
          Object.fromEntries(
            Object.entries({ ...item.reading, ...command.reading }).filter(([, value]) => value !== null),
          ),
        ),
      }
    case 'add-sources':
      return {
        ...item,
        sources: [
          ...item.sources.filter((source) => !command.sources.some((added) => added.path === source.path)),
          ...command.sources,
        ],
      }
    case 'replace-sources':
      return { ...item, main: command.main, sources: command.sources }
    case 'link-texture': {
      const { [command.written]: _old, ...others } = item.reading.links
      return {
        ...item,
        reading: {
          ...item.reading,
          links: command.path === null ? others : { ...others, [command.written]: command.path },
        },
      }
    }
    case 'waive':
      return { ...item, waivers: [...withoutWaiver(item, command.waiver), command.waiver] }
    case 'unwaive':
      return { ...item, waivers: withoutWaiver(item, command) }
    default:
      return { ...item, worklist: changeWorklist(item.worklist, command) }
  }
}

const withoutWaiver = (item: CrateItem, { rule, where }: { rule: string; where: string }) =>
  item.waivers.filter((waiver) => waiver.rule !== rule || waiver.where !== where)

type WorklistCommand = Extract<
  ItemCommand,
  { do: 'set-worklist' | 'add-steps' | 'remove-step' | 'move-step' | 'switch-step' | 'edit-step' }
>

function changeWorklist(worklist: WorklistEntry[], command: WorklistCommand): WorklistEntry[] {
  switch (command.do) {
    case 'set-worklist':
      return command.worklist
    case 'add-steps':
      return command.entries.reduce<WorklistEntry[]>(
        (list, entry, index) => [
          ...list.slice(0, command.at + index),
          { ...entry, id: newEntryId(list), byHand: true },
          ...list.slice(command.at + index),
        ],
        worklist,
      )
    case 'remove-step':
      return worklist.filter((entry) => entry.id !== command.entry)
    case 'move-step': {
      const moved = entryOf(worklist, command.entry)
      const rest = worklist.filter((entry) => entry !== moved)
      return [...rest.slice(0, command.to), moved, ...rest.slice(command.to)]
    }
    case 'switch-step':
      return worklist.map((entry) => (entry.id === command.entry ? { ...entry, on: command.on, byHand: true } : entry))
    case 'edit-step':
      entryOf(worklist, command.entry)
      return worklist.map((entry) =>
        entry.id === command.entry ? { ...entry, parameters: command.parameters, byHand: true } : entry,
      )
  }
}

function entryOf(worklist: readonly WorklistEntry[], id: string): WorklistEntry {
  const entry = worklist.find((each) => each.id === id)
  if (!entry) throw new PlainError('this step is no longer there', id, 'Reload the page.')
  return entry
}

function withItem(crate: Crate, id: string, change: (item: CrateItem) => CrateItem): Crate {
  if (!crate.items.some((item) => item.id === id))
    throw new PlainError('this item is no longer there', id, 'Reload the page.')
  return { ...crate, items: crate.items.map((item) => (item.id === id ? change(item) : item)) }
}
