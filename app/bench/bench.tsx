import { useCallback, useEffect, useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { kindOf } from '../../core/game/load'
import type { Stage } from '../../core/support/stages'
import { ItemRail } from '../crate/item-rail'
import { RouteBar } from '../crate/route-bar'
import { requestRun, runId, useSettledRun } from '../queries/runs'
import { findingsOf, stageStatus } from '../crate/stage-status'
import { useCrate } from '../crate/use-crate'
import { packStatus, trialStatus, usePackFacts } from '../crate/pack-facts'
import type { Gauge } from '../../core/rules/rule'
import type { FindingMessage } from '../workers/messages'
import { Belt } from './belt'
import { FindingsPanel } from './findings-panel'
import { GaugePanel } from './gauge-panel'
import { IntakeDesk } from '../intake/intake-desk'
import { usePicks } from '../intake/use-picks'
import { ResultMaps, SurfaceSwitch } from '../surface/result-maps'
import { SurfaceDesk } from '../surface/surface-desk'
import { useBenchJobs } from '../crate/use-bench-jobs'
import { TouchTestPanel } from '../solids/touch-test-panel'
import { YardPanel } from './yard-panel'
import { changeYardView, resetYardView, useYardView } from '../yard/yard-view'
import type { Framing } from '../yard/yard-settings'

/** At Solids only what its solids count towards; all of them elsewhere. */
const gaugesFor = (stage: Stage, gauges: readonly Gauge[]): readonly Gauge[] =>
  stage === 'solids'
    ? gauges.filter((gauge) => gauge.stage === 'solids' || gauge.id === 'with-solids' || gauge.id === 'triangles')
    : gauges

/** One item: the yard, the worklist on its belt, gauges and findings. */
export function Bench({ item, stage }: { item: CrateItem; stage: Stage }) {
  const { crate, rulebook, game } = useCrate()
  const kind = kindOf(rulebook, item.kind)
  const run = useSettledRun(runId(crate.id, item.id))
  const packFacts = usePackFacts(crate)
  const [selected, setSelected] = useState<string | null>(null)
  const [framing, setFraming] = useState<Framing | null>(null)
  const opened = useYardView((view) => view.opened)
  const setOpened = useCallback(
    (entry: string | null) => changeYardView({ opened: entry, pick: null, draft: null }),
    [],
  )
  const jobs = useBenchJobs(item)
  const picks = usePicks()
  const [areaPicking, setAreaPicking] = useState(false)
  const atIntake = stage === 'intake'
  const [map, setMap] = useState<string | null>(null)
  const showsMaps = useYardView((view) => view.atSurface === 'maps' && view.pick === null) && stage === 'surface'
  const waitingEntry = useYardView((view) => view.pick?.entry)
  const waitsForPick = item.worklist.some((entry) => entry.id === waitingEntry)
  useEffect(() => {
    // Several clicks make one pick: the worklist runs when it is done.
    if (waitsForPick) return
    requestRun(crate.id, item, game, true)
    for (const other of crate.items) if (other.id !== item.id) requestRun(crate.id, other, game, false)
  }, [crate, item, game, waitsForPick])

  const showMe = useCallback((finding: FindingMessage) => {
    setSelected(finding.place.parts[0] ?? null)
    if (finding.place.texture !== null) setMap(finding.place.texture)
    else if (finding.place.bounds || finding.place.spots.length > 0) changeYardView({ atSurface: 'yard' })
    changeYardView({ spots: finding.place.spots })
    if (finding.place.bounds) setFraming({ ...finding.place.bounds, at: Date.now() })
  }, [])

  const showPlace = useCallback(
    (place: [number, number, number]) => {
      const reach = rulebook.space.figure.height
      changeYardView({ spots: [place] })
      setFraming({
        min: [place[0] - reach, place[1] - reach, place[2] - reach],
        max: [place[0] + reach, place[1] + reach, place[2] + reach],
        at: Date.now(),
      })
    },
    [rulebook],
  )

  useEffect(() => resetYardView, [item.id])

  const findings = findingsOf(item, run)
  return (
    <>
      <RouteBar
        current={stage}
        linkOf={(each) =>
          each === 'pack' || each === 'trial'
            ? `/crate/${crate.id}/${each}`
            : `/crate/${crate.id}/item/${item.id}?stage=${each}`
        }
        statusOf={(each) =>
          each === 'pack'
            ? packStatus(packFacts)
            : each === 'trial'
              ? trialStatus(packFacts)
              : stageStatus(each, item, kind, rulebook, run)
        }
      />
      <div className="flex min-h-0 flex-1">
        <ItemRail crate={crate} />
        <main className="flex min-w-0 flex-1 flex-col">
          <h1 className="sr-only">{item.name}</h1>
          <div className="relative flex min-h-0 flex-1 flex-col">
            {showsMaps ? (
              <SurfaceDesk key={item.id} item={item} run={run} findings={findings} selected={map} onSelect={setMap} />
            ) : (
              <YardPanel
                item={item}
                run={run}
                rulebook={rulebook}
                stage={stage}
                selected={selected}
                onSelect={setSelected}
                framing={framing}
                picking={atIntake ? { picks, area: areaPicking, onArea: setAreaPicking } : null}
              />
            )}
            {stage === 'surface' && <SurfaceSwitch />}
          </div>
          <Belt item={item} run={run} stage={stage} opened={opened} onOpen={setOpened} jobs={jobs} />
          <div className={`flex shrink-0 border-t-2 border-ink ${atIntake ? 'h-[262px]' : 'h-[186px]'}`}>
            {atIntake ? (
              <IntakeDesk
                item={item}
                run={run}
                picks={picks}
                areaPicking={areaPicking}
                onAreaPicking={setAreaPicking}
                onOpenStep={setOpened}
                jobs={jobs}
              />
            ) : (
              <>
                {showsMaps ? (
                  <ResultMaps
                    item={item}
                    ready={run?.state === 'done'}
                    limit={kind.textureMemoryBytes}
                    selected={map}
                    onSelect={setMap}
                    onOpenStep={setOpened}
                    jobs={jobs}
                  />
                ) : (
                  <GaugePanel
                    gauges={gaugesFor(stage, run?.evaluation?.gauges ?? [])}
                    running={run?.state === 'running'}
                    narrow={stage === 'solids'}
                  />
                )}
                {stage === 'solids' && kind.solids && (
                  <TouchTestPanel item={item} rulebook={rulebook} ready={run?.state === 'done'} onShow={showPlace} />
                )}
                <FindingsPanel
                  item={item}
                  findings={findings}
                  stage={stage}
                  ran={Boolean(run?.evaluation)}
                  onShow={showMe}
                  onMend={jobs.mend}
                  onOpenStep={setOpened}
                />
              </>
            )}
          </div>
        </main>
      </div>
    </>
  )
}
