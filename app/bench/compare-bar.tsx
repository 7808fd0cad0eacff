import { formatCount } from '../ui/format'
import type { SceneData } from '../workers/scene-data'
import { trianglesOf } from '../yard/yard-framing'
import { changeYardView, type CompareMode } from '../yard/yard-view'
import type { Compared } from './use-compared'

export interface ComparedState {
  steps: number
  title: string
}

interface CompareBarProps {
  compared: Compared
  states: readonly ComparedState[]
  /** What stands at the right in the meantime. */
  subject: SceneData | null
}

const modes: { id: CompareMode; label: string }[] = [
  { id: 'wipe', label: 'Wipe' },
  { id: 'side', label: 'Side by side' },
  { id: 'flicker', label: 'Flicker' },
]

/** Which two states of the item are set against each other, and how. */
export function CompareBar({ compared, states, subject }: CompareBarProps) {
  const { mode, left, right, wipe, other } = compared
  const triangles = { left: other ? trianglesOf(other.scene) : null, right: subject ? trianglesOf(subject) : null }
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
      className="flex flex-wrap items-center gap-3 rounded-lg border border-edge-strong bg-slip px-3 py-1"
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
      {(!other || !compared.shown) && (
        <span role="status" className="text-[12px] text-ink-2">
          Fetching…
        </span>
      )}
    </div>
  )
}
