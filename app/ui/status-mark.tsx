import type { Severity } from '../../core/rules/rule'

/** A status by shape and colour, with its word for those who hear the page. */
export type Status = Severity | 'clear' | 'idle'

export const statusWords: Record<Status, string> = {
  blocks: 'blocks',
  risky: 'risky',
  note: 'note',
  clear: 'clear',
  idle: 'not run',
}

export function StatusMark({ status, size = 11 }: { status: Status; size?: number }) {
  return (
    <span className="inline-flex shrink-0">
      <svg width={size} height={size} viewBox="0 0 12 12" aria-hidden="true">
        {status === 'blocks' && <rect x="1" y="1" width="10" height="10" fill="var(--color-block)" />}
        {status === 'risky' && <path d="M6 0.8 11.6 11H0.4z" fill="var(--color-risk-mark)" />}
        {status === 'note' && <circle cx="6" cy="6" r="4.3" fill="none" stroke="var(--color-note)" strokeWidth="2" />}
        {status === 'clear' && <circle cx="6" cy="6" r="5.4" fill="var(--color-clear-mark)" />}
        {status === 'idle' && (
          <circle cx="6" cy="6" r="4.6" fill="none" stroke="var(--color-edge-strong)" strokeWidth="1.6" />
        )}
      </svg>
      <span className="sr-only">{statusWords[status]}</span>
    </span>
  )
}
