import { toast } from 'sonner'
import { plainMessage } from '../../core/support/plain-error'

/** Shows what went wrong in its own sentence; it stays until it is closed. */
export function tellError(error: unknown): void {
  if (error instanceof Error && error.name === 'StoppedError') return tell(error.message)
  toast.error(plainMessage(error), { duration: Infinity, closeButton: true })
}

export const tell = (message: string): void => {
  toast(message)
}
