import type { Gauge } from '../../core/rules/rule'
import { GaugeBar } from '../ui/gauge-bar'

/** Measured values against the kind's limits. */
export function GaugePanel({
  gauges,
  running,
  narrow,
}: {
  gauges: readonly Gauge[]
  running: boolean
  narrow: boolean
}) {
  return (
    <section
      aria-label="Gauges"
      tabIndex={0}
      className={
        `${narrow ? 'w-[346px]' : 'w-[356px]'} shrink-0 overflow-y-auto border-r border-edge bg-slip px-4 py-3 ` +
        `${running ? 'opacity-60' : ''}`
      }
    >
      {gauges.length === 0 ? (
        <p className="text-ink-2">Gauges appear when the item has been read.</p>
      ) : (
        <ul className="flex flex-col gap-[7px]">
          {gauges.map((gauge) => (
            <GaugeBar key={gauge.id} gauge={gauge} />
          ))}
        </ul>
      )}
    </section>
  )
}
