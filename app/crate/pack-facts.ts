import { create } from 'zustand'
import type { Crate } from '../../core/crate/schema'
import { hashValue } from '../../core/support/hashing'
import { usePack } from '../queries/pack-queries'
import { formatMegabytes } from '../ui/format'
import type { TrialReport } from '../workers/trial.worker'
import type { StageStatus } from './stage-status'

/** The last trial of each crate in this visit, with the pack it was of. */
interface TrialsState {
  trials: Record<string, { sha256: string; report: TrialReport }>
}
export const useTrials = create<TrialsState>(() => ({ trials: {} }))

export function keepTrial(crateId: string, sha256: string, report: TrialReport): void {
  useTrials.setState(({ trials }) => ({ trials: { ...trials, [crateId]: { sha256, report } } }))
}

export interface PackState {
  packed: { bytes: number; sha256: string; current: boolean } | null
  trial: TrialReport | null
}

const hashes = new WeakMap<Crate, string>()

/** The hash of a crate, made once for each value of it. */
function hashOf(crate: Crate): string {
  const hash = hashes.get(crate) ?? hashValue(crate)
  hashes.set(crate, hash)
  return hash
}

/** What is known of a crate's last pack and its trial. */
export function usePackFacts(crate: Crate): PackState {
  const pack = usePack(crate.id)
  const trial = useTrials((state) => state.trials[crate.id])
  const packed = pack ? { bytes: pack.size, sha256: pack.sha256, current: pack.crateHash === hashOf(crate) } : null
  return { packed, trial: trial && trial.sha256 === packed?.sha256 ? trial.report : null }
}

export function packStatus({ packed }: PackState): StageStatus {
  if (!packed) return { status: 'idle', text: 'not packed' }
  return packed.current
    ? { status: 'clear', text: formatMegabytes(packed.bytes) }
    : { status: 'note', text: 'changed since' }
}

export function trialStatus({ trial }: PackState): StageStatus {
  if (!trial) return { status: 'idle', text: 'not run' }
  if (!trial.loads) return { status: 'blocks', text: 'refused' }
  return trial.log.some((line) => line.level === 'complaint')
    ? { status: 'risky', text: 'loads, complains' }
    : { status: 'clear', text: 'loads' }
}
