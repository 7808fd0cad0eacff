import { useState } from 'react'
import { useNavigate } from 'react-router'
import { rulebookText, startRulebookFrom } from '../../core/crate/game-file'
import type { Rulebook } from '../../core/game/schema'
import { TitleField } from './title-field'
import { gameIdFor } from './game-id'
import { useRulebooksChanged } from '../queries/rulebook-queries'
import { addRulebook } from '../storage/rulebooks'
import { DialogFrame } from '../ui/dialog-frame'
import { tellError } from '../ui/notify'

/** Begins a rulebook of one's own from another: everything as there, but for its name. */
export function StartDialog({ from, onClose }: { from: Rulebook | null; onClose: () => void }) {
  const navigate = useNavigate()
  const changed = useRulebooksChanged()
  const [title, setTitle] = useState('')
  const start = async (): Promise<void> => {
    if (!from) return
    try {
      const id = gameIdFor(title)
      const begun = startRulebookFrom(from, id, title.trim())
      const key = await addRulebook(id, rulebookText(begun), null)
      await changed()
      await navigate(`/rulebooks/${key}/edit`)
    } catch (error) {
      tellError(error)
    }
  }
  return (
    <DialogFrame
      open={from !== null}
      title={`Start from ${from?.title ?? ''}`}
      action="Start"
      disabled={title.trim() === ''}
      onClose={onClose}
      onSubmit={() => void start()}
    >
      <TitleField label="What your game is called" value={title} onChange={setTitle} />
      <p className="text-[13px] text-ink-2">
        It demands the same at first; then you change what your game has otherwise. What {from?.title} has in stock
        stays behind.
      </p>
    </DialogFrame>
  )
}
