import { laterRulebook } from '../../core/game/load'
import type { ReactNode } from 'react'
import { Link, useFetchers } from 'react-router'
import { formatAgo } from '../ui/format'
import { useUntaken } from '../ui/fields/use-draft'
import { TopBar } from '../ui/top-bar'
import { useKeeping } from './keeping'
import { countOpen } from '../../core/crate/waivers'
import { runId, useRuns } from '../queries/runs'
import { findingsOf } from './stage-status'
import { useCrate } from './use-crate'

/**
 * The head of every page of a crate.
 * @param keys buttons for the search and the keys
 */
export function CrateBar({ keys }: { keys: ReactNode }) {
  const { crate, rulebook, savedAt, canUndo, canRedo, undo, redo } = useCrate()
  const later = laterRulebook(rulebook)
  // Every part of the page sends its own changes; all of them have to be kept.
  const saving = [useKeeping(), useFetchers().some(({ state }) => state !== 'idle')].includes(true)
  const untaken = useUntaken()
  // An item that cannot be run at all has nothing to pack: it blocks as well.
  const blocks = useRuns(({ runs }) =>
    crate.items.reduce((sum, item) => {
      const run = runs[runId(crate.id, item.id)]
      return sum + (run?.state === 'failed' ? 1 : countOpen(findingsOf(item, run)).blocks)
    }, 0),
  )
  return (
    <TopBar
      actions={
        <>
          <span className="text-[13px] text-ink-2" role="status">
            {untaken
              ? 'Not kept yet: a field is being filled in'
              : saving
                ? 'Keeping…'
                : `Kept in this browser · ${formatAgo(savedAt, Date.now())}`}
          </span>
          {keys}
          <button type="button" className="button" onClick={undo} disabled={!canUndo}>
            Undo
          </button>
          <button type="button" className="button" onClick={redo} disabled={!canRedo}>
            Redo
          </button>
          <Link to={`/crate/${crate.id}/pack`} className="button-main">
            {blocks === 0 ? 'Pack' : `Pack — ${blocks} ${blocks === 1 ? 'block' : 'blocks'} left`}
          </Link>
        </>
      }
    >
      <Link to={`/crate/${crate.id}`} className="font-semibold hover:underline">
        {crate.name}
      </Link>{' '}
      packs for{' '}
      <Link to={`/crate/${crate.id}/rulebook`} className="font-semibold hover:underline">
        {rulebook.title}
      </Link>{' '}
      rulebook <span className="num">{rulebook.version}</span>
      {later && (
        <Link to={`/crate/${crate.id}/rulebook`} className="chip ml-1.5 align-middle">
          <span className="num">{later.version}</span> is there
        </Link>
      )}
    </TopBar>
  )
}
