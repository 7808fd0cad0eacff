import { formatCount } from '../ui/format'
import { changeYardView, type CompareMode } from '../yard/yard-view'

export interface ComparedState {
  steps: number
  title: string
}

interface CompareBarProps {
  states: readonly ComparedState[]
  mode: CompareMode
  left: number
  right: number
  wipe: number
  triangles: { left: number | null; right: number | null }
  waiting: boolean
}

const modes: { id: CompareMode; label: string }[] = [
  { id: 'wipe', label: 'Wipe' },
  { id: 'side', label: 'Side by side' },
  { id: 'flicker', label: 'Flicker' },
]

/** Which two states of the item are set against each other, and how. */
export function CompareBar({ states, mode, left, right, wipe, triangles, waiting }: CompareBarProps) {
  const change = (change: Partial<{ mode: CompareMode; left: number; right: number }>): void =>
    changeYardView({ compare: { mode, left, right, wipe, ...change } })
  const chooser = (side: 'left' | 'right', value: number, label: string) => (
    <label className="flex items-center gap-1.5">
      <span className="caption">{label}</span>
      <select
        className="field max-w-[150px] py-0.5 text-[12.5px]"
        value={value}
        onChange={(event) => change({ [side]: Number(event.target.value) })}
      >
        {states.map((state) => (
          <option key={state.steps} value={state.steps}>
            {state.title}
          </option>
        ))}
      </select>
      <span className="num text-[12px] text-ink-2">
        {triangles[side] === null ? '' : formatCount(triangles[side] ?? 0)}
      </span>
    </label>
  )
  return (
    <div
      role="group"
      aria-label="Comparison"
      className="absolute top-[46px] left-3 z-10 flex flex-wrap items-center gap-3 rounded-lg border border-edge-strong bg-slip px-3 py-1"
    >
      {chooser('left', left, 'Left')}
      {chooser('right', right, 'Right')}
      <div role="group" aria-label="How they are compared" className="flex gap-1">
        {modes.map((each) => (
          <button
            key={each.id}
            type="button"
            aria-pressed={mode === each.id}
            onClick={() => change({ mode: each.id })}
            className={`chip ${mode === each.id ? 'border-spruce bg-spruce-wash font-semibold' : ''}`}
          >
            {each.label}
          </button>
        ))}
      </div>
      {waiting && (
        <span role="status" className="text-[12px] text-ink-2">
          Fetching…
        </span>
      )}
    </div>
  )
}
