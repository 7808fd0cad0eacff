import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import type { FormEvent, ReactNode } from 'react'

interface DialogFrameProps {
  open: boolean
  title: string
  /** What the button that does it says. */
  action: string
  onClose: () => void
  onSubmit: (data: FormData) => void
  /** For tables and pictures. */
  wide?: boolean
  /** Whether it cannot be done yet. */
  disabled?: boolean
  children: ReactNode
}

/** A question that stands before the page: title, fields, Cancel and one thing to do. */
export function DialogFrame({
  open,
  title,
  action,
  onClose,
  onSubmit,
  wide = false,
  disabled = false,
  children,
}: DialogFrameProps) {
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault()
    onSubmit(new FormData(event.currentTarget))
  }
  return (
    <Dialog open={open} onClose={onClose} className="relative z-50">
      <div className="fixed inset-0 grid place-items-center bg-ink/30 p-6">
        <DialogPanel
          className={
            `max-h-full w-full overflow-y-auto ${wide ? 'max-w-3xl' : 'max-w-md'} rounded-xl border ` +
            'border-edge-strong bg-slip p-6'
          }
        >
          <DialogTitle className="font-heading text-[20px] font-[650]">{title}</DialogTitle>
          <form onSubmit={submit} className="mt-4 flex flex-col gap-4">
            {children}
            <div className="flex justify-end gap-2">
              <button type="button" className="button" onClick={onClose}>
                Cancel
              </button>
              <button type="submit" className="button-main" disabled={disabled}>
                {action}
              </button>
            </div>
          </form>
        </DialogPanel>
      </div>
    </Dialog>
  )
}
