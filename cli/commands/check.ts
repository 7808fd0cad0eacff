import { evaluateItem } from '../../core/crate/evaluate.ts'
import { countOpen } from '../../core/crate/waivers.ts'
import { rulebookById } from '../../core/rulebook/load.ts'
import { noStore } from '../../core/worklist/result-store.ts'
import { PlainError } from '../../core/document/plain-error.ts'
import { parseCall, print, progressLine, type Command } from '../command.ts'
import { openCrate } from '../files.ts'

export const check: Command = {
  name: 'check',
  usage: 'check CRATE.zip|FOLDER',
  summary: 'Prints what the game would say about every item of a crate.',
  async run(words) {
    const call = parseCall(words, {})
    if (call.positionals.length !== 1) throw new PlainError('it takes one crate', 'check', 'Name a crate file or folder.')
    const { crate, sources } = openCrate(call.positionals[0])
    const rulebook = rulebookById(crate.rulebook.id)
    const items = []
    const totals = { blocks: 0, risky: 0, notes: 0, waived: 0 }
    for (const item of crate.items) {
      progressLine(item.name)
      const evaluated = await evaluateItem(item, rulebook, { store: noStore, bytesOf: async (sha256) => sources.get(sha256) ?? null })
      const counts = countOpen(evaluated.findings)
      totals.blocks += counts.blocks
      totals.risky += counts.risky
      totals.notes += counts.note
      totals.waived += evaluated.findings.filter((finding) => finding.waived !== null).length
      items.push({
        name: item.name,
        kind: item.kind,
        findings: evaluated.findings.map(({ rule, severity, where, value, limit, message, why, mend, waived, place }) => ({ rule, severity, where, value, limit, message, why, mend: mend?.step ?? null, waived, place })),
        gauges: evaluated.gauges,
      })
    }
    print(call, { rulebook: `${rulebook.id} ${rulebook.version}`, items, ...totals }, [
      ...items.flatMap((item) => [`${item.name} (${item.kind})`, ...item.findings.map((finding) => `  ${finding.severity.padEnd(6)} ${finding.rule}: ${finding.message}${finding.waived ? ` [waived: ${finding.waived}]` : finding.mend ? ` → ${finding.mend}` : ''}`)]),
      `${totals.blocks} block, ${totals.risky} risky, ${totals.notes} notes, ${totals.waived} waived`,
    ])
    return totals.blocks > 0 ? 1 : 0
  },
}
