import { Pause, Play, X } from 'lucide-react'
import type { ReactNode } from 'react'
import type { Rulebook } from '../../core/game/schema'
import { formatCount } from '../ui/format'
import type { Difference } from '../workers/messages'
import type { SceneData } from '../workers/scene-data'
import { shiftColour } from '../yard/shift-colours'
import { changeYardView, useYardView, type ShownLevel } from '../yard/yard-view'

const length = (value: number): string =>
  value === 0 ? '0' : value >= 10 ? value.toFixed(1) : value >= 0.1 ? value.toFixed(2) : value.toFixed(4)

function Bar({ label, children, onClose }: { label: string; children: ReactNode; onClose: () => void }) {
  return (
    <div
      role="group"
      aria-label={label}
      className="flex items-center gap-2.5 rounded-lg border border-edge-strong bg-slip px-3 py-1 text-[13px]"
    >
      {children}
      <button
        type="button"
        aria-label={`Put ${label.toLowerCase()} away`}
        onClick={onClose}
        className="rounded p-0.5 text-ink-2 hover:text-ink"
      >
        <X size={15} aria-hidden="true" />
      </button>
    </div>
  )
}

/** The levels of the item, each looked at from where the game switches to it; or all of them, played. */
export function LevelBar({ scene, rulebook }: { scene: SceneData; rulebook: Rulebook }) {
  const { level, playing } = useYardView()
  const count = (role: string, number: number): number =>
    scene.parts
      .filter((part) => part.role === role && (role !== 'level' || part.level === number))
      .reduce((sum, part) => sum + part.triangles, 0)
  const { chain } = rulebook.levels
  const shown: { level: ShownLevel; title: string; triangles: number }[] = [
    { level: 0, title: 'Near', triangles: count('part', 0) },
    ...chain.map((each) => ({
      level: each.level,
      title: `From ${each.fromDistance}`,
      triangles: count('level', each.level),
    })),
    { level: 'shadow' as const, title: 'Shadow', triangles: count('shadow', 0) },
  ]
  return (
    <Bar label="Levels" onClose={() => changeYardView({ level: 0, playing: false })}>
      {shown.map((each) => (
        <button
          key={each.level}
          type="button"
          aria-pressed={level === each.level}
          disabled={each.triangles === 0}
          onClick={() => changeYardView({ level: each.level, playing: false })}
          className={`chip ${level === each.level ? 'border-spruce bg-spruce-wash font-semibold' : ''}`}
        >
          {each.title} <span className="num">{formatCount(each.triangles)}</span>
        </button>
      ))}
      <button
        type="button"
        className="button px-2 py-0.5 text-[12.5px]"
        onClick={() => changeYardView({ playing: !playing, level: playing ? level : (chain[0]?.level ?? 0) })}
      >
        {playing ? <Pause size={14} aria-hidden="true" /> : <Play size={14} aria-hidden="true" />}{' '}
        {playing ? 'Stop' : 'Walk away and back'}
      </button>
    </Bar>
  )
}

const axes = ['X', 'Y', 'Z'] as const

/** What happens when a player stretches the thing: the game draws out each node about its own middle. */
export function StretchBar({ nodes }: { nodes: number }) {
  const { stretch } = useYardView()
  if (!stretch) return null
  return (
    <Bar label="Stretch" onClose={() => changeYardView({ stretch: null })}>
      <span>Stretched along</span>
      {axes.map((name, axis) => (
        <button
          key={name}
          type="button"
          aria-pressed={stretch.axis === axis}
          onClick={() => changeYardView({ stretch: { ...stretch, axis: axis as 0 | 1 | 2 } })}
          className={`chip ${stretch.axis === axis ? 'border-spruce bg-spruce-wash font-semibold' : ''}`}
        >
          {name}
        </button>
      ))}
      <input
        type="range"
        aria-label="How far it is stretched"
        min={1}
        max={3}
        step={0.05}
        value={stretch.factor}
        onChange={(event) => changeYardView({ stretch: { ...stretch, factor: Number(event.target.value) } })}
      />
      <span className="num w-[54px] whitespace-nowrap">× {stretch.factor.toFixed(2)}</span>
      <span className="text-ink-2">
        {nodes === 1 ? 'one node: it holds together' : `${nodes} nodes, each about its own middle`}
      </span>
    </Bar>
  )
}

/** What stands beside the item or in it, with both measures. */
export function CompanionBar({
  title,
  size,
  itemSize,
  unit,
  waiting,
  points,
}: {
  title: string
  size: readonly number[] | null
  itemSize: readonly number[]
  unit: string
  waiting: boolean
  /** Names of the item's attach points, on which it can be hung; none for what has no place of its own. */
  points: readonly string[]
}) {
  const { companion } = useYardView()
  if (!companion) return null
  const measure = (sides: readonly number[]): string => sides.map((side) => Number(side.toPrecision(3))).join(' × ')
  return (
    <Bar label="What stands beside" onClose={() => changeYardView({ companion: null })}>
      <span className="font-semibold">{title}</span>
      <span className="num">{waiting || !size ? '…' : measure(size)}</span>
      <span className="text-ink-2">
        item <span className="num text-ink">{measure(itemSize)}</span> {unit}
      </span>
      <button
        type="button"
        aria-pressed={companion.inside}
        onClick={() => changeYardView({ companion: { ...companion, inside: !companion.inside } })}
        className={`chip ${companion.inside ? 'border-spruce bg-spruce-wash font-semibold' : ''}`}
      >
        inside
      </button>
      {points.length > 0 && (
        <select
          aria-label="Hung on"
          className="field py-0.5"
          value={companion.hungOn ?? ''}
          onChange={(event) => changeYardView({ companion: { ...companion, hungOn: event.target.value || null } })}
        >
          <option value="">not hung</option>
          {points.map((point) => (
            <option key={point} value={point}>
              hung on {point}
            </option>
          ))}
        </select>
      )}
    </Bar>
  )
}

/** What the colours of the shift look mean, and how far the result lies from the source. */
export function ShiftLegend({ difference, unit }: { difference: Difference | null; unit: string }) {
  if (!difference)
    return (
      <p className="chip" role="status">
        Measuring how far the surface moved…
      </p>
    )
  const outline = Math.max(0, ...difference.outlines)
  return (
    <div
      role="group"
      aria-label="Shift"
      className="flex items-center gap-2.5 rounded-lg border border-edge-strong bg-slip px-3 py-1 text-[13px]"
    >
      <span className="num">0</span>
      <span
        className="h-3 w-24 rounded-sm border border-edge-strong"
        style={{ background: `linear-gradient(90deg, ${[0, 0.25, 0.5, 0.75, 1].map(shiftColour).join(', ')})` }}
        aria-hidden="true"
      />
      <span>
        <b className="num">{length(difference.worst)}</b> {unit} at worst
      </span>
      <span className="text-ink-2">
        <span className="num">{length(difference.mean)}</span> on average
      </span>
      <span
        className="text-ink-2"
        title={`From eight sides: ${difference.outlines.map((share) => `${(share * 100).toFixed(1)} %`).join(', ')}`}
      >
        outline changes by up to <span className="num">{(outline * 100).toFixed(1)} %</span>
      </span>
    </div>
  )
}

/** What the colours of solids mean. */
export function StandOutLegend({ most, unit }: { most: number; unit: string }) {
  return (
    <p className="chip flex items-center gap-2">
      <span className="num">
        {most} {unit} inside
      </span>
      <span
        aria-hidden="true"
        className="inline-block h-3 w-28 rounded border border-edge-strong"
        style={{ background: 'linear-gradient(to right, #2f4a61, #8ea6b8, #f3ead6, #d59a6a, #8e1b2c)' }}
      />
      <span className="num">
        outside {most} {unit}
      </span>
    </p>
  )
}
