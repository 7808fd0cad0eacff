import { toast } from 'sonner'
import { plainMessage } from '../../core/support/plain-error'
import { BROWSER_STORE } from '../../core/support/wording'

/** Shows what went wrong in its own sentence; it stays until it is closed. */
export function tellError(error: unknown): void {
  if (error instanceof Error && error.name === 'StoppedError') return tell(error.message)
  const message = plainMessage(error)
  toast.error(message, {
    duration: Infinity,
    closeButton: true,
    ...(message.startsWith(`${BROWSER_STORE}:`) ? { action: { label: 'Make room', onClick: openKeptHere } } : {}),
  })
}

/** Where the shelf shows what this browser keeps. */
const openKeptHere = (): void => window.location.assign('/#kept-here')

export const tell = (message: string): void => {
  toast(message)
}

const MOST_TOLD = 3

/** Says which of several did not work; the others did. */
export function tellRefused(sentences: readonly string[]): void {
  const more = sentences.length > MOST_TOLD ? ` And ${sentences.length - MOST_TOLD} more.` : ''
  tellError(new Error(`${sentences.slice(0, MOST_TOLD).join(' ')}${more} The others came in.`))
}
