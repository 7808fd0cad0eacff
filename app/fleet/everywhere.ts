import { findingKinds, type FindingKind } from '../../core/crate/finding-kinds'
import type { CrateItem } from '../../core/crate/schema'
import { severities, type Mend, type Severity } from '../../core/rules/rule'
import { stepThatSaysSo } from '../crate/mend-commands'
import { findingsOf } from '../crate/stage-status'
import type { FleetRow } from './fleet-rows'

/** One trouble over all items: where it is, and what mends it in each. */
export interface TroubleEverywhere {
  rule: string
  severity: Severity
  title: string
  why: string
  items: CrateItem[]
  /** Items in which something mends all of it at once. */
  mends: { item: CrateItem; mend: Mend }[]
}

/** The findings of a row by their trouble, sorted once. */
const kindsOfRow = new WeakMap<FleetRow, FindingKind[]>()

function kindsOf(row: FleetRow): FindingKind[] {
  const kinds = kindsOfRow.get(row) ?? findingKinds(findingsOf(row.item, row.run))
  kindsOfRow.set(row, kinds)
  return kinds
}

/** What was found in all items, the gravest first, then what most items have; what is waived is left out. */
export function troublesEverywhere(rows: readonly FleetRow[]): TroubleEverywhere[] {
  const troubles = new Map<string, TroubleEverywhere>()
  for (const row of rows)
    for (const { rule, severity, title, why, waived, mend } of kindsOf(row)) {
      const { item } = row
      if (waived) continue
      const key = `${rule} ${severity}`
      const trouble = troubles.get(key) ?? { rule, severity, title, why, items: [], mends: [] }
      trouble.items.push(item)
      if (mend && !stepThatSaysSo(item, mend)) trouble.mends.push({ item, mend })
      troubles.set(key, trouble)
    }
  return [...troubles.values()].sort(
    (a, b) => severities.indexOf(a.severity) - severities.indexOf(b.severity) || b.items.length - a.items.length,
  )
}
