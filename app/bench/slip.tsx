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
      style={{ transform: transform ? `translate(${transform.x}px, ${transform.y}px)` : undefined, transition }}
    >
      <button
        {...attributes}
        {...listeners}
        type="button"
        role="button"
        aria-expanded={open}
        aria-roledescription="step; M picks it up to move it"
        title={info?.title ?? entry.step}
        onClick={onOpen}
        className={
          'relative flex h-[43px] w-[75px] touch-none flex-col rounded border px-1 py-[3px] text-left ' +
          `${open ? 'border-spruce bg-spruce-wash ring-1 ring-spruce' : 'border-edge-strong bg-slip'} ` +
          `${!entry.on ? 'border-dashed opacity-70' : ''} ${isDragging ? 'z-20 shadow-lg' : ''} ` +
          `${dimmed && !open ? 'bg-paper' : ''}`
        }
      >
        <b
          className={
            'line-clamp-2 shrink-0 text-[11px] leading-[12px] font-semibold tracking-[-0.015em] ' +
            `${entry.on ? '' : 'line-through'}`
          }
        >
          {info?.title ?? entry.step}
        </b>
        <span
          className={
            'num mt-auto truncate pr-[15px] text-[10.5px] leading-[11px] tracking-[-0.03em] font-semibold ' +
            `${result.tone}`
          }
        >
          {result.text}
        </span>
        <span className="num absolute right-1 bottom-[3px] text-[10px] leading-[12px] text-ink-2">{number}</span>
      </button>
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
