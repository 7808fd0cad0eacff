import { ArrowLeft, ArrowRight, Trash2, X } from 'lucide-react'
import { useEffect, useRef, type ReactNode } from 'react'
import { Link } from 'react-router'
import type { CrateItem } from '../../core/crate/schema'
import type { WorklistEntry } from '../../core/worklist/entry'
import type { Evaluation, StepInfo } from '../workers/messages'
import { Switch } from '../ui/fields/field-row'
import { FieldControl } from './fields'
import { SamplingChart } from './sampling-chart'
import { useCrate } from '../crate/use-crate'
import { useStepSettings } from '../queries/item-queries'
import { useYardView } from '../yard/yard-view'

interface StepCardProps {
  entry: WorklistEntry
  info: StepInfo | undefined
  outcome: Evaluation['outcomes'][number] | undefined
  item: CrateItem
  position: number
  count: number
  onChange: (parameters: Record<string, unknown>) => void
  onSwitch: (on: boolean) => void
  onMove: (to: number) => void
  onRemove: () => void
  onClose: () => void
}

/** The numbers that placing a picture by hand changes; they stand beside it. */
const placementKeys = ['width', 'right', 'up', 'turnDegrees', 'lift']

/** A step opened: why it is there, its settings, and what it did. */
export function StepCard({
  entry,
  info,
  outcome,
  item,
  position,
  count,
  onChange,
  onSwitch,
  onMove,
  onRemove,
  onClose,
}: StepCardProps) {
  const card = useRef<HTMLDivElement>(null)
  useEffect(() => card.current?.focus({ preventScroll: true }), [])
  const title = info?.title ?? entry.step
  // While a setting waits for clicks in the yard the card stands aside and keeps to that setting.
  const waitingFor = useYardView((view) => (view.pick?.entry === entry.id ? view.pick.key : null))
  const { crate, game } = useCrate()
  const settings = useStepSettings(
    { ...item, worklist: item.worklist.slice(0, position) },
    game,
    info ? entry.step : null,
  )
  const fields = settings?.fields.filter((field) =>
    waitingFor === null
      ? !field.when || field.when.is.some((each) => each === entry.parameters[field.when?.key ?? ''])
      : field.key === waitingFor || (waitingFor === 'placement' && placementKeys.includes(field.key)),
  )
  return (
    <div
      ref={card}
      tabIndex={-1}
      role="dialog"
      aria-label={title}
      className="flex w-[312px] shrink-0 flex-col border-r-2 border-spruce bg-slip"
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose()
      }}
    >
      <div className="flex items-start gap-2 px-4 pt-3">
        <h2 className="flex-1 text-[17px] leading-tight">{title}</h2>
        {outcome?.state === 'done' && (
          <span className="num pt-0.5 text-[13px] font-semibold text-clear">{outcome.record.headline}</span>
        )}
        <button
          type="button"
          onClick={onClose}
          aria-label="Close the card"
          className="rounded p-0.5 text-ink-2 hover:text-ink"
        >
          <X size={17} aria-hidden="true" />
        </button>
      </div>
      <div
        className="min-h-0 flex-1 relative overflow-y-auto px-4 pb-2 [overflow-wrap:anywhere]"
        tabIndex={0}
        role="group"
        aria-label={`${title}: settings and result`}
      >
        {waitingFor === null && <p className="mt-1 text-[13px] text-ink-2">{entry.reason ?? info?.purpose}</p>}
        <div className="mt-2.5 flex flex-col gap-2.5">
          {entry.step === 'write-entry' && (
            <Link className="button w-fit" to={`/crate/${crate.id}/item/${item.id}/entry`}>
              Open the entry
            </Link>
          )}
          {entry.step === 'sample-motion' && settings && <SamplingChart item={item} entry={entry} />}
          {!settings && info && <p className="caption min-h-[150px]">Reading what the step is given …</p>}
          {fields?.map((field) => (
            <FieldControl
              key={`${field.key} ${field.label}`}
              entry={entry.id}
              field={field}
              value={entry.parameters[field.key]}
              parts={settings?.parts ?? []}
              onChange={(value) => onChange({ ...entry.parameters, [field.key]: value })}
            />
          ))}
        </div>
        {outcome?.state === 'done' && outcome.record.doesNotApply !== undefined && (
          <p className="mt-2.5 rounded border border-risk-mark bg-risk-wash px-2 py-1 text-[13px]">
            {outcome.record.doesNotApply}
          </p>
        )}
        {waitingFor === null && outcome?.state === 'failed' && (
          <p className="mt-2.5 rounded border border-block bg-block-wash px-2 py-1 text-[13px]">{outcome.message}</p>
        )}
        {waitingFor === null && outcome?.state === 'done' && (
          <div className="mt-2.5 border-t border-dashed border-edge pt-1.5">
            <p className="caption">
              What it did, in {Math.max(1, Math.round(outcome.record.milliseconds))} ms
              {outcome.reused ? ', kept from before' : ''}
            </p>
            <ul className="text-[12.5px]">
              {outcome.record.details.slice(0, 40).map((detail, index) => (
                <li key={index} className="py-px">
                  {detail}
                </li>
              ))}
            </ul>
          </div>
        )}
      </div>
      <div className="flex items-center gap-2 border-t border-edge px-4 py-2">
        <Switch on={entry.on} label="Use this step" onChange={onSwitch} />
        <span className="flex-1 text-[12.5px]">{entry.on ? 'in use' : 'off'}</span>
        <IconButton label="Move earlier" disabled={position === 0} onClick={() => onMove(position - 1)}>
          <ArrowLeft size={16} aria-hidden="true" />
        </IconButton>
        <IconButton label="Move later" disabled={position === count - 1} onClick={() => onMove(position + 1)}>
          <ArrowRight size={16} aria-hidden="true" />
        </IconButton>
        <IconButton label="Remove the step" onClick={onRemove}>
          <Trash2 size={16} aria-hidden="true" />
        </IconButton>
      </div>
    </div>
  )
}

function IconButton({
  label,
  disabled,
  onClick,
  children,
}: {
  label: string
  disabled?: boolean
  onClick: () => void
  children: ReactNode
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={disabled}
      onClick={onClick}
      className="rounded border border-edge-strong p-1 hover:border-spruce disabled:text-ink-3 disabled:opacity-50"
    >
      {children}
    </button>
  )
}
