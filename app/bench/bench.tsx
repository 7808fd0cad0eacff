import { useCallback, useEffect, useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { kindOf } from '../../core/game/load'
import type { Stage } from '../../core/support/stages'
import { Split } from '../crate/panels'
import { WithRail } from '../crate/with-rail'
import { RouteBar } from '../crate/route-bar'
import { requestRuns } from '../queries/crate-runs'
import { runId, useItemRun } from '../queries/runs'
import { questionsOfRun } from '../crate/questions-of-run'
import { findingsOf, stageStatus } from '../crate/stage-status'
import { useCrate } from '../crate/use-crate'
import { packStatus, trialStatus, usePackFacts } from '../crate/pack-facts'
import type { Gauge } from '../../core/rules/rule'
import type { FindingMessage } from '../workers/messages'
import { placeOfAll } from './place-of-all'
import { Belt } from './belt'
import { OpenedStep } from './opened-step'
import { FindingsPanel } from './findings-panel'
import { GaugePanel } from './gauge-panel'
import { IntakeDesk } from '../intake/intake-desk'
import { usePicks } from '../intake/use-picks'
import { PreparedDesk } from '../prepared/prepared-desk'
import { useBeginPreparing } from '../prepared/use-begin-preparing'
import { ResultMaps, SurfaceSwitch } from '../surface/result-maps'
import { SurfaceDesk } from '../surface/surface-desk'
import { useBenchJobs } from '../crate/use-bench-jobs'
import { TouchTestPanel } from '../solids/touch-test-panel'
import { useOpenAsked } from './use-open-asked'
import { YardPanel } from './yard-panel'
import { changeYardView, resetYardView, useYardView } from '../yard/yard-view'
import type { Framing } from '../yard/yard-settings'

/** At Solids only what its solids count towards; all of them elsewhere. */
const gaugesFor = (stage: Stage, gauges: readonly Gauge[]): readonly Gauge[] =>
  stage === 'solids'
    ? gauges.filter((gauge) => gauge.stage === 'solids' || gauge.id === 'with-solids' || gauge.id === 'triangles')
    : gauges

interface BenchProps {
  item: CrateItem
  stage: Stage
  /** Whether what preparing came to is shown, source and result side by side. */
  prepared: boolean
}

/** One item: the yard, the worklist on its belt, gauges and findings. */
export function Bench({ item, stage, prepared }: BenchProps) {
  const { crate, rulebook, game } = useCrate()
  const kind = kindOf(rulebook, item.kind)
  const run = useItemRun(runId(crate.id, item.id))
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
  // A game without maps has its tints looked at in the yard.
  const hasMaps = stage === 'surface' && rulebook.maps.roles.length > 0
  const showsMaps = useYardView((view) => view.atSurface === 'maps' && view.pick === null) && hasMaps
  const waitingEntry = useYardView((view) => view.pick?.entry)
  const waitsForPick = item.worklist.some((entry) => entry.id === waitingEntry)
  useEffect(() => {
    // Several clicks make one pick: the worklist runs when it is done.
    if (waitsForPick) return
    requestRuns(crate, game, item)
  }, [crate, item, game, waitsForPick])

  // After the run was asked for, which ends what was under way before it.
  useBeginPreparing(jobs.prepare)
  useOpenAsked(item, jobs, setOpened)

  const showMe = useCallback((shown: readonly FindingMessage[]) => {
    const { parts, texture, spots, bounds } = placeOfAll(shown)
    setSelected(parts[0] ?? null)
    if (texture !== null) setMap(texture)
    else if (bounds || spots.length > 0) changeYardView({ atSurface: 'yard' })
    changeYardView({ spots })
    if (bounds) setFraming({ ...bounds, at: Date.now() })
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
  const tallDesk = atIntake || prepared
  const findingsPanel = (
    <FindingsPanel
      item={item}
      findings={findings}
      stage={stage}
      ran={Boolean(run?.evaluation)}
      onShow={showMe}
      questions={questionsOfRun(item, run)}
      onAnswer={jobs.answer}
      onMend={jobs.mend}
      onOpenStep={setOpened}
    />
  )
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
      <WithRail crate={crate}>
        <div className="flex min-w-0 flex-1 flex-col">
          <h1 className="sr-only">{item.name}</h1>
          <Split
            id={tallDesk ? 'tall-desk' : 'desk'}
            orientation="vertical"
            sized="second"
            pixels={tallDesk ? 250 : 176}
            least={90}
            most={520}
            label="Height of what stands below the belt"
            first={
              <div className="flex min-h-0 min-w-0 flex-1 flex-col">
                <div className="flex min-h-0 flex-1">
                  <OpenedStep item={item} run={run} opened={opened} onOpen={setOpened} />
                  <div className="relative flex min-w-0 flex-1 flex-col">
                    {showsMaps ? (
                      <SurfaceDesk
                        key={item.id}
                        item={item}
                        run={run}
                        findings={findings}
                        selected={map}
                        onSelect={setMap}
                      />
                    ) : (
                      <YardPanel
                        item={item}
                        run={run}
                        rulebook={rulebook}
                        stage={stage}
                        selected={selected}
                        onSelect={setSelected}
                        framing={framing}
                        sideBySide={prepared}
                        picking={atIntake ? { picks, area: areaPicking, onArea: setAreaPicking } : null}
                      />
                    )}
                    {hasMaps && <SurfaceSwitch />}
                  </div>
                </div>
                <Belt item={item} run={run} stage={stage} opened={opened} onOpen={setOpened} jobs={jobs} />
              </div>
            }
            second={
              <>
                {prepared ? (
                  <PreparedDesk item={item} run={run} findings={findings} jobs={jobs} otherwise={findingsPanel} />
                ) : atIntake ? (
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
                      <TouchTestPanel
                        item={item}
                        rulebook={rulebook}
                        ready={run?.state === 'done'}
                        onShow={showPlace}
                      />
                    )}
                    {findingsPanel}
                  </>
                )}
              </>
            }
          />
        </div>
      </WithRail>
    </>
  )
}
