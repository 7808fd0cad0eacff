import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core'
import { rectSortingStrategy, SortableContext, sortableKeyboardCoordinates } from '@dnd-kit/sortable'
import { useEffect, useRef } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { Stage } from '../../core/support/stages'
import type { WorklistEntry } from '../../core/worklist/entry'
import { Link } from 'react-router'
import { stageTitles } from '../crate/stage-status'
import { requestAgain, runId, useProgress, type ItemRun } from '../queries/runs'
import { useCrate } from '../crate/use-crate'
import { withArticle } from '../ui/format'
import { ProgressStrip } from '../ui/progress-strip'
import { AddStep } from './add-step'
import { Slip } from './slip'
import { preparedLink, type BenchJobs } from '../crate/use-bench-jobs'

interface BeltProps {
  item: CrateItem
  run: ItemRun | undefined
  stage: Stage
  opened: string | null
  onOpen: (entry: string | null) => void
  jobs: BenchJobs
}

/** The worklist as slips in their order; the opened one's card stands on it. */
export function Belt({ item, run, stage, opened, onOpen, jobs }: BeltProps) {
  const { crate, rulebook, game, send } = useCrate()
  const strip = useRef<HTMLDivElement>(null)
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: sortableKeyboardCoordinates,
      keyboardCodes: { start: ['KeyM'], cancel: ['Escape'], end: ['KeyM', 'Enter'] },
    }),
  )
  const { worklist } = item
  const steps = run?.evaluation?.steps ?? []
  const progress = useProgress(runId(crate.id, item.id))
  const outcomeOf = (id: string) => run?.evaluation?.outcomes.find((outcome) => outcome.entry === id)

  const stageOf = (each: WorklistEntry): Stage | null => steps.find((step) => step.id === each.step)?.stage ?? null
  const firstOfStage = worklist.find((each) => stageOf(each) === stage)?.id
  useEffect(() => {
    if (firstOfStage !== undefined)
      strip.current
        ?.querySelector(`[data-entry="${firstOfStage}"]`)
        ?.scrollIntoView({ block: 'nearest', inline: 'center' })
  }, [firstOfStage])

  const moved = ({ active, over }: DragEndEvent): void => {
    const to = worklist.findIndex((each) => each.id === over?.id)
    if (over && active.id !== over.id && to >= 0)
      void send({ do: 'move-step', item: item.id, entry: String(active.id), to })
  }

  /** What a step waits for is said on its card. */
  const addStep = async (step: string): Promise<void> => {
    const added = await jobs.addStep(step)
    if (added !== null) onOpen(added)
  }
  return (
    <section aria-label="Worklist" className="belt relative h-[124px] shrink-0 border-t-2 border-ink">
      {progress && (
        <div className="absolute inset-x-3 bottom-full z-30 mb-2 rounded-lg border border-edge-strong bg-slip px-4 py-2 shadow">
          <ProgressStrip
            title={progress.title}
            doing={progress.doing}
            fraction={progress.fraction}
            of="of the steps"
            onStop={jobs.stop}
          />
        </div>
      )}
      <div className="flex h-full items-stretch">
        <div
          ref={strip}
          tabIndex={0}
          role="group"
          aria-label="Steps in their order"
          className="relative flex min-w-0 flex-1 items-stretch overflow-x-auto px-2 py-1.5"
        >
          {worklist.length === 0 ? (
            <div className="flex items-center gap-4 pr-4">
              <button type="button" className="button-main py-2" onClick={jobs.prepare} disabled={progress !== null}>
                Prepare for me
              </button>
              <p className="max-w-md text-[13px] text-ink-2">
                Looks at the source and at what {rulebook.title} asks of {withArticle(item.kind)}, and lays out every
                step that is needed, each with its reason. You can change all of it.
              </p>
            </div>
          ) : (
            <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={moved}>
              <SortableContext items={worklist.map((each) => each.id)} strategy={rectSortingStrategy}>
                <ol className="flex items-stretch gap-2" aria-label="Stages of the worklist">
                  {runsOfStages(worklist, stageOf).map((group) => (
                    <li key={group.entries[0].id} className="flex flex-col">
                      <span
                        className={`caption border-b ${group.stage === stage ? 'border-spruce text-spruce' : 'border-edge-strong'}`}
                      >
                        {group.stage ? stageTitles[group.stage] : 'Unknown'}
                      </span>
                      <ol className="mt-1 grid flex-1 grid-flow-col grid-rows-2 content-start gap-1">
                        {group.entries.map((each) => (
                          <Slip
                            key={each.id}
                            entry={each}
                            number={worklist.indexOf(each) + 1}
                            info={steps.find((step) => step.id === each.step)}
                            outcome={outcomeOf(each.id)}
                            open={each.id === opened}
                            running={progress?.entry === each.id}
                            dimmed={group.stage !== stage && !['check', 'intake'].includes(stage)}
                            onOpen={() => onOpen(each.id === opened ? null : each.id)}
                          />
                        ))}
                      </ol>
                    </li>
                  ))}
                </ol>
              </SortableContext>
            </DndContext>
          )}
        </div>
        <div className="flex w-[106px] shrink-0 flex-col justify-center gap-1.5 border-l border-edge-strong bg-paper px-2">
          <AddStep
            item={item}
            steps={steps}
            stage={stage}
            onAdd={(step) => void addStep(step)}
            disabled={progress !== null}
          />
          {worklist.length > 0 && (
            <button
              type="button"
              className="button px-1 py-0.5 text-[12.5px]"
              disabled={progress !== null}
              onClick={() => (run?.state === 'stopped' ? requestAgain(crate.id, item, game, true) : jobs.prepare())}
            >
              {run?.state === 'stopped' ? 'Run again' : 'Prepare anew'}
            </button>
          )}
          {worklist.length > 0 && (
            <Link to={preparedLink(crate.id, item.id)} className="link text-center text-[12px]">
              What was done
            </Link>
          )}
        </div>
      </div>
    </section>
  )
}

/** Entries in their order, those of one stage that follow each other together. */
function runsOfStages(
  worklist: readonly WorklistEntry[],
  stageOf: (entry: WorklistEntry) => Stage | null,
): { stage: Stage | null; entries: WorklistEntry[] }[] {
  const runs: { stage: Stage | null; entries: WorklistEntry[] }[] = []
  for (const entry of worklist) {
    const stage = stageOf(entry)
    const last = runs.at(-1)
    if (last?.stage === stage) last.entries.push(entry)
    else runs.push({ stage, entries: [entry] })
  }
  return runs
}
