import { useVirtualizer } from '@tanstack/react-virtual'
import { useRef } from 'react'
import { NavLink, useParams } from 'react-router'
import type { Crate, CrateItem } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import { StatusMark } from '../ui/status-mark'
import { gameOf } from './game-of'
import { ItemPicture } from './item-picture'
import { runId, useItemRun } from '../queries/runs'
import { findingsOf, worstStatus } from './stage-status'

/** A row of the rail is this high. */
const ROW_PIXELS = 50

/** The crate's items at the left, each with its worst open finding; of many, those in sight are drawn. */
export function ItemRail({ crate }: { crate: Crate }) {
  const frame = useRef<HTMLDivElement>(null)
  const { itemId } = useParams()
  const at = crate.items.findIndex(({ id }) => id === itemId)
  const virtual = useVirtualizer({
    count: crate.items.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_PIXELS,
    getItemKey: (index) => crate.items[index].id,
    overscan: 4,
    initialOffset: Math.max(0, (at - 4) * ROW_PIXELS),
  })
  return (
    <nav aria-label="Items" className="flex min-w-0 flex-1 flex-col bg-paper p-2">
      <p className="caption flex justify-between px-1 pt-1 pb-1.5">
        <span>Items</span>
        <span className="num">{crate.items.length}</span>
      </p>
      <div ref={frame} className="relative min-h-0 overflow-y-auto">
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, key, start, size }) => (
            <div key={key} className="absolute inset-x-0" style={{ top: start, height: size }}>
              <RailItem crateId={crate.id} item={crate.items[index]} game={gameOf(crate)} />
            </div>
          ))}
        </div>
      </div>
      <NavLink to={`/crate/${crate.id}`} end className="link mt-3 px-1 text-[13px]">
        Whole crate
      </NavLink>
    </nav>
  )
}

function RailItem({ crateId, item, game }: { crateId: string; item: CrateItem; game: Game }) {
  const run = useItemRun(runId(crateId, item.id))
  return (
    <NavLink
      to={`/crate/${crateId}/item/${item.id}`}
      className={({ isActive }) =>
        'flex items-center gap-2 rounded-lg border px-1.5 py-1.5 ' +
        `${isActive ? 'border-edge-strong bg-slip' : 'border-transparent hover:bg-slip'}`
      }
    >
      <ItemPicture crateId={crateId} item={item} game={game} size={36} />
      <span className="min-w-0 flex-1 leading-tight">
        <b className="block truncate text-[13.5px] font-semibold">{item.name}</b>
        <span className="text-[12px] text-ink-2">{item.kind}</span>
      </span>
      <StatusMark status={worstStatus(findingsOf(item, run), Boolean(run?.evaluation))} />
    </NavLink>
  )
}
