import { useState } from 'react'
import type { RemovedCrate } from '../storage/crates'
import type { Usage } from '../storage/usage'
import { formatAgo, formatBytes } from '../ui/format'

interface KeptHereProps {
  usage: Usage
  removed: readonly RemovedCrate[]
  onBringBack: (id: string) => void
  onErase: (id: string) => void
  onClean: () => void
  onAskForLasting: () => void
}

/** What this browser keeps, what of it can go, and what was taken off the shelf. */
export function KeptHere({ usage, removed, onBringBack, onErase, onClean, onAskForLasting }: KeptHereProps) {
  const { madeAgain, used, allowed, lasting, crates } = usage
  return (
    <section aria-labelledby="kept-here" className="mt-12">
      <h2 id="kept-here" className="text-[17px]">
        Kept in this browser
      </h2>
      <dl className="mt-3 grid grid-cols-[auto_auto_1fr] items-baseline gap-x-5 gap-y-2 text-[13.5px]">
        <dt className="text-ink-2">Everything</dt>
        <dd className="num text-right">{used === null ? '–' : formatBytes(used)}</dd>
        <dd className="text-ink-2">{allowed === null ? '' : `of ${formatBytes(allowed)} that the browser allows`}</dd>
        <dt className="text-ink-2">Made again when needed</dt>
        <dd className="num text-right">{formatBytes(madeAgain)}</dd>
        <dd>
          <button type="button" className="button text-[13px]" disabled={madeAgain === 0} onClick={onClean}>
            Let it go
          </button>
        </dd>
        <dt className="text-ink-2">Lasting</dt>
        <dd className="text-right">{lasting ? 'yes' : 'no'}</dd>
        <dd>
          {lasting ? (
            <span className="text-ink-2">The browser does not clear it by itself.</span>
          ) : (
            <>
              <button type="button" className="button mr-2 text-[13px]" onClick={onAskForLasting}>
                Ask the browser to keep it
              </button>
              <span className="text-ink-2">It may clear it when the disk is full.</span>
            </>
          )}
        </dd>
      </dl>
      {removed.length > 0 && (
        <>
          <h3 className="mt-6 text-[14px]">Removed</h3>
          <p className="text-[13px] text-ink-2">They stay until their room is needed.</p>
          <ul className="mt-2 max-w-2xl">
            {removed.map(({ id, name, removedAt }) => (
              <RemovedRow
                key={id}
                name={name}
                removedAt={removedAt}
                bytes={crates[id] ?? 0}
                onBringBack={() => onBringBack(id)}
                onErase={() => onErase(id)}
              />
            ))}
          </ul>
        </>
      )}
    </section>
  )
}

interface RemovedRowProps extends Omit<RemovedCrate, 'id'> {
  bytes: number
  onBringBack: () => void
  onErase: () => void
}

/** A removed crate: back on the shelf at once, gone for good at the second click. */
function RemovedRow({ name, removedAt, bytes, onBringBack, onErase }: RemovedRowProps) {
  const [asking, setAsking] = useState(false)
  return (
    <li className="flex items-center gap-3 border-t border-dashed border-edge py-1.5 text-[13.5px]">
      <span className="min-w-0 flex-1 truncate">
        {name} <span className="text-ink-2">· removed {formatAgo(removedAt, Date.now())}</span>
      </span>
      <span className="num text-ink-2">{formatBytes(bytes)}</span>
      <button type="button" className="button" aria-label={`Bring ${name} back`} onClick={onBringBack}>
        Bring back
      </button>
      <button
        type="button"
        className="button"
        aria-label={asking ? `Erase ${name} for good` : `Erase ${name}`}
        onClick={() => (asking ? onErase() : setAsking(true))}
        onBlur={() => setAsking(false)}
      >
        {asking ? 'Erase for good' : 'Erase'}
      </button>
    </li>
  )
}
