import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { useState } from 'react'
import { formatCount, plural } from '../ui/format'
import type { ScenePart } from '../workers/scene-data'

/** As many parts as stand in the yard by themselves; more are a list that opens. */
const MOST_CHIPS = 10
/** As many as are listed at once; typing finds the others. */
const MOST_LISTED = 200

interface PartChipsProps {
  parts: ScenePart[]
  dropped: string[]
  selected: string | null
  onSelect: (part: string | null) => void
}

/** The parts as chips in the yard; pointing at one shows where it is. */
export function PartChips({ parts, dropped, selected, onSelect }: PartChipsProps) {
  const drawn = parts.filter((part) => part.role === 'part')
  const gone = dropped.filter((name) => !drawn.some((part) => part.name === name))
  const few = drawn.length + gone.length <= MOST_CHIPS
  const chosen = drawn.find(({ name }) => name === selected)
  return (
    <ul
      aria-label="Parts"
      data-over-yard
      className="absolute bottom-3 left-3 z-10 flex max-w-[calc(100%-200px)] flex-wrap-reverse gap-1.5"
    >
      {!few && (
        <li>
          <PartList parts={drawn} dropped={gone} selected={selected} onSelect={onSelect} />
        </li>
      )}
      {(few ? drawn : chosen ? [chosen] : []).map((part) => (
        <li key={part.name}>
          <button
            type="button"
            aria-pressed={selected === part.name}
            onClick={() => onSelect(selected === part.name ? null : part.name)}
            className={
              'chip max-w-[220px] truncate ' +
              `${selected === part.name ? 'border-kraft bg-kraft-wash font-semibold' : 'hover:bg-white'}`
            }
          >
            {part.name} <span className="num">{formatCount(part.triangles)}</span>
          </button>
        </li>
      ))}
      {few &&
        gone.map((name) => (
          <li key={name} className="chip text-ink-2 line-through">
            {name}
            <span className="sr-only"> was left out</span>
          </li>
        ))}
    </ul>
  )
}

/** Many parts, found by typing. */
function PartList({ parts, dropped, selected, onSelect }: PartChipsProps) {
  const [typed, setTyped] = useState('')
  const found = parts.filter(({ name }) => name.toLowerCase().includes(typed.trim().toLowerCase()))
  return (
    <Popover>
      <PopoverButton className="chip font-semibold">
        {plural(parts.length, 'part')}
        {dropped.length > 0 ? `, ${dropped.length} left out` : ''} ▴
      </PopoverButton>
      <PopoverPanel
        anchor="top start"
        className="z-50 flex w-[280px] flex-col gap-1 rounded-lg border border-edge-strong bg-slip p-2 text-[13px] shadow-lg [--anchor-gap:6px]"
      >
        <input
          className="field"
          aria-label="Search the parts"
          placeholder="Name of a part"
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
        />
        <ul className="relative max-h-[260px] overflow-y-auto" aria-label="Parts found">
          {found.slice(0, MOST_LISTED).map((part) => (
            <li key={part.name}>
              <button
                type="button"
                aria-pressed={selected === part.name}
                onClick={() => onSelect(selected === part.name ? null : part.name)}
                className={
                  'flex w-full justify-between gap-2 rounded px-1.5 py-0.5 text-left hover:bg-spruce-wash ' +
                  `${selected === part.name ? 'bg-kraft-wash font-semibold' : ''}`
                }
              >
                <span className="truncate">{part.name}</span>
                <span className="num text-ink-2">{formatCount(part.triangles)}</span>
              </button>
            </li>
          ))}
          {found.length > MOST_LISTED && (
            <li className="px-1.5 text-ink-2">and {formatCount(found.length - MOST_LISTED)} more</li>
          )}
          {found.length === 0 && <li className="px-1.5 text-ink-2">No part is called so.</li>}
        </ul>
      </PopoverPanel>
    </Popover>
  )
}
