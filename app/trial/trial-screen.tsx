import { useState } from 'react'
import { Link } from 'react-router'
import { explain } from '../../core/trial/log-explanations'
import { frameOf } from '../yard/yard-framing'
import { CrateRouteBar } from '../crate/crate-route-bar'
import { Split } from '../crate/panels'
import { WithRail } from '../crate/with-rail'
import { keepTrial, useTrials } from '../crate/pack-facts'
import { useCrate } from '../crate/use-crate'
import { plural } from '../ui/format'
import { tellError } from '../ui/notify'
import { StatusMark } from '../ui/status-mark'
import { LoaderLog } from './loader-log'
import { runTrial } from '../workers/clients'
import type { TrialReport } from '../workers/trial.worker'
import { longestOf } from '../yard/reference'
import { boxOf } from '../yard/yard-framing'
import { BendBar } from '../yard/bend-bar'
import { MotionBar } from '../yard/motion-bar'
import { PlayBar } from '../yard/play/play-bar'
import { usePlay } from '../yard/play/play-state'
import { YardFrame, YardMessage } from '../yard/yard-frame'
import { yardLooks, yardSpaceOf, type Framing, type YardLook } from '../yard/yard-settings'

/** The stand-in loader reads the packed bytes, says what it did, and shows what it has loaded. */
export function TrialScreen({ packed }: { packed: { sha256: string; packedAt: number } | null }) {
  const { crate, game, rulebook } = useCrate()
  const kept = useTrials((state) => state.trials[crate.id])
  const [running, setRunning] = useState(false)
  const report = kept && kept.sha256 === packed?.sha256 ? kept.report : null

  const run = async (): Promise<void> => {
    if (!packed) return
    setRunning(true)
    try {
      keepTrial(crate.id, packed.sha256, await runTrial(crate.id, game))
    } catch (error) {
      tellError(error)
    } finally {
      setRunning(false)
    }
  }

  return (
    <>
      <CrateRouteBar current="trial" />
      <WithRail crate={crate}>
        <div className="flex min-w-0 flex-1 flex-col">
          <Split
            id="trial-desk"
            orientation="vertical"
            sized="second"
            pixels={250}
            least={120}
            most={520}
            label="Height of the loader’s log"
            first={<LoadedYard key={kept?.sha256 ?? 'none'} report={report} />}
            second={
              <section className="flex min-w-0 flex-1 bg-paper">
                <div className="flex w-[300px] shrink-0 flex-col gap-3 border-r border-edge bg-slip px-5 py-4">
                  <h1 className="text-[22px]">Trial</h1>
                  <Verdict report={report} packed={packed !== null} running={running} />
                  {packed ? (
                    <button
                      type="button"
                      className={report ? 'button' : 'button-main'}
                      onClick={() => void run()}
                      disabled={running}
                    >
                      {running ? 'Loading…' : report ? 'Load it again' : 'Load the pack'}
                    </button>
                  ) : (
                    <Link to={`/crate/${crate.id}/pack`} className="button-main text-center">
                      Pack first
                    </Link>
                  )}
                  {report?.items.map((item) => (
                    <p key={item.name} className="num text-[12.5px]">
                      {item.name}:{' '}
                      {rulebook.halfBlocks
                        ? `${plural(item.triangles, 'half-block')} in ${plural(item.solids, 'tray')}`
                        : `${plural(item.triangles, 'triangle')}, ${plural(item.solids, 'solid')}, ` +
                          `${plural(item.textures, 'texture')}`}
                    </p>
                  ))}
                </div>
                <LoaderLog log={report?.log ?? null} />
              </section>
            }
          />
        </div>
      </WithRail>
    </>
  )
}

function Verdict({ report, packed, running }: { report: TrialReport | null; packed: boolean; running: boolean }) {
  if (!report)
    return (
      <p className="text-ink-2">
        {running
          ? 'The loader reads the pack.'
          : packed
            ? 'The loader reads the packed bytes as the game would and says what it thinks of them.'
            : 'There is no pack yet.'}
      </p>
    )
  // What nothing is seen of is no complaint that counts.
  const complaints = report.log.filter((line) => line.level === 'complaint' && !explain(line).harmless).length
  const refusals = report.log.filter((line) => line.level === 'refused').length
  return (
    <p role="status" className="flex items-center gap-2 text-[16px] font-semibold">
      <StatusMark status={report.loads ? (complaints > 0 ? 'risky' : 'clear') : 'blocks'} size={15} />
      {report.loads
        ? complaints > 0
          ? `It loads, with ${complaints} complaint${complaints === 1 ? '' : 's'}`
          : 'It loads'
        : `It is refused, for ${refusals} reason${refusals === 1 ? '' : 's'}`}
    </p>
  )
}

function LoadedYard({ report }: { report: TrialReport | null }) {
  const { rulebook, game, crate } = useCrate()
  const [shown, setShown] = useState(0)
  const [look, setLook] = useState<YardLook>('seen')
  const [dusk, setDusk] = useState(false)
  const playing = usePlay((state) => state.subject !== null)
  // Lights that an event has lit are seen at dusk.
  const lit = usePlay((state) => state.frame?.lit ?? false)
  const isDusk = dusk || lit
  const item = report?.items[shown]
  const scene = report?.scenes[shown]
  const [framings] = useState(() => new Map<object, Framing>())
  if (scene && !framings.has(scene)) framings.set(scene, frameOf(scene, yardSpaceOf(rulebook)))
  const framing = scene ? framings.get(scene) : undefined
  return (
    <section
      aria-label="What was loaded"
      className={`${isDusk ? 'yard-dusk' : 'yard-ground'} relative min-h-0 min-w-0 flex-1 overflow-hidden`}
    >
      {scene && framing ? (
        <YardFrame
          shown={{ scene, look, dusk: isDusk, turned: true }}
          showSizes={!playing}
          playing={playing}
          framing={framing}
          space={yardSpaceOf(rulebook)}
          label={`${report?.items[shown].name ?? ''} as it was loaded`}
        />
      ) : (
        <YardMessage>
          {report && !report.loads
            ? 'Nothing stands here: the loader refused the pack. Its log says why.'
            : 'What the loader makes of the pack will stand here, beside the figure.'}
        </YardMessage>
      )}
      {scene && (
        <div className="absolute top-3 left-3 z-10 flex gap-1.5" role="group" aria-label="How it is shown">
          {yardLooks
            .filter(({ id }) => id === 'seen' || id === 'solids' || (id === 'held' && scene.bend))
            .map((each) => (
              <button
                key={each.id}
                type="button"
                aria-pressed={look === each.id}
                onClick={() => setLook(each.id)}
                className={
                  'rounded-full border px-3 py-0.5 text-[13px] font-semibold ' +
                  `${look === each.id ? 'border-ink bg-ink text-slip' : 'border-edge-strong bg-slip'}`
                }
              >
                {each.label}
              </button>
            ))}
          {scene.lights.length > 0 && (
            <button
              type="button"
              aria-pressed={dusk}
              onClick={() => setDusk(!dusk)}
              className={`button py-0 text-[13px] ${dusk ? 'bg-kraft-wash' : ''}`}
            >
              Dusk
            </button>
          )}
        </div>
      )}
      {scene && !playing && (
        <div className="absolute top-11 left-3 z-10 flex flex-col gap-1.5">
          {scene.motion && <MotionBar motion={scene.motion} />}
          {scene.bend && look === 'held' && (
            <BendBar bend={scene.bend} space={rulebook.space} reach={longestOf(boxOf(scene))} />
          )}
        </div>
      )}
      {scene && item && item.solids > 0 && (
        <PlayBar
          key={item.name}
          subject={{ packed: item.name, crateId: crate.id }}
          game={game}
          scene={scene}
          loose={item.loose}
        />
      )}
      {report && report.items.length > 1 && !playing && (
        <div className="absolute top-3 right-3 z-10 flex gap-1.5">
          {report.items.map((item, index) => (
            <button
              key={item.name}
              type="button"
              aria-pressed={index === shown}
              onClick={() => setShown(index)}
              className={`button text-[13px] ${index === shown ? 'bg-kraft-wash' : ''}`}
            >
              {item.name}
            </button>
          ))}
        </div>
      )}
    </section>
  )
}
