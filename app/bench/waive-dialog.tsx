import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import type { FormEvent } from 'react'
import type { JudgedFinding } from '../../core/crate/waivers'

/** Asks why a finding is accepted; the reason is kept with the crate. */
export function WaiveDialog({ finding, onClose, onWaive }: { finding: JudgedFinding | null; onClose: () => void; onWaive: (reason: string) => Promise<void> }) {
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault()
    void onWaive(String(new FormData(event.currentTarget).get('reason')).trim())
  }
  return (
    <Dialog open={finding !== null} onClose={onClose} className="relative z-50">
      <div className="fixed inset-0 grid place-items-center bg-ink/30 p-6">
        <DialogPanel className="w-full max-w-md rounded-xl border border-edge-strong bg-slip p-6">
          <DialogTitle className="font-heading text-[20px] font-[650]">Accept “{finding?.title}”</DialogTitle>
          <p className="mt-2 text-ink-2">
            {finding?.message}. {finding?.severity === 'blocks' ? 'The loader refuses it all the same; waive it only if you know better than the rulebook.' : 'The loader goes on complaining; you will not be told again.'}
          </p>
          <form onSubmit={submit} className="mt-4 flex flex-col gap-4">
            <label className="flex flex-col gap-1">
              <span className="caption">Why it may stay</span>
              <textarea name="reason" className="field min-h-20 py-1.5" required minLength={3} maxLength={2000} autoFocus />
            </label>
            <div className="flex justify-end gap-2">
              <button type="button" className="button" onClick={onClose}>
                Cancel
              </button>
              <button type="submit" className="button-main">
                Waive it
              </button>
            </div>
          </form>
        </DialogPanel>
      </div>
    </Dialog>
  )
}
