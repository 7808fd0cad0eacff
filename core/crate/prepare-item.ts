import { checkResult } from './evaluate.ts'
import type { Finding } from '../rules/rule.ts'
import { steps } from '../steps/registry.ts'
import { laidOver } from '../support/json-value.ts'
import { hashValue } from '../support/hashing.ts'
import { plural } from '../support/wording.ts'
import { newEntryId, type WorklistEntry } from '../worklist/entry.ts'
import { prepareWorklist } from '../worklist/prepare.ts'
import { proposeStep, settingsAt } from '../worklist/propose-step.ts'
import { runWorklist, type RunOptions, type RunResult, type StartState } from '../worklist/run.ts'

/** How many mends are tried before it is left to the modder. */
const MOST_TRIED = 8

/** An item that was prepared: its worklist, what came of it, and how it got there. */
export interface Prepared {
  /** An entry that a check led to says so in its reason. */
  worklist: WorklistEntry[]
  result: RunResult
  findings: Finding[]
  /** What was tried after each check, a sentence each. */
  rounds: string[]
}

/**
 * Prepares an item in a closed loop: proposes a worklist, runs it, checks what comes out, and tries the mend of each
 * finding that blocks or is risky, the worst first; what comes after a mend is proposed anew, for what it leaves. It
 * stays only if it leaves fewer of them, or less of one. Ends when nothing is left that has a mend, or after so many
 * tries.
 * @param decided entries that a person put in, set or switched: they stay as they are, and none is put beside them
 * @param itemName what the item is called in the game
 * @param slot the game's place that it stands in for
 * @throws StoppedError when the modder stopped it
 *
 * @example const { worklist } = await prepareItem(start, { rulebook, kind, store: memoryStore() })
 */
export async function prepareItem(
  start: StartState,
  options: RunOptions,
  {
    decided = [],
    itemName,
    slot,
  }: { decided?: readonly WorklistEntry[]; itemName?: string; slot?: string | null } = {},
): Promise<Prepared> {
  const check = (worklist: WorklistEntry[]): Promise<Checked> => checked(start, worklist, options, { itemName, slot })
  let best = await check(await prepareWorklist(start, options, decided))
  const tried = new Set<string>()
  const rounds: string[] = []
  // What a mend put in or set stays while what comes later is proposed anew.
  let settled = [...decided]
  for (let count = 0; count < MOST_TRIED; count++) {
    const finding = best.open.find(({ mend }) => mend && !tried.has(hashValue(mend)))
    if (!finding?.mend) break
    tried.add(hashValue(finding.mend))
    const mended = await withMend(start, best.worklist, finding, options)
    if (mended === null) continue
    const { step } = finding.mend
    const kept = [...settled.filter((entry) => entry.step !== step), ...mended.filter((entry) => entry.step === step)]
    const after = await check(await prepareWorklist(start, options, kept, { worklist: mended, step }))
    const helps = isBetter(after, best)
    rounds.push(
      `${finding.message}: “${stepTitle(finding.mend.step)}” was tried and ` +
        `${helps ? `stays; ${leftOpen(after)}` : 'taken back, since it helps none of the findings'}.`,
    )
    if (helps) [best, settled] = [after, kept]
  }
  const { worklist, result, findings } = best
  return { worklist, result, findings, rounds }
}

interface Checked {
  worklist: WorklistEntry[]
  result: RunResult
  findings: Finding[]
  /** Findings that block or are risky, the worst first. */
  open: Finding[]
}

async function checked(
  start: StartState,
  worklist: WorklistEntry[],
  options: RunOptions,
  named: { itemName?: string; slot?: string | null },
): Promise<Checked> {
  const result = await runWorklist(start, worklist, options)
  const { findings } = checkResult(result, { rulebook: options.rulebook, kind: options.kind, ...named })
  return { worklist, result, findings, open: findings.filter(({ severity }) => severity !== 'note') }
}

const leftOpen = ({ open }: Checked): string =>
  open.length === 0 ? 'nothing is left' : `${plural(open.length, 'finding')} ${open.length === 1 ? 'is' : 'are'} left`

const stepTitle = (id: string): string => steps.find((step) => step.id === id)?.title ?? id

const blocksOf = ({ open }: Checked): number => open.filter(({ severity }) => severity === 'blocks').length

const isBetter = (after: Checked, before: Checked): boolean =>
  !(after.result.failed && !before.result.failed) &&
  firstDifference([blocksOf, ({ open }) => open.length, distanceOf], after, before) < 0

const distanceOf = ({ open }: Checked): number => open.reduce((sum, { distance = 0 }) => sum + distance, 0)

/** By the first measure that differs: below 0 where the first is less. */
function firstDifference(measures: readonly ((checked: Checked) => number)[], a: Checked, b: Checked): number {
  for (const measure of measures) if (measure(a) !== measure(b)) return measure(a) - measure(b)
  return 0
}

/**
 * The worklist with a finding's mend in it: as a new entry, or by setting one that is there; null where it is already.
 */
async function withMend(
  start: StartState,
  worklist: readonly WorklistEntry[],
  { mend, message }: Finding,
  options: RunOptions,
): Promise<WorklistEntry[] | null> {
  if (!mend) return null
  const reason = `Found when it was checked: ${message}.`
  const there = worklist.filter((entry) => entry.step === mend.step)
  if (there.some(({ byHand }) => byHand === true)) return null
  if (there.length > 0) {
    const [first] = there
    const place = { step: mend.step, at: worklist.indexOf(first) }
    const parameters = laidOver(first.parameters, await settingsAt(start, worklist, place, mend.parameters, options))
    if (there.length > 1 || hashValue(parameters) === hashValue(first.parameters)) return null
    return worklist.map((entry) => (entry === first ? { ...entry, on: true, parameters, reason } : entry))
  }
  const { entries, at } = await proposeStep(start, worklist, mend.step, mend.parameters, options)
  const added: WorklistEntry[] = []
  for (const entry of entries) added.push({ ...entry, id: newEntryId([...worklist, ...added]), reason })
  return [...worklist.slice(0, at), ...added, ...worklist.slice(at)]
}
