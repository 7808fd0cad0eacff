import { checkResult } from './evaluate.ts'
import type { Finding } from '../rules/rule.ts'
import { hashValue } from '../support/hashing.ts'
import { newEntryId, type WorklistEntry } from '../worklist/entry.ts'
import { prepareWorklist } from '../worklist/prepare.ts'
import { proposeStep } from '../worklist/propose-step.ts'
import { runWorklist, type RunOptions, type StartState } from '../worklist/run.ts'

/** How many mends are tried before it is left to the modder. */
const MOST_TRIED = 8

/**
 * Prepares an item in a closed loop: proposes a worklist, runs it, checks what comes out, and tries the mend of each
 * finding that blocks or is risky, the worst first; a mend stays only if it leaves fewer of them. Ends when nothing is
 * left that has a mend, or after so many tries.
 * @param decided entries that a person put in, set or switched: they stay as they are, and none is put beside them
 * @returns the worklist; an entry that a check led to says so in its reason
 * @throws StoppedError when the modder stopped it
 *
 * @example const worklist = await prepareItem(start, { rulebook, kind, store: memoryStore() })
 */
export async function prepareItem(
  start: StartState,
  options: RunOptions,
  decided: readonly WorklistEntry[] = [],
): Promise<WorklistEntry[]> {
  let best = await check(start, await prepareWorklist(start, options, decided), options)
  const tried = new Set<string>()
  for (let count = 0; count < MOST_TRIED; count++) {
    const finding = best.open.find(({ mend }) => mend && !tried.has(hashValue(mend)))
    if (!finding?.mend) break
    tried.add(hashValue(finding.mend))
    const mended = await withMend(start, best.worklist, finding, options)
    if (mended === null) continue
    const after = await check(start, mended, options)
    if (isBetter(after, best)) best = after
  }
  return best.worklist
}

interface Checked {
  worklist: WorklistEntry[]
  /** Findings that block or are risky, the worst first. */
  open: Finding[]
  failed: boolean
}

async function check(start: StartState, worklist: WorklistEntry[], options: RunOptions): Promise<Checked> {
  const result = await runWorklist(start, worklist, options)
  const { findings } = checkResult(result, { rulebook: options.rulebook, kind: options.kind })
  return { worklist, failed: result.failed, open: findings.filter(({ severity }) => severity !== 'note') }
}

const blocksOf = ({ open }: Checked): number => open.filter(({ severity }) => severity === 'blocks').length

const isBetter = (after: Checked, before: Checked): boolean =>
  !(after.failed && !before.failed) &&
  (blocksOf(after) < blocksOf(before) ||
    (blocksOf(after) === blocksOf(before) && after.open.length < before.open.length))

/** The worklist with a finding's mend in it: as a new entry, or by setting one that is there; null where it is already. */
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
    const parameters = { ...first.parameters, ...mend.parameters }
    if (there.length > 1 || hashValue(parameters) === hashValue(first.parameters)) return null
    return worklist.map((entry) => (entry === first ? { ...entry, on: true, parameters, reason } : entry))
  }
  const { entries, at } = await proposeStep(start, worklist, mend.step, mend.parameters, options)
  const added: WorklistEntry[] = []
  for (const entry of entries) added.push({ ...entry, id: newEntryId([...worklist, ...added]), reason })
  return [...worklist.slice(0, at), ...added, ...worklist.slice(at)]
}
