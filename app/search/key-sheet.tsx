import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { X } from 'lucide-react'
import { keyGroups } from './keys'

/** All keys on one sheet. */
export function KeySheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} className="relative z-50">
      <div className="fixed inset-0 grid place-items-center bg-ink/30 p-6">
        <DialogPanel className="relative max-h-full w-full max-w-2xl overflow-y-auto rounded-xl border border-edge-strong bg-slip p-6">
          <DialogTitle className="font-heading text-[20px] font-[650]">Keys</DialogTitle>
          <button
            type="button"
            onClick={onClose}
            aria-label="Close"
            className="absolute top-5 right-5 rounded p-1 text-ink-2 hover:text-ink"
          >
            <X size={18} aria-hidden="true" />
          </button>
          <div className="mt-4 grid grid-cols-2 gap-x-8 gap-y-5">
            {keyGroups().map(({ title, keys }) => (
              <section key={title}>
                <h3 className="caption">{title}</h3>
                <dl className="mt-1 text-[13px]">
                  {keys.map(({ keys: pressed, does }) => (
                    <div key={pressed} className="flex justify-between gap-4 border-b border-dashed border-edge py-1">
                      <dt>{does}</dt>
                      <dd className="num shrink-0 text-ink-2">{pressed}</dd>
                    </div>
                  ))}
                </dl>
              </section>
            ))}
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  )
}
