import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core'
import { SortableContext, horizontalListSortingStrategy, sortableKeyboardCoordinates } from '@dnd-kit/sortable'
import { useEffect, useRef } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { Stage } from '../../core/support/stages'
import { requestAgain, runId, useProgress, type SettledRun } from '../queries/runs'
import { useCrate } from '../crate/use-crate'
import { withArticle } from '../ui/format'
import { ProgressStrip } from '../ui/progress-strip'
import { AddStep } from './add-step'
import { Slip } from './slip'
import { StepCard } from './step-card'
import type { BenchJobs } from '../crate/use-bench-jobs'

interface BeltProps {
  item: CrateItem
  run: SettledRun | undefined
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
  const entry = worklist.find((each) => each.id === opened)
  const outcomeOf = (id: string) => run?.evaluation?.outcomes.find((outcome) => outcome.entry === id)

  const firstOfStage = worklist.find((each) => steps.find((step) => step.id === each.step)?.stage === stage)?.id
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

  return (
    <section aria-label="Worklist" className="belt relative h-[96px] shrink-0 border-t-2 border-ink">
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
      {entry && (
        <StepCard
          key={entry.id}
          entry={entry}
          info={steps.find((step) => step.id === entry.step)}
          outcome={outcomeOf(entry.id)}
          item={item}
          position={worklist.indexOf(entry)}
          count={worklist.length}
          onChange={(parameters) => void send({ do: 'edit-step', item: item.id, entry: entry.id, parameters })}
          onSwitch={(on) => void send({ do: 'switch-step', item: item.id, entry: entry.id, on })}
          onMove={(to) => void send({ do: 'move-step', item: item.id, entry: entry.id, to })}
          onRemove={() => {
            onOpen(null)
            void send({ do: 'remove-step', item: item.id, entry: entry.id })
          }}
          onClose={() => onOpen(null)}
          anchor={() => strip.current?.querySelector(`[data-entry="${entry.id}"]`) ?? null}
        />
      )}
      <div ref={strip} className="flex h-full items-center overflow-x-auto px-3 pt-1.5 pb-1">
        {worklist.length === 0 ? (
          <div className="flex items-center gap-4 pr-4">
            <button type="button" className="button-main py-2" onClick={jobs.prepare} disabled={progress !== null}>
              Prepare for me
            </button>
            <p className="max-w-md text-[13px] text-ink-2">
              Looks at the source and at what {rulebook.title} asks of {withArticle(item.kind)}, and lays out every step
              that is needed, each with its reason. You can change all of it.
            </p>
          </div>
        ) : (
          <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={moved}>
            <SortableContext items={worklist.map((each) => each.id)} strategy={horizontalListSortingStrategy}>
              <ol className="flex items-center">
                {worklist.map((each, index) => (
                  <Slip
                    key={each.id}
                    entry={each}
                    number={index + 1}
                    info={steps.find((step) => step.id === each.step)}
                    outcome={outcomeOf(each.id)}
                    open={each.id === opened}
                    running={progress?.entry === each.id}
                    dimmed={
                      steps.find((step) => step.id === each.step)?.stage !== stage &&
                      !['check', 'intake'].includes(stage)
                    }
                    onOpen={() => onOpen(each.id === opened ? null : each.id)}
                  />
                ))}
              </ol>
            </SortableContext>
          </DndContext>
        )}
        <AddStep steps={steps} stage={stage} onAdd={jobs.addStep} disabled={progress !== null} />
        {worklist.length > 0 && (
          <button
            type="button"
            className="button ml-3 text-[13px]"
            disabled={progress !== null}
            onClick={() => (run?.state === 'stopped' ? requestAgain(crate.id, item, game, true) : jobs.prepare())}
          >
            {run?.state === 'stopped' ? 'Run again' : 'Prepare anew'}
          </button>
        )}
      </div>
    </section>
  )
}
