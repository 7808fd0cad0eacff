import { formatCount } from './format'

export interface GaugeFacts {
  label: string
  value: number
  limit: number | null
  least: number
  unit: 'count' | 'bytes'
}

const shown = (value: number, unit: GaugeFacts['unit']): string =>
  unit === 'bytes' ? (value / 1024 / 1024).toFixed(1) : formatCount(value)

/** Whether a measured value is outside what is allowed. */
export const isOver = ({ value, limit, least }: GaugeFacts): boolean =>
  (limit !== null && value > limit) || value < least

/** A measured value against its limit: the tick is the limit, and beyond it the bar turns red. */
export function GaugeBar({ gauge, compact = false }: { gauge: GaugeFacts; compact?: boolean }) {
  const over = isOver(gauge)
  const limit = gauge.limit ?? Math.max(gauge.value, 1)
  const scale = Math.max(limit * 1.03, gauge.value)
  const bar = (
    <span className="relative h-2 flex-1 rounded bg-edge" aria-hidden="true">
      <span
        className={`absolute inset-y-0 left-0 rounded ${over ? 'bg-block' : 'bg-spruce-2'}`}
        style={{ width: `${Math.max(gauge.value > 0 ? 3 : 0, (gauge.value / scale) * 100)}%` }}
      />
      <span
        className="absolute -top-[3px] h-[14px] w-[2px] bg-ink"
        style={{ left: `calc(${(limit / scale) * 100}% - 1px)` }}
      />
    </span>
  )
  if (compact) return <span className="flex w-24 items-center">{bar}</span>
  const needed = gauge.least > 0 && gauge.value < gauge.least
  return (
    <li className="flex items-center gap-3">
      <span className="w-[100px] shrink-0 text-[13px]">{gauge.label}</span>
      <span className="flex w-[70px] shrink-0">{bar}</span>
      <span className={`num ml-auto text-[12.5px] whitespace-nowrap ${over ? 'font-semibold text-block' : ''}`}>
        <b className="font-semibold">{shown(gauge.value, gauge.unit)}</b>
        <span className={over ? '' : 'text-ink-2'}>
          {gauge.unit === 'bytes' && ' MB'} /{' '}
          {needed ? 'needed' : gauge.limit === null ? 'no limit' : shown(gauge.limit, gauge.unit)}
          {gauge.unit === 'bytes' && gauge.limit !== null && ' MB'}
        </span>
        {over && <span className="sr-only"> (not allowed)</span>}
      </span>
    </li>
  )
}
