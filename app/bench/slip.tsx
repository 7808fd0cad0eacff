import { useSortable } from '@dnd-kit/sortable'
import type { WorklistEntry } from '../../core/worklist/entry'
import type { Evaluation, StepInfo } from '../workers/messages'

interface SlipProps {
  entry: WorklistEntry
  number: number
  info: StepInfo | undefined
  outcome: Evaluation['outcomes'][number] | undefined
  open: boolean
  running: boolean
  /** Whether it belongs to another stage than the one looked at. */
  dimmed: boolean
  onOpen: () => void
}

/** One step on the belt: what it is, and what it did in a few characters. */
export function Slip({ entry, number, info, outcome, open, running, dimmed, onOpen }: SlipProps) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: entry.id })
  const result = resultText(entry, outcome, running)
  return (
    <li
      ref={setNodeRef}
      data-entry={entry.id}
      style={{ transform: transform ? `translateX(${transform.x}px)` : undefined, transition }}
      className="flex items-center"
    >
      <button
        {...attributes}
        {...listeners}
        type="button"
        role="button"
        aria-expanded={open}
        aria-roledescription="step; M picks it up to move it"
        onClick={onOpen}
        className={`relative flex h-[66px] w-[124px] touch-none flex-col rounded-md border px-2.5 py-1.5 text-left ${open ? '-mt-3 border-2 border-spruce bg-slip' : 'border-edge-strong bg-slip'} ${!entry.on ? 'border-dashed opacity-70' : ''} ${isDragging ? 'z-20 shadow-lg' : ''} ${dimmed && !open ? 'bg-paper' : ''}`}
      >
        <b className={`text-[12.5px] leading-tight font-semibold ${entry.on ? '' : 'line-through'}`}>
          {info?.title ?? entry.step}
        </b>
        <span className={`num mt-auto truncate pr-3.5 text-[11.5px] tracking-[-0.02em] font-semibold ${result.tone}`}>
          {result.text}
        </span>
        <span className="num absolute right-2 bottom-1.5 text-[11px] text-ink-2">{number}</span>
      </button>
      <span className="h-px w-2 bg-edge-strong" aria-hidden="true" />
    </li>
  )
}

function resultText(
  entry: WorklistEntry,
  outcome: SlipProps['outcome'],
  running: boolean,
): { text: string; tone: string } {
  if (running) return { text: 'running…', tone: 'text-spruce' }
  if (!entry.on) return { text: 'off', tone: 'text-ink-2' }
  if (outcome?.state === 'done' && outcome.record.doesNotApply !== undefined)
    return { text: '▲ does not apply', tone: 'text-risk' }
  if (outcome?.state === 'done')
    return { text: outcome.record.headline, tone: outcome.record.changed ? 'text-clear' : 'text-ink-2' }
  if (outcome?.state === 'failed') return { text: '■ failed', tone: 'text-block' }
  return { text: 'waiting', tone: 'text-ink-2' }
}
