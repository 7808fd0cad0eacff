import { useEffect, useRef } from 'react'
import { useSearchParams } from 'react-router'
import type { CrateItem } from '../../core/crate/schema'
import type { BenchJobs } from '../crate/use-bench-jobs'

/**
 * Opens the step that the address asks for, which is put in where the worklist has none; then the address is plain
 * again.
 */
export function useOpenAsked(item: CrateItem, jobs: BenchJobs, onOpen: (entry: string) => void): void {
  const [search, setSearch] = useSearchParams()
  const asked = search.get('open')
  const done = useRef<string | null>(null)
  useEffect(() => {
    if (asked === null || done.current === asked) return
    done.current = asked
    const present = item.worklist.findLast(({ step }) => step === asked)
    setSearch(
      (before) => {
        before.delete('open')
        return before
      },
      { replace: true },
    )
    if (present) onOpen(present.id)
    else
      void jobs.addStep(asked).then((added) => {
        if (added !== null) onOpen(added)
      })
  }, [asked, item, jobs, onOpen, setSearch])
}
