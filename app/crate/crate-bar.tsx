import { laterRulebook } from '../../core/game/load'
import { Link, useFetchers } from 'react-router'
import { formatAgo } from '../ui/format'
import { useUntaken } from '../ui/fields/use-draft'
import { TopBar } from '../ui/top-bar'
import { useKeeping } from './keeping'
import { runId, useRuns } from '../queries/runs'
import { findingsOf } from './stage-status'
import { useCrate } from './use-crate'

/** The head of every page of a crate. */
export function CrateBar() {
  const { crate, rulebook, savedAt, canUndo, canRedo, undo, redo } = useCrate()
  const later = laterRulebook(rulebook)
  // Every part of the page sends its own changes; all of them have to be kept.
  const saving = [useKeeping(), useFetchers().some(({ state }) => state !== 'idle')].includes(true)
  const untaken = useUntaken()
  const blocks = useRuns(
    ({ runs }) =>
      crate.items
        .flatMap((item) => findingsOf(item, runs[runId(crate.id, item.id)]))
        .filter((finding) => finding.severity === 'blocks' && finding.waived === null).length,
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
