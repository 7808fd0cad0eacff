import type { JudgedFinding } from '../../core/crate/waivers'
import { DialogFrame } from '../ui/dialog-frame'

/** Asks why a finding is accepted; the reason is kept with the crate. */
export function WaiveDialog({
  findings,
  onClose,
  onWaive,
}: {
  findings: readonly JudgedFinding[]
  onClose: () => void
  onWaive: (reason: string) => Promise<void>
}) {
  const [finding] = findings as (JudgedFinding | undefined)[]
  return (
    <DialogFrame
      open={finding !== undefined}
      title={`Accept “${finding?.title ?? ''}”`}
      action="Waive it"
      onClose={onClose}
      onSubmit={(data) => void onWaive(String(data.get('reason')).trim())}
    >
      <p className="text-ink-2">
        {findings.length > 1 ? `${finding?.message}, and ${findings.length - 1} more of the kind` : finding?.message}.{' '}
        {finding?.severity === 'blocks'
          ? 'The loader refuses it all the same; waive it only if you know better than the rulebook.'
          : 'The loader goes on complaining; you will not be told again.'}
      </p>
      <label className="flex flex-col gap-1">
        <span className="caption">Why it may stay</span>
        <textarea name="reason" className="field min-h-20 py-1.5" required minLength={3} maxLength={2000} autoFocus />
      </label>
    </DialogFrame>
  )
}
