import { useState } from 'react'
import { useNavigate } from 'react-router'
import { keepTrial } from '../crate/pack-facts'
import { useCrate } from '../crate/use-crate'
import { useRepacked } from '../queries/pack-queries'
import { getPackFacts } from '../storage/packs'
import { tellError } from '../ui/notify'
import { ProgressStrip } from '../ui/progress-strip'
import { packCrate, runTrial, stopPacking } from '../workers/clients'
import type { Progress } from '../workers/messages'

/** Packs the crate and lets the stand-in loader read it, then goes to where that is shown. */
export function PackAndTry({ disabled }: { disabled: boolean }) {
  const { crate, game } = useCrate()
  const navigate = useNavigate()
  const repacked = useRepacked(crate.id)
  const [progress, setProgress] = useState<Progress | null>(null)
  const run = async (): Promise<void> => {
    setProgress({ entry: '', title: 'Packing', fraction: 0, doing: '' })
    try {
      await packCrate(crate, setProgress)
      await repacked()
      setProgress({ entry: '', title: 'Trial', fraction: 1, doing: 'the loader reads the pack' })
      const facts = await getPackFacts(crate.id)
      if (facts) keepTrial(crate.id, facts.sha256, await runTrial(crate.id, game))
      await navigate(`/crate/${crate.id}/trial`)
    } catch (error) {
      tellError(error)
    } finally {
      setProgress(null)
    }
  }
  if (progress)
    return (
      <ProgressStrip
        title={progress.title}
        doing={progress.doing}
        fraction={progress.fraction}
        of="of the work"
        onStop={() => {
          stopPacking()
          setProgress(null)
        }}
      />
    )
  return (
    <button type="button" className="button-main" disabled={disabled} onClick={() => void run()}>
      Pack and try it
    </button>
  )
}
