import { useMemo } from 'react'
import { useShallow } from 'zustand/react/shallow'
import type { PathRow } from '../../core/crate/path-row'
import { useCrate } from '../crate/use-crate'
import { runId, useRuns } from '../queries/runs'

/** The paths of all items that have run, and how many have not yet. */
export function usePathRows(): { rows: PathRow[]; waiting: number } {
  const { crate } = useCrate()
  const found = useRuns(
    useShallow(({ runs }) => crate.items.map(({ id }) => runs[runId(crate.id, id)]?.evaluation?.paths ?? null)),
  )
  return useMemo(() => {
    return {
      rows: found.flatMap((own, at) => (own ?? []).map((row) => ({ ...row, item: crate.items[at].name }))),
      waiting: found.filter((own) => own === null).length,
    }
  }, [found, crate])
}
