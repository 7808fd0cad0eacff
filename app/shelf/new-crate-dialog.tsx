import { DialogFrame } from '../ui/dialog-frame'
import { tellError } from '../ui/notify'
import { chosenGame, GameFields } from './game-fields'
import type { GameChoice } from '../workers/source-messages'

interface NewCrateDialogProps {
  open: boolean
  onClose: () => void
  onCreate: (name: string, choice: GameChoice) => Promise<void>
}

/** Asks for a mod's name and the game that it is for. */
export function NewCrateDialog({ open, onClose, onCreate }: NewCrateDialogProps) {
  return (
    <DialogFrame
      open={open}
      title="New crate"
      action="Begin"
      onClose={onClose}
      onSubmit={(data) =>
        void chosenGame(data)
          .then((choice) => onCreate(String(data.get('name')), choice))
          .catch(tellError)
      }
    >
      <label className="flex flex-col gap-1">
        <span className="caption">Name of the mod</span>
        <input name="name" className="field py-1.5" required maxLength={200} autoFocus placeholder="Otterby Landing" />
      </label>
      <GameFields />
    </DialogFrame>
  )
}
