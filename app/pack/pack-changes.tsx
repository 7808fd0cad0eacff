import type { FileChange } from '../../core/pack/pack-difference'
import type { LeftOut } from '../../core/pack/packed-file'
import { formatBytes, plural } from '../ui/format'

const words = { new: 'new', other: 'changed', gone: 'gone' } as const
const marks = { new: '+', other: '≠', gone: '−' } as const

/** What differs from the pack before, file by file. */
export function PackChanges({ changes }: { changes: readonly FileChange[] | null }) {
  return (
    <section aria-label="Since the pack before">
      <h2 className="text-[17px]">Since the pack before</h2>
      {changes === null ? (
        <p className="mt-1 text-[13px] text-ink-2">No pack of the crate is known before this one.</p>
      ) : changes.length === 0 ? (
        <p className="mt-1 text-[13px] text-ink-2">Every file is the same, byte for byte.</p>
      ) : (
        <ul className="mt-1 max-h-[150px] overflow-y-auto text-[13px]" tabIndex={0} aria-label="Changed files">
          {changes.map(({ path, change, before, after }) => (
            <li key={path} className="flex gap-2 border-b border-dashed border-edge py-0.5">
              <span className="num w-[74px] shrink-0">
                {marks[change]} {words[change]}
              </span>
              <span className="num min-w-0 flex-1 break-all">{path}</span>
              <span className="num shrink-0 text-ink-2">
                {[before, after].flatMap((bytes) => (bytes === null ? [] : formatBytes(bytes))).join(' → ')}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

/** What an item shows and the pack does not hold, and why. */
export function StayedOut({ leftOut }: { leftOut: readonly LeftOut[] }) {
  if (leftOut.length === 0) return null
  return (
    <section aria-label="What stayed out" className="mt-4">
      <h2 className="text-[17px]">What stayed out</h2>
      <p className="caption">{plural(leftOut.length, 'picture')}</p>
      <ul className="mt-1 max-h-[110px] overflow-y-auto text-[13px]" tabIndex={0} aria-label="What stayed out and why">
        {leftOut.map(({ what, item, why }) => (
          <li key={`${what} ${item} ${why}`} className="border-b border-dashed border-edge py-0.5">
            <span className="num">{what}</span>
            <span className="text-ink-2">
              {item === null ? '' : ` of ${item}`}: {why}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
