import { useEffect } from 'react'
import { findKind } from '../../core/game/load'
import type { Stage } from '../../core/support/stages'
import { packStatus, trialStatus, usePackFacts } from './pack-facts'
import { RouteBar } from './route-bar'
import { requestRuns } from '../queries/crate-runs'
import { runId, useItemRun } from '../queries/runs'
import { stageStatus, type StageStatus } from './stage-status'
import { useCrate } from './use-crate'

/** The route bar of the pages that are about the whole crate: its stages lead to the first item. */
export function CrateRouteBar({ current }: { current: Stage }) {
  const { crate, rulebook, game } = useCrate()
  const facts = usePackFacts(crate)
  const [first] = crate.items
  const run = useItemRun(runId(crate.id, first?.id ?? ''))
  useEffect(() => {
    requestRuns(crate, game)
  }, [crate, game])
  const statusOf = (stage: Stage): StageStatus => {
    if (stage === 'pack') return packStatus(facts)
    if (stage === 'trial') return trialStatus(facts)
    if (!first) return { status: 'idle', text: 'no item yet' }
    const kind = findKind(rulebook, first.kind)
    return kind ? stageStatus(stage, first, kind, rulebook, run) : { status: 'blocks', text: 'no such kind' }
  }
  const linkOf = (stage: Stage): string =>
    stage === 'pack' || stage === 'trial'
      ? `/crate/${crate.id}/${stage}`
      : first
        ? `/crate/${crate.id}/item/${first.id}?stage=${stage}`
        : `/crate/${crate.id}`
  return <RouteBar statusOf={statusOf} linkOf={linkOf} current={current} />
}
