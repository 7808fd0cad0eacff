import { useState } from 'react'
import { builtInRulebooks } from '../../core/game/load'
import { DialogFrame } from '../ui/dialog-frame'
import { tellError } from '../ui/notify'

/** A game to begin with: one that ships, or a file of the modder's own. */
export type GameChoice = { id: string } | { bytes: Uint8Array; name: string }

const OWN = 'a game of your own'

interface NewCrateDialogProps {
  open: boolean
  onClose: () => void
  onCreate: (name: string, choice: GameChoice) => Promise<void>
}

/** Asks for a mod's name and the game that it is for. */
export function NewCrateDialog({ open, onClose, onCreate }: NewCrateDialogProps) {
  const [chosen, setChosen] = useState(builtInRulebooks()[0].id)
  const begin = async (data: FormData): Promise<void> => {
    const name = String(data.get('name'))
    const file = data.get('file')
    if (chosen !== OWN) return onCreate(name, { id: chosen })
    if (!(file instanceof File) || file.size === 0) return tellError(new Error('Choose the rulebook’s file first.'))
    return onCreate(name, { bytes: new Uint8Array(await file.arrayBuffer()), name: file.name })
  }
  return (
    <DialogFrame open={open} title="New crate" action="Begin" onClose={onClose} onSubmit={(data) => void begin(data)}>
      <label className="flex flex-col gap-1">
        <span className="caption">Name of the mod</span>
        <input name="name" className="field py-1.5" required maxLength={200} autoFocus placeholder="Otterby Landing" />
      </label>
      <label className="flex flex-col gap-1">
        <span className="caption">Packs for</span>
        <select className="field py-1.5" value={chosen} onChange={(event) => setChosen(event.target.value)}>
          {builtInRulebooks().map((rulebook) => (
            <option key={rulebook.id} value={rulebook.id}>
              {rulebook.title} {rulebook.version}
            </option>
          ))}
          <option value={OWN}>Another game, from its rulebook file…</option>
        </select>
      </label>
      {chosen === OWN && (
        <label className="flex flex-col gap-1">
          <span className="caption">Rulebook file</span>
          <input
            name="file"
            type="file"
            accept=".json,.zip"
            required
            className="text-[13px] file:mr-2 file:rounded-md file:border file:border-edge-strong file:bg-slip file:px-2.5 file:py-1 file:font-semibold"
          />
          <span className="text-[13px] text-ink-2">
            A rulebook as JSON, or a ZIP with <span className="num">rulebook.json</span> and{' '}
            <span className="num">stock.zip</span>. It is kept in the crate.
          </span>
        </label>
      )}
    </DialogFrame>
  )
}
