import { z } from 'zod'
import { itemPaths } from '../game/item-paths.ts'
import { isGameName } from '../game/names.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import { readRecordOrNothing } from '../pack/records/index.ts'
import type { Finding } from '../rules/rule.ts'
import { entryTextFaults } from './entry-keys.ts'
import { fileFinding } from './file-finding.ts'

const entrySchema = z.object({
  item: z.string(),
  kind: z.string(),
  category: z.string(),
  slot: z.string().optional(),
  /** The object of the game's own that it changes. */
  changes: z.string().max(200).optional(),
  mesh: z.string().optional(),
  models: z.record(z.string(), z.string()).optional(),
  like: z.string().optional(),
  looks: z.array(z.string()).min(1).max(1000),
  nodes: z.unknown().optional(),
  clips: z.unknown().optional(),
  said: z.unknown().optional(),
  ofModels: z.record(z.string(), z.unknown()).optional(),
})
export type Entry = z.infer<typeof entrySchema>

/**
 * An item's entry with its kind and the paths of its meshes; null where there is too little to go on.
 * @example const { entry, findings } = readEntry('items/gate/entry.json', content, rulebook)
 */
export function readEntry(
  path: string,
  content: ReadonlyMap<string, Uint8Array>,
  rulebook: Rulebook,
): { entry: { of: Entry; kind: Kind; meshes: string[] } | null; findings: Finding[] } {
  const findings: Finding[] = []
  const fault = (limit: string, message: string): void => {
    findings.push(
      fileFinding({
        rule: 'entry',
        severity: 'blocks',
        title: 'Entry',
        where: path,
        limit,
        message,
        why: 'The loader finds everything of an item by its entry.',
      }),
    )
  }
  const parsed = entrySchema.safeParse(readRecordOrNothing('entry', content.get(path), path, rulebook))
  if (!parsed.success) {
    fault(
      'item, kind, category and looks',
      'The entry cannot be ' +
        `read${parsed.error.issues[0]?.path.length ? ` at ${parsed.error.issues[0].path.join('.')}` : ''}`,
    )
    return { entry: null, findings }
  }
  const entry = parsed.data
  findings.push(...entryTextFaults(path, content.get(path) ?? new Uint8Array(0), rulebook))
  const kind = rulebook.kinds.find((each) => each.id === entry.kind)
  if (!kind) {
    fault(rulebook.kinds.map((each) => each.id).join(', '), `There is no kind “${entry.kind}”`)
    return { entry: null, findings }
  }
  const belongs = itemPaths(rulebook, kind, entry.item, entry.slot ?? null).entry
  if (belongs !== path) fault(belongs, `The entry of ${entry.item} belongs at ${belongs}`)
  if (entry.category !== kind.category)
    fault(kind.category, `A ${kind.title.toLowerCase()} is of the category “${kind.category}”, not “${entry.category}”`)
  const hosts = rulebook.stock.objects.filter(({ role }) => role === 'host').map(({ id }) => id)
  if (kind.addsTo === 'host' && !hosts.includes(entry.changes ?? ''))
    fault(
      hosts.join(', '),
      `It ${entry.changes ? `changes “${entry.changes}”, which the game does not have` : 'does not say which object it changes'}`,
    )
  if (!isGameName(rulebook, entry.item))
    fault(rulebook.names.described, `The name “${entry.item}” is not one the game reads`)
  const meshes = meshPaths(entry, kind)
  if (kind.mesh === null && (entry.mesh !== undefined || entry.models !== undefined))
    fault('no mesh', `A ${kind.title.toLowerCase()} has no mesh`)
  for (const mesh of meshes)
    if (mesh === undefined || !content.has(mesh))
      fault('a file', `The mesh ${mesh ?? `of ${entry.item}`} is not in the pack`)
  const present = meshes.flatMap((mesh) => (mesh !== undefined && content.has(mesh) ? [mesh] : []))
  return { entry: present.length === meshes.length ? { of: entry, kind, meshes: present } : null, findings }
}

function meshPaths(entry: Entry, kind: Kind): (string | undefined)[] {
  if (kind.mesh === null) return []
  return kind.models.length > 1 ? kind.models.map((model) => entry.models?.[model]) : [entry.mesh]
}
