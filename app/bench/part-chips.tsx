import { formatCount } from '../ui/format'
import type { ScenePart } from '../workers/scene-data'

const MOST_CHIPS = 24

/** The parts as chips in the yard; pointing at one shows where it is. */
export function PartChips({
  parts,
  dropped,
  selected,
  onSelect,
}: {
  parts: ScenePart[]
  dropped: string[]
  selected: string | null
  onSelect: (part: string | null) => void
}) {
  const drawn = parts.filter((part) => part.role === 'part')
  const gone = dropped.filter((name) => !drawn.some((part) => part.name === name))
  return (
    <ul aria-label="Parts" className="absolute bottom-3 left-3 z-10 flex max-w-[60%] flex-wrap gap-1.5">
      {drawn.slice(0, MOST_CHIPS).map((part) => (
        <li key={part.name}>
          <button
            type="button"
            aria-pressed={selected === part.name}
            onClick={() => onSelect(selected === part.name ? null : part.name)}
            className={`chip ${selected === part.name ? 'border-kraft bg-kraft-wash font-semibold' : 'hover:bg-white'}`}
          >
            {part.name} <span className="num">{formatCount(part.triangles)}</span>
          </button>
        </li>
      ))}
      {drawn.length > MOST_CHIPS && <li className="chip">and {drawn.length - MOST_CHIPS} more</li>}
      {gone.map((name) => (
        <li key={name} className="chip text-ink-2 line-through">
          {name}
          <span className="sr-only"> was left out</span>
        </li>
      ))}
    </ul>
  )
}
