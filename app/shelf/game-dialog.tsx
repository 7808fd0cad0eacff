import { DialogFrame } from '../ui/dialog-frame'
import { tellError } from '../ui/notify'
import { chosenGame, GameFields } from './game-fields'
import type { GameChoice } from '../workers/source-messages'

/** A crate that needs a game to be opened, and what is wrong with its own. */
export interface WantsGame {
  name: string
  reason: string
}

interface GameDialogProps {
  question: WantsGame | null
  onClose: () => void
  onAnswer: (choice: GameChoice) => Promise<void>
}

/** Asks for a rulebook in the place of one that cannot be read. */
export function GameDialog({ question, onClose, onAnswer }: GameDialogProps) {
  return (
    <DialogFrame
      open={question !== null}
      title="This crate needs a rulebook"
      action="Open it"
      onClose={onClose}
      onSubmit={(data) => void chosenGame(data).then(onAnswer).catch(tellError)}
    >
      {question && (
        <p>
          <b className="font-semibold">{question.name}</b>: {question.reason}. Its items open with another rulebook; the
          one that cannot be read is set aside.
        </p>
      )}
      <GameFields />
    </DialogFrame>
  )
}
