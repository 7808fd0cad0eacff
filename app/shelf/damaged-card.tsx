import { TriangleAlert } from 'lucide-react'
import { asText, rawRecord } from '../storage/asides'
import type { DamagedCrate } from '../storage/stored-crate'
import { download } from '../ui/download'
import { tellError } from '../ui/notify'

interface DamagedCardProps {
  crate: DamagedCrate
  onGiveGame: () => void
  onRemove: () => void
}

/** A crate that cannot be opened as it is: why, and what can be done with it. */
export function DamagedCard({ crate: { id, name, reason, wantsGame }, onGiveGame, onRemove }: DamagedCardProps) {
  const save = async (): Promise<void> => {
    const text = asText(await rawRecord(id))
    download(new TextEncoder().encode(text), `${id}.damaged.json`, 'application/json')
  }
  return (
    <li className="flex min-h-40 flex-col rounded-xl border border-block bg-slip p-5">
      <h2 className="flex items-center gap-2 text-[20px]">
        <TriangleAlert size={18} className="shrink-0 text-block" aria-hidden="true" />
        <span className="truncate">{name}</span>
      </h2>
      <p className="mt-1 break-words text-ink-2">This crate cannot be read as it is: {reason}.</p>
      <div className="mt-auto flex flex-wrap gap-2 pt-4 text-[13px]">
        {wantsGame && (
          <button type="button" className="button-main" onClick={onGiveGame}>
            Give it a rulebook
          </button>
        )}
        <button type="button" className="button" onClick={() => void save().catch(tellError)}>
          Save what is kept as a file
        </button>
        <button type="button" className="button" onClick={onRemove}>
          Remove
        </button>
      </div>
    </li>
  )
}
