import { gameNamed, tellLaterRulebook } from '../game.ts'
import { basename } from 'node:path'
import { evaluateItems } from '../../core/crate/evaluate-items.ts'
import { countOpen, type JudgedFinding } from '../../core/crate/waivers.ts'
import { readArchive } from '../../core/support/archive.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { inspectPack } from '../../core/inspect/inspect-pack.ts'
import { isCrateFile } from '../../core/crate/file.ts'
import { gameOfPack } from '../../core/pack/open-pack.ts'
import { builtInRulebooks, rulebookById } from '../../core/game/load.ts'
import type { Rulebook } from '../../core/game/schema.ts'
import { findingKinds, tellKind } from '../../core/crate/finding-kinds.ts'
import type { Finding, Gauge } from '../../core/rules/rule.ts'
import { noStore } from '../../core/worklist/result-store.ts'
import { parseCall, print, progressLine, type Call, type Command } from '../command.ts'
import { namesFolder, readBytes } from '../bytes.ts'
import { openCrate } from '../files.ts'
import { readFolder } from '../folders.ts'

interface CheckedItem {
  name: string
  kind: string
  findings: JudgedFinding[]
  gauges: Gauge[]
}

export const check: Command = {
  async run(words) {
    const call = parseCall(words, { rulebook: { type: 'string' } })
    if (call.positionals.length !== 1)
      throw new PlainError('it takes one crate or pack', 'check', 'Name a crate file, a folder or a pack.')
    const [path] = call.positionals
    const named = call.values['rulebook']
    const pack = await packIn(path, typeof named === 'string' ? named : undefined)
    return pack ? checkPack(call, path, pack.files, pack.rulebook) : checkCrate(call, path, named)
  },
}

/** The files of a pack, or its bytes, with the rulebook it is judged by; null when the path is a crate. */
async function packIn(
  path: string,
  named: string | undefined,
): Promise<{ files: Uint8Array | ReadonlyMap<string, Uint8Array>; rulebook: Rulebook } | null> {
  const given = namesFolder(path) ? readFolder(path) : readBytes(path)
  if (named !== undefined) {
    const isCrate = given instanceof Uint8Array ? holdsCrate(given) : isCrateFile(given.keys())
    return isCrate ? null : { files: given, rulebook: (await gameNamed(named)).game.rulebook }
  }
  const files = given instanceof Uint8Array ? readArchive(given, basename(path)) : given
  if (isCrateFile(files.keys())) return null
  const game = gameOfPack(files, builtInRulebooks())
  if (game === null)
    throw new PlainError(
      'it is neither a crate nor a pack whose manifest says its game',
      basename(path),
      'Name the game: --rulebook ID|FILE.',
    )
  return { files: given, rulebook: rulebookById(game) }
}

/**
 * Whether bytes are a crate file; a rulebook that is named with anything else says that it is a pack, however broken.
 */
function holdsCrate(bytes: Uint8Array): boolean {
  try {
    return isCrateFile(readArchive(bytes, 'it').keys())
  } catch {
    return false
  }
}

async function checkCrate(call: Call, path: string, rulebook: string | boolean | undefined): Promise<number> {
  const { crate, sources } = await openCrate(path, rulebook)
  tellLaterRulebook(crate)
  const options = { store: noStore, bytesOf: async (sha256: string) => sources.get(sha256) ?? null }
  const evaluated = await evaluateItems(crate, options, ({ name }) => progressLine(name))
  const items = evaluated.map(({ item, findings, gauges }): CheckedItem => ({
    name: item.name,
    kind: item.kind,
    findings,
    gauges,
  }))
  return report(call, crate.rulebook, items)
}

async function checkPack(
  call: Call,
  path: string,
  files: Uint8Array | ReadonlyMap<string, Uint8Array>,
  rulebook: Rulebook,
): Promise<number> {
  const pack = await inspectPack(files, basename(path), rulebook)
  const whole: CheckedItem[] =
    pack.findings.length > 0 ? [{ name: basename(path), kind: 'pack', findings: open(pack.findings), gauges: [] }] : []
  return report(call, rulebook, [...whole, ...pack.items.map((item) => ({ ...item, findings: open(item.findings) }))])
}

const open = (findings: readonly Finding[]): CheckedItem['findings'] =>
  findings.map((finding) => ({ ...finding, waived: null }))

function report(call: Call, rulebook: Rulebook, items: readonly CheckedItem[]): number {
  const counts = items.map((item) => countOpen(item.findings))
  const total = (severity: 'blocks' | 'risky' | 'note'): number => counts.reduce((sum, each) => sum + each[severity], 0)
  const waived = items.reduce((sum, item) => sum + item.findings.filter((finding) => finding.waived !== null).length, 0)
  const told = items.map(({ name, kind, findings, gauges }) => ({
    name,
    kind,
    gauges,
    findings: findings.map(({ rule, severity, where, value, limit, message, why, mend, waived: reason, place }) => ({
      rule,
      severity,
      where,
      value,
      limit,
      message,
      why,
      mend: mend?.step ?? null,
      waived: reason,
      place,
    })),
  }))
  print(
    call,
    {
      rulebook: `${rulebook.id} ${rulebook.version}`,
      items: told,
      blocks: total('blocks'),
      risky: total('risky'),
      notes: total('note'),
      waived,
    },
    [
      ...items.flatMap((item) => [
        `${item.name} (${item.kind})`,
        ...findingKinds(item.findings).map(
          ({ severity, rule, findings, mend }) =>
            `  ${severity.padEnd(6)} ${rule}: ` +
            `${tellKind({ findings })}${findings[0].waived !== null ? ` [waived: ${findings[0].waived}]` : mend ? ` → ${mend.step}` : ''}`,
        ),
      ]),
      `${total('blocks')} block, ${total('risky')} risky, ${total('note')} notes, ${waived} waived`,
    ],
  )
  return total('blocks') > 0 ? 1 : 0
}
