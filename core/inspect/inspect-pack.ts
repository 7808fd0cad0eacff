import { isEntryPath } from '../game/templates.ts'
import type { Report } from '../rules/registry.ts'
import { worstFirst, type Finding } from '../rules/rule.ts'
import { saidInEntry } from '../pack/records/entry.ts'
import type { TogetherFacts } from '../game/catalogue/together-facts.ts'
import { togetherFaults } from '../game/catalogue/together.ts'
import type { Rulebook } from '../game/schema.ts'
import { readEntry } from './entry-file.ts'
import { fileFinding } from './file-finding.ts'
import { inspectItem } from './inspect-item.ts'
import { checkManifest, openFiles } from './manifest.ts'

export interface PackReport {
  /** About the pack as a whole: its archive, its manifest, entries that cannot be read. */
  findings: Finding[]
  items: ({ name: string; kind: string } & Report)[]
}

/**
 * What the game would say about a pack, whoever made it, told from its files by the same rules as a crate's items. The
 * stand-in loader says the same of it in code of its own.
 * @param bytes a ZIP, or the files themselves by path where they lie loose
 * @param name the pack's file name
 *
 * @example (await inspectPack(bytes, 'gate-pack.zip', rulebook)).items[0].findings
 */
export async function inspectPack(
  bytes: Uint8Array | ReadonlyMap<string, Uint8Array>,
  name: string,
  rulebook: Rulebook,
): Promise<PackReport> {
  const { content, findings } = openFiles(bytes, name, rulebook)
  if (!content) return { findings, items: [] }
  findings.push(...checkManifest(content, rulebook))
  const items: PackReport['items'] = []
  const paths = [...content.keys()].filter((path) => isEntryPath(path, rulebook))
  if (paths.length === 0)
    findings.push(
      entryFault(rulebook.files.manifest.path, `${rulebook.files.paths.entry} for each item`, 'The pack has no item'),
    )
  const names = new Set<string>()
  const announced = paths.map((path) => ({ path, ...readEntry(path, content, rulebook) }))
  const known: TogetherFacts[] = []
  for (const { path, entry, findings: faults } of announced) {
    if (!entry) {
      findings.push(...faults)
      continue
    }
    if (names.has(entry.of.item))
      faults.push(entryFault(path, 'once', `The item ${entry.of.item} is in the pack twice`))
    names.add(entry.of.item)
    const { facts, ...report } = await inspectItem(
      entry.of,
      entry.kind,
      entry.meshes,
      content,
      rulebook,
      saidInEntry(content.get(path) ?? new Uint8Array(0), path, rulebook),
    )
    if (facts) known.push(facts)
    items.push({
      name: entry.of.item,
      kind: entry.kind.id,
      gauges: report.gauges,
      findings: [...faults, ...report.findings],
    })
  }
  const together = togetherFaults(known, rulebook)
  for (const item of items) item.findings = worstFirst([...item.findings, ...(together.get(item.name) ?? [])])
  return { findings, items }
}

const entryFault = (where: string, limit: string, message: string): Finding =>
  fileFinding({
    rule: 'entry',
    severity: 'blocks',
    title: 'Entry',
    where,
    limit,
    message,
    why: 'The loader finds everything of an item by its entry.',
  })
