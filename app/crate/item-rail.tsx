import { NavLink } from 'react-router'
import type { Crate, CrateItem } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import { StatusMark } from '../ui/status-mark'
import { gameOf } from './game-of'
import { ItemPicture } from './item-picture'
import { runId, useSettledRun } from '../queries/runs'
import { findingsOf, worstStatus } from './stage-status'

/** The crate's items at the left, each with its worst open finding. */
export function ItemRail({ crate }: { crate: Crate }) {
  return (
    <nav aria-label="Items" className="relative flex min-w-0 flex-1 flex-col overflow-y-auto bg-paper p-2">
      <p className="caption flex justify-between px-1 pt-1 pb-1.5">
        <span>Items</span>
        <span className="num">{crate.items.length}</span>
      </p>
      {crate.items.map((item) => (
        <RailItem key={item.id} crateId={crate.id} item={item} game={gameOf(crate)} />
      ))}
      <NavLink to={`/crate/${crate.id}`} end className="link mt-3 px-1 text-[13px]">
        Whole crate
      </NavLink>
    </nav>
  )
}

function RailItem({ crateId, item, game }: { crateId: string; item: CrateItem; game: Game }) {
  const run = useSettledRun(runId(crateId, item.id))
  return (
    <NavLink
      to={`/crate/${crateId}/item/${item.id}`}
      className={({ isActive }) =>
        `flex items-center gap-2 rounded-lg border px-1.5 py-1.5 ${isActive ? 'border-edge-strong bg-slip' : 'border-transparent hover:bg-slip'}`
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
