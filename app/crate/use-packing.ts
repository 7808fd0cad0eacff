import { useState } from 'react'
import { useRepacked } from '../queries/pack-queries'
import { tellError } from '../ui/notify'
import { packCrate, stopPacking } from '../workers/clients'
import type { Progress } from '../workers/messages'
import { useCrate } from './use-crate'

/** Packs the crate, with how far it is and a way to stop it. */
export function usePacking(): {
  /** Null while nothing is packed. */
  progress: Progress | null
  /** @param then what follows once the pack is kept, while it still counts as under way */
  pack: (then?: (tell: (progress: Progress) => void) => Promise<void>) => Promise<void>
  stop: () => void
} {
  const { crate } = useCrate()
  const repacked = useRepacked(crate.id)
  const [progress, setProgress] = useState<Progress | null>(null)
  return {
    progress,
    pack: async (then) => {
      setProgress({ entry: '', title: 'Packing', fraction: 0, doing: '' })
      try {
        await packCrate(crate, setProgress)
        // The pack is kept: there is nothing left to stop.
        setProgress(null)
        await repacked()
        await then?.(setProgress)
      } catch (error) {
        tellError(error)
      } finally {
        setProgress(null)
      }
    },
    stop: () => {
      stopPacking()
      setProgress(null)
    },
  }
}
