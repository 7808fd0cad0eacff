import type { Crate } from '../../core/crate/schema'
import type { KeptCrate } from '../storage/stored-crate'
import { DialogFrame } from '../ui/dialog-frame'
import { formatAgo, plural } from '../ui/format'

export type TwiceAnswer = 'beside' | 'replace'

interface TwiceDialogProps {
  /** What came out of the file, and the crate of the same id on the shelf; null while nothing is asked. */
  question: { brought: Crate; kept: KeptCrate } | null
  onClose: () => void
  onAnswer: (answer: TwiceAnswer) => void
}

/** Asks what is to become of a crate on the shelf when a file says that it is the same one. */
export function TwiceDialog({ question, onClose, onAnswer }: TwiceDialogProps) {
  return (
    <DialogFrame
      open={question !== null}
      title="This crate is on the shelf already"
      action="Open it"
      onClose={onClose}
      onSubmit={(data) => onAnswer(data.get('answer') === 'replace' ? 'replace' : 'beside')}
    >
      {question && (
        <>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-[13.5px]">
            <dt className="text-ink-2">On the shelf</dt>
            <dd>
              <b>{question.kept.crate.name}</b>, {plural(question.kept.crate.items.length, 'item')}, kept{' '}
              {formatAgo(question.kept.savedAt, Date.now())}
            </dd>
            <dt className="text-ink-2">In the file</dt>
            <dd>
              <b>{question.brought.name}</b>, {plural(question.brought.items.length, 'item')}
            </dd>
          </dl>
          <fieldset className="flex flex-col gap-2">
            <legend className="sr-only">What is to happen</legend>
            <label className="flex gap-2">
              <input type="radio" name="answer" value="beside" defaultChecked />
              <span>
                <b className="font-semibold">Keep both</b>
                <span className="block text-[13px] text-ink-2">
                  The one from the file stands beside it as a new crate.
                </span>
              </span>
            </label>
            <label className="flex gap-2">
              <input type="radio" name="answer" value="replace" />
              <span>
                <b className="font-semibold">Replace the one on the shelf</b>
                <span className="block text-[13px] text-ink-2">Undo brings back what stands there now.</span>
              </span>
            </label>
          </fieldset>
        </>
      )}
    </DialogFrame>
  )
}
