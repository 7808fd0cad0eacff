import { Link } from 'react-router'
import type { KeptCrate } from '../storage/stored-crate'
import { gameOf } from '../crate/game-of'
import { ItemPicture } from '../crate/item-picture'
import { formatAgo, formatBytes, plural } from '../ui/format'

interface CrateCardProps {
  kept: KeptCrate
  /** What its sources and its pack take. */
  bytes: number
  onRemove: () => void
}

/** As many pictures as fit in a row. */
const MOST_SHOWN = 6

/** A crate on the shelf. Removing is one click, since it can be brought back. */
export function CrateCard({ kept: { crate, savedAt, damaged }, bytes, onRemove }: CrateCardProps) {
  return (
    <li className="relative flex min-h-40 flex-col rounded-xl border border-edge bg-slip p-5 shadow-[0_1px_0_var(--color-edge)] hover:border-spruce">
      <div className="absolute -top-px left-6 h-1.5 w-16 rounded-b bg-kraft" aria-hidden="true" />
      <h2 className="text-[20px]">
        <Link to={`/crate/${crate.id}`} className="after:absolute after:inset-0">
          {crate.name}
        </Link>
      </h2>
      <p className="text-ink-2">
        packs for {crate.rulebook.title} {crate.rulebook.version} · kept {formatAgo(savedAt, Date.now())}
      </p>
      {damaged > 0 && (
        <p className="mt-1 text-[13px] text-risk">
          {plural(damaged, 'piece')} of it cannot be read; the rest opens, and what cannot is set aside.
        </p>
      )}
      <div className="mt-4 flex gap-2">
        {crate.items.slice(0, MOST_SHOWN).map((item) => (
          <span key={item.id} title={`${item.name}, ${item.kind}`}>
            <ItemPicture crateId={crate.id} item={item} game={gameOf(crate)} size={54} />
          </span>
        ))}
        {crate.items.length > MOST_SHOWN && (
          <span className="num self-center text-[13px] text-ink-2">+{crate.items.length - MOST_SHOWN}</span>
        )}
      </div>
      <div className="mt-auto flex items-end justify-between pt-4 text-[13px]">
        <span className="num text-ink-2">
          {plural(crate.items.length, 'item')} · {formatBytes(bytes)}
        </span>
        <button type="button" className="button relative z-10" aria-label={`Remove ${crate.name}`} onClick={onRemove}>
          Remove
        </button>
      </div>
    </li>
  )
}
