import { useCrate } from '../crate/use-crate'
import type { CrateItem } from '../../core/crate/schema'
import type { Rulebook } from '../../core/game/schema'
import { useTouchTest } from '../queries/item-queries'
import { changeYardView, useYardView } from '../yard/yard-view'
import { StatusMark, type Status } from '../ui/status-mark'
import type { TouchReport } from '../workers/yard-messages'

interface TouchTestPanelProps {
  item: CrateItem
  rulebook: Rulebook
  /** Whether the worklist has run: only then there is something to test. */
  ready: boolean
  /** Points the view at a place. */
  onShow: (place: [number, number, number]) => void
}

interface Line {
  status: Status
  title: string
  text: string
  place: [number, number, number] | null
}

const short = (value: number): string => String(Number(value.toFixed(2)))
const verdicts = {
  rests: 'stays as it was put',
  topples: 'falls over',
  jitters: 'does not come to rest',
  sinks: 'sinks into the ground',
} as const

/** What it is like to bump into the item, computed: nobody has to walk up to it first. */
export function TouchTestPanel({ item, rulebook, ready, onShow }: TouchTestPanelProps) {
  const report = useTouchTest(item, useCrate().game, ready)
  const coloured = useYardView((view) => view.standOuts)
  const lines = report ? linesOf(report, rulebook) : []
  return (
    <section
      aria-label="Fit tests"
      className="relative flex w-[356px] shrink-0 flex-col border-r border-edge bg-slip px-4 pt-2"
    >
      <div className="caption flex items-baseline justify-between pb-1">
        <span>What it is like to bump into</span>
        {report && report.solids.length > 0 && (
          <button
            type="button"
            className="link"
            aria-pressed={coloured}
            onClick={() => changeYardView({ standOuts: !coloured, look: 'solids' })}
          >
            {coloured ? 'Hide the colours' : 'Colour what stands out'}
          </button>
        )}
      </div>
      <ul className="relative min-h-0 flex-1 overflow-y-auto text-[12.5px]" tabIndex={0} aria-label="Fit tests list">
        {lines.map((line, index) => (
          <li
            key={index}
            className="grid grid-cols-[14px_1fr_auto] items-baseline gap-2 border-b border-dashed border-edge py-[3px]"
          >
            <StatusMark status={line.status} size={9} />
            <span>
              <b className="font-semibold">{line.title}</b> {line.text}
            </span>
            {line.place && (
              <button
                type="button"
                className="link"
                onClick={() => {
                  if (line.place) onShow(line.place)
                }}
              >
                Show me
              </button>
            )}
          </li>
        ))}
        {report && report.solids.length === 0 && (
          <li className="py-2 text-ink-2">
            There is nothing to bump into yet. Add the step <b>Add a solid</b>.
          </li>
        )}
        {!report && (
          <li className="py-2 text-ink-2">{ready ? 'Trying what comes near it…' : 'The item is being read.'}</li>
        )}
      </ul>
    </section>
  )
}

function linesOf(report: TouchReport, rulebook: Rulebook): Line[] {
  const { plural } = rulebook.space.unit
  const noticed = rulebook.solids.noticedGap
  const lines: Line[] = report.openings.map(({ width, height, passes, middle }) => ({
    status: passes ? 'clear' : 'risky',
    title: 'Way through',
    text:
      `${short(width)}${height === null ? ' wide' : ` × ${short(height)}`} ${plural}: ` +
      `${passes ? 'the figure passes' : 'closed to the figure'}`,
    place: middle,
  }))
  for (const { title, standsOff, getsInto, standsOffAt, getsIntoAt } of report.bodies) {
    const poor = Math.max(standsOff, getsInto) > noticed
    lines.push({
      status: poor ? 'note' : 'clear',
      title,
      text: `is stopped up to ${short(standsOff)} ${plural} off, gets up to ${short(getsInto)} in`,
      place: poor ? (standsOff > getsInto ? standsOffAt : getsIntoAt) : null,
    })
  }
  for (const { name, shape, surface, outside, inside, points, massKilograms } of report.solids) {
    lines.push({
      status: outside > noticed ? 'note' : surface === null ? 'risky' : 'clear',
      title: name,
      text:
        `${shape}, ${points} points, ` +
        `${surface ?? 'no surface kind'}${massKilograms === null ? '' : `, ${short(massKilograms)} kg`}: up to ` +
        `${short(outside)} outside, ${short(inside)} inside what is seen`,
      place: null,
    })
  }
  if (report.mass)
    lines.push({
      status: 'clear',
      title: 'Mass',
      text: `${short(report.mass.kilograms)} kg, its centre at ${report.mass.centre.map(short).join(', ')}`,
      place: report.mass.centre,
    })
  if (report.rest) {
    const { put, dropped } = report.rest
    lines.push({
      status: put.verdict === 'rests' ? 'clear' : 'note',
      title: 'Put down',
      text: verdicts[put.verdict],
      place: null,
    })
    lines.push({
      status: dropped.seconds === null || dropped.verdict === 'sinks' ? 'note' : 'clear',
      title: `Dropped from ${short(dropped.from)} ${plural}`,
      text:
        dropped.seconds === null
          ? verdicts[dropped.verdict]
          : `lies still after ${short(dropped.seconds)} s${dropped.verdict === 'topples' ? ', on its side' : ''}`,
      place: null,
    })
  }
  return lines
}
