import { area, line, scaleLinear } from 'd3'
import { useId, useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { WorklistEntry } from '../../core/worklist/entry'
import { useCrate } from '../crate/use-crate'
import { useSampling } from '../queries/item-queries'
import { formatBytes, formatCount } from '../ui/format'
import type { SamplingReport } from '../workers/messages'
import { useYardView } from '../yard/yard-view'

type Curve = SamplingReport['curves'][number]

const WIDTH = 278
const LEFT = 34
const CURVE_HEIGHT = 92
const ERROR_HEIGHT = 46
const GAP = 14

/** The curve before and after sampling and how far both are apart, as the settings have it while they are dragged. */
export function SamplingChart({ item, entry }: { item: CrateItem; entry: WorklistEntry }) {
  const { game, rulebook } = useCrate()
  const draft = useYardView((view) => (view.draft?.entry === entry.id ? view.draft : null))
  const at = item.worklist.indexOf(entry)
  const parameters = draft ? { ...entry.parameters, [draft.key]: draft.value } : entry.parameters
  const report = useSampling({ ...item, worklist: item.worklist.slice(0, at) }, game, parameters)
  const [shown, setShown] = useState(0)
  const id = useId()
  if (!report) return <p className="caption min-h-[200px]">Sampling the motion …</p>
  const curve = report.curves.at(Math.min(shown, report.curves.length - 1))
  if (!curve) return null
  const unit = { length: rulebook.space.unit.plural, degrees: '°', share: 'of its size' }[curve.unit]
  return (
    <figure className="text-[12.5px]">
      <figcaption className="flex flex-wrap items-baseline justify-between gap-x-2">
        <span>
          <span className="num font-semibold">
            {formatCount(report.keysBefore)} → {formatCount(report.keysAfter)}
          </span>{' '}
          of {formatCount(rulebook.motion.mostKeys)} keys
        </span>
        <span className="num">
          {formatBytes(report.bytesBefore)} → {formatBytes(report.bytesAfter)}
        </span>
      </figcaption>
      {report.curves.length > 1 && (
        <select
          id={id}
          aria-label="Curve that is shown"
          className="field mt-1 w-full"
          value={Math.min(shown, report.curves.length - 1)}
          onChange={(event) => setShown(Number(event.target.value))}
        >
          {report.curves.map((each, number) => (
            <option key={number} value={number}>
              {each.node}: {words[each.path]} ({each.clip})
            </option>
          ))}
        </select>
      )}
      <Chart curve={curve} unit={unit} />
      <p>
        {curve.worst.error === 0
          ? 'It is as before at all times.'
          : `Off by ${withUnit(curve.worst.error, unit)} at most, at ${curve.worst.at.toFixed(2)} s; ` +
            `${withUnit(curve.allowed, unit)} may be.`}
      </p>
    </figure>
  )
}

const words: Record<Curve['path'], string> = { translation: 'place', rotation: 'turn', scale: 'size' }
const withUnit = (value: number, unit: string): string => `${short(value)}${unit === '°' ? '' : ' '}${unit}`
const short = (value: number): string => (value === 0 ? '0' : value.toPrecision(2))

function Chart({ curve, unit }: { curve: Curve; unit: string }) {
  const { seconds, before, after, error, keys, keyValues, allowed } = curve
  const end = seconds[seconds.length - 1]
  const x = scaleLinear([seconds[0], end], [LEFT, WIDTH - 4])
  const top = Math.max(1e-9, ...before, ...after)
  const y = scaleLinear([0, top], [CURVE_HEIGHT, 4]).nice(3)
  const most = Math.max(allowed * 1.25, ...error) || 1
  const down = scaleLinear([0, most], [CURVE_HEIGHT + GAP + ERROR_HEIGHT, CURVE_HEIGHT + GAP])
  const pathOf = line<number>()
    .x((_, at) => x(seconds[at]))
    .y((value) => y(value))
  const errorArea = area<number>()
    .x((_, at) => x(seconds[at]))
    .y0(down(0))
    .y1((value) => down(value))
  const bottom = CURVE_HEIGHT + GAP + ERROR_HEIGHT
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${bottom + 16}`}
      className="mt-1 w-full"
      role="img"
      aria-label={`How far ${curve.node} is from where it begins, before and after, and how far apart both are`}
    >
      {y.ticks(3).map((tick) => (
        <g key={tick}>
          <line x1={LEFT} x2={WIDTH - 4} y1={y(tick)} y2={y(tick)} stroke="var(--color-edge)" />
          <text x={LEFT - 4} y={y(tick) + 3.5} textAnchor="end" className="num fill-ink-2 text-[10px]">
            {tick}
            {unit === '°' ? '°' : ''}
          </text>
        </g>
      ))}
      <path d={pathOf([...before]) ?? ''} fill="none" stroke="var(--color-edge-strong)" strokeWidth={4} />
      <path d={pathOf([...after]) ?? ''} fill="none" stroke="var(--color-spruce)" strokeWidth={1.5} />
      {[...keys].map((key, at) => (
        <circle key={at} cx={x(key)} cy={y(keyValues[at])} r={2} fill="var(--color-spruce)" />
      ))}
      <path d={errorArea([...error]) ?? ''} fill="var(--color-block)" fillOpacity={0.55} />
      <line
        x1={LEFT}
        x2={WIDTH - 4}
        y1={down(allowed)}
        y2={down(allowed)}
        stroke="var(--color-ink)"
        strokeDasharray="3 3"
      />
      <line x1={LEFT} x2={WIDTH - 4} y1={down(0)} y2={down(0)} stroke="var(--color-edge-strong)" />
      <text x={LEFT - 4} y={down(allowed) + 3.5} textAnchor="end" className="num fill-ink-2 text-[10px]">
        {short(allowed)}
      </text>
      <text x={LEFT} y={bottom + 12} className="num fill-ink-2 text-[10px]">
        {seconds[0].toFixed(1)} s
      </text>
      <text x={WIDTH - 4} y={bottom + 12} textAnchor="end" className="num fill-ink-2 text-[10px]">
        {end.toFixed(1)} s
      </text>
      <text x={WIDTH - 8} y={bottom + 12} dx={-32} textAnchor="end" className="fill-ink-2 text-[10px]">
        error
      </text>
    </svg>
  )
}
