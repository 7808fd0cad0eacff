import { Keyboard, Search } from 'lucide-react'
import { useEffect, useEffectEvent, useState } from 'react'
import { useParams } from 'react-router'
import { tinykeys } from 'tinykeys'
import { useCrate } from '../crate/use-crate'
import { CommandSearch } from './command-search'
import { KeySheet } from './key-sheet'
import { pageKeys, shownKeys } from './keys'

/** Where text is typed, keys are its own: undo takes back what was typed. */
const isTyping = ({ target }: Event): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(?:INPUT|TEXTAREA|SELECT)$/.test(target.tagName))

/** The keys of a crate's pages, their sheet, and the search; with a button for each. */
export function CrateKeys() {
  const { crate, canUndo, canRedo, undo, redo } = useCrate()
  const { itemId } = useParams()
  const [open, setOpen] = useState<'search' | 'sheet' | null>(null)
  const press = useEffectEvent((event: KeyboardEvent, what: 'undo' | 'redo' | 'search' | 'sheet') => {
    // A dialog that is open keeps its keys.
    if (document.querySelector('[role="dialog"][aria-modal="true"]')) return
    if (what !== 'search' && isTyping(event)) return
    event.preventDefault()
    if (what === 'undo') {
      if (canUndo) void undo()
    } else if (what === 'redo') {
      if (canRedo) void redo()
    } else setOpen(what)
  })
  useEffect(
    () =>
      tinykeys(window, {
        [pageKeys.undo]: (event) => press(event, 'undo'),
        ...Object.fromEntries(pageKeys.redo.map((keys) => [keys, (event: KeyboardEvent) => press(event, 'redo')])),
        [pageKeys.search]: (event) => press(event, 'search'),
        'Shift+?': (event) => press(event, 'sheet'),
        [pageKeys.sheet]: (event) => press(event, 'sheet'),
      }),
    [],
  )
  const item = crate.items.find(({ id }) => id === itemId) ?? null
  return (
    <>
      <button
        type="button"
        className="button flex items-center gap-1.5 px-2"
        title={`Search (${shownKeys(pageKeys.search)})`}
        onClick={() => setOpen('search')}
      >
        <Search size={15} aria-hidden="true" /> Search
      </button>
      <button type="button" className="button px-2" aria-label="Keys" title="Keys (?)" onClick={() => setOpen('sheet')}>
        <Keyboard size={16} aria-hidden="true" />
      </button>
      <CommandSearch open={open === 'search'} item={item} onClose={() => setOpen(null)} />
      <KeySheet open={open === 'sheet'} onClose={() => setOpen(null)} />
    </>
  )
}
