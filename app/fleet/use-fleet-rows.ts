import { useMemo } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { useCrate } from '../crate/use-crate'
import { runId, useProgresses, useRuns } from '../queries/runs'
import { rowOf, type FleetRow } from './fleet-rows'

/** A row for each item; how far it is with what runs is not looked at. */
export function useFleetRows(): FleetRow[] {
  const { crate } = useCrate()
  const ids = useMemo(() => crate.items.map(({ id }) => runId(crate.id, id)), [crate])
  const runs = useRuns(useShallow((state) => ids.map((id) => state.runs[id])))
  const busy = useProgresses(useShallow(({ jobs }) => ids.map((id) => jobs[id] !== undefined)))
  return useMemo(() => crate.items.map((item, at) => rowOf(item, runs[at], busy[at])), [crate, runs, busy])
}
