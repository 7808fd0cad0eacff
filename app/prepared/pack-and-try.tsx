import { useNavigate } from 'react-router'
import { keepTrial } from '../crate/pack-facts'
import { useCrate } from '../crate/use-crate'
import { usePacking } from '../crate/use-packing'
import { getPackFacts } from '../storage/packs'
import { ProgressStrip } from '../ui/progress-strip'
import { runTrial } from '../workers/clients'
import type { Progress } from '../workers/messages'

/** Packs the crate and lets the stand-in loader read it, then goes to where that is shown. */
export function PackAndTry({ disabled }: { disabled: boolean }) {
  const { crate, game } = useCrate()
  const navigate = useNavigate()
  const { progress, pack, stop } = usePacking()
  const tryIt = async (tell: (progress: Progress) => void): Promise<void> => {
    tell({ entry: '', title: 'Trial', fraction: 1, doing: 'the loader reads the pack' })
    const facts = await getPackFacts(crate.id)
    if (facts) keepTrial(crate.id, facts.sha256, await runTrial(crate.id, game))
    await navigate(`/crate/${crate.id}/trial`)
  }
  if (progress)
    return (
      <ProgressStrip
        title={progress.title}
        doing={progress.doing}
        fraction={progress.fraction}
        of="of the work"
        onStop={stop}
      />
    )
  return (
    <button type="button" className="button-main" disabled={disabled} onClick={() => void pack(tryIt)}>
      Pack and try it
    </button>
  )
}
